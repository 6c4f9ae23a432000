/**
 * Variables in the order in which they took part in conflicts lately: a binary heap, the most active on top.
 *
 * N. Eén, N. Sörensson, "An extensible SAT-solver" (2003).
 */
export class Order {
  readonly #activity: number[] = [];
  /** The heap, and by variable its place in it; -1 when it is not there. */
  readonly #heap: number[] = [];
  readonly #place: number[] = [];
  #step = 1;

  /** Takes in a variable that is new. */
  add(variable: number, activity = 0): void {
    this.#activity[variable] = activity;
    this.#place[variable] = -1;
    this.push(variable);
  }

  push(variable: number): void {
    if ((this.#place[variable] as number) >= 0) return;
    this.#heap.push(variable);
    this.#rise(this.#heap.length - 1);
  }

  pop(): number | undefined {
    const heap = this.#heap;
    const [top] = heap;
    const last = heap.pop();
    if (top === undefined || last === undefined) return undefined;
    this.#place[top] = -1;
    if (last === top) return top;
    heap[0] = last;
    this.#sink(0);
    return top;
  }

  /** A variable took part in a conflict. */
  bump(variable: number): void {
    const activity = (this.#activity[variable] as number) + this.#step;
    this.#activity[variable] = activity;
    if (activity > 1e100) {
      for (let each = 0; each < this.#activity.length; each += 1)
        this.#activity[each] = (this.#activity[each] ?? 0) * 1e-100;
      this.#step *= 1e-100;
    }
    const place = this.#place[variable] as number;
    if (place >= 0) this.#rise(place);
  }

  /** A conflict is over: what took part in earlier ones counts a little less from now on. */
  decay(): void {
    this.#step /= 0.95;
  }

  #rise(at: number): void {
    const heap = this.#heap;
    const variable = heap[at] as number;
    const activity = this.#activity[variable] as number;
    let place = at;
    while (place > 0) {
      const parent = (place - 1) >> 1;
      const above = heap[parent] as number;
      if ((this.#activity[above] as number) >= activity) break;
      heap[place] = above;
      this.#place[above] = place;
      place = parent;
    }
    heap[place] = variable;
    this.#place[variable] = place;
  }

  #sink(at: number): void {
    const heap = this.#heap;
    const variable = heap[at] as number;
    const activity = this.#activity[variable] as number;
    let place = at;
    for (;;) {
      let child = 2 * place + 1;
      if (child >= heap.length) break;
      const right = child + 1;
      if (
        right < heap.length &&
        (this.#activity[heap[right] as number] as number) > (this.#activity[heap[child] as number] as number)
      )
        child = right;
      const below = heap[child] as number;
      if ((this.#activity[below] as number) <= activity) break;
      heap[place] = below;
      this.#place[below] = place;
      place = child;
    }
    heap[place] = variable;
    this.#place[variable] = place;
  }
}
