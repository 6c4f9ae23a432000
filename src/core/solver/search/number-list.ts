/** Numbers in one array that only grows: a plain list that is filled and emptied at every conflict takes new memory each time. */
export class NumberList {
  /** The first `size` of them count. */
  items = new Float64Array(256);
  size = 0;

  push(item: number): void {
    if (this.size === this.items.length) {
      const items = new Float64Array(2 * this.size);
      items.set(this.items);
      this.items = items;
    }
    this.items[this.size] = item;
    this.size += 1;
  }

  /** Makes it have these alone. */
  set(items: readonly number[]): void {
    this.size = 0;
    for (let at = 0; at < items.length; at += 1) this.push(items[at] as number);
  }
}
