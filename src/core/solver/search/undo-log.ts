/** What to go back to, the newest last, in one array that only grows. */
export class UndoLog {
  /** A kind, what it is about, and its old value, by threes; the first `size` numbers count. */
  items = new Float64Array(768);
  size = 0;

  push(kind: number, number: number, old: number): void {
    if (this.size === this.items.length) {
      const items = new Float64Array(2 * this.size);
      items.set(this.items);
      this.items = items;
    }
    this.items[this.size] = kind;
    this.items[this.size + 1] = number;
    this.items[this.size + 2] = old;
    this.size += 3;
  }
}
