/** Whole numbers in one array that only grows: it is filled and emptied at every conflict, and a plain list would take new memory each time. */
export class IntList {
  /** The first `size` of them count. */
  items = new Int32Array(256);
  size = 0;

  push(item: number): void {
    if (this.size === this.items.length) {
      const items = new Int32Array(2 * this.size);
      items.set(this.items);
      this.items = items;
    }
    this.items[this.size] = item;
    this.size += 1;
  }

  pop(): number | undefined {
    if (this.size === 0) return undefined;
    this.size -= 1;
    return this.items[this.size];
  }

  clear(): void {
    this.size = 0;
  }

  /** Makes it have these alone. */
  set(items: readonly number[]): void {
    this.size = 0;
    for (let at = 0; at < items.length; at += 1) this.push(items[at] as number);
  }
}
