/**
 * Variables in the order in which they took part in conflicts lately: a binary heap, the most active on top.
 *
 * N. Eén, N. Sörensson, "An extensible SAT-solver" (2003).
 */
export class Order {
  #activity: Float64Array;
  /** The heap, and by variable its place in it; -1 when it is not there. */
  #heap: Int32Array;
  #size: number;
  #place: Int32Array;
  #step = 1;

  /** All variables up to a number, none of them active. */
  constructor(variables: number) {
    this.#activity = new Float64Array(variables + 64);
    this.#heap = new Int32Array(variables + 64);
    this.#place = new Int32Array(variables + 64).fill(-1);
    this.#size = variables;
    for (let variable = 0; variable < variables; variable += 1) {
      this.#heap[variable] = variable;
      this.#place[variable] = variable;
    }
  }

  /** Takes in the variable that comes next. */
  add(variable: number): void {
    if (variable >= this.#place.length) {
      const place = new Int32Array(2 * variable).fill(-1);
      place.set(this.#place);
      this.#place = place;
      const activity = new Float64Array(2 * variable);
      activity.set(this.#activity);
      this.#activity = activity;
      const heap = new Int32Array(2 * variable);
      heap.set(this.#heap);
      this.#heap = heap;
    }
    this.push(variable);
  }

  push(variable: number): void {
    if ((this.#place[variable] as number) >= 0) return;
    this.#heap[this.#size] = variable;
    this.#size += 1;
    this.#rise(this.#size - 1);
  }

  pop(): number | undefined {
    if (this.#size === 0) return undefined;
    const heap = this.#heap;
    const top = heap[0] as number;
    this.#size -= 1;
    this.#place[top] = -1;
    if (this.#size === 0) return top;
    heap[0] = heap[this.#size] as number;
    this.#sink(0);
    return top;
  }

  /** A variable took part in a conflict. */
  bump(variable: number): void {
    const activity = (this.#activity[variable] as number) + this.#step;
    this.#activity[variable] = activity;
    if (activity > 1e100) {
      for (let each = 0; each < this.#activity.length; each += 1)
        this.#activity[each] = (this.#activity[each] as number) * 1e-100;
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
      if (child >= this.#size) break;
      const right = child + 1;
      if (
        right < this.#size &&
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
