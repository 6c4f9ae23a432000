/** Something that can be picked. */
export interface PickerEntry {
  readonly id: string;
  /** Shown and passed by: a character that is not there yet. @defaultValue `true` */
  readonly isAvailable?: boolean;
}

/** What is picked from, and how cursors move over it. */
export interface CursorOptions {
  readonly entries: readonly PickerEntry[];
  /** How many stand in a row, or a function that returns it where that changes; all of them in a list of one row when left out. */
  readonly columns?: number | (() => number);
  /** Goes on at the other end. @defaultValue `true` */
  readonly wrap?: boolean;
  /** What one has picked, no other can. @defaultValue `false` */
  readonly exclusive?: boolean;
}

/** Where somebody is with their picking. */
export interface Cursor {
  readonly seat: number;
  /** What is highlighted; `undefined` when there is nothing to pick. */
  readonly at: string | undefined;
  readonly picked: boolean;
}

/** Why a pick was not taken. */
export type PickRefusal = "not-here" | "unavailable" | "taken" | "picked-already" | "over";

export type PickResult =
  | { readonly ok: true; readonly id: string }
  | { readonly ok: false; readonly code: PickRefusal };

export type Direction = "left" | "right" | "up" | "down";

/** Where the players of a picker are: each at an entry, or at -1 where nothing is left for them, and whether it is picked. */
export class Cursors {
  readonly #options: CursorOptions;
  readonly #places = new Map<number, { at: number; picked: boolean }>();

  constructor(options: CursorOptions) {
    this.#options = options;
  }

  /** In the order of seats. */
  get all(): readonly Cursor[] {
    return [...this.#places]
      .sort(([one], [other]) => one - other)
      .map(([seat, { at, picked }]) => ({ seat, at: this.#options.entries[at]?.id, picked }));
  }

  get areAllPicked(): boolean {
    return this.#places.size > 0 && [...this.#places.values()].every(({ picked }) => picked);
  }

  get picks(): ReadonlyMap<number, string> {
    return new Map(this.all.flatMap(({ seat, at, picked }) => (picked && at !== undefined ? [[seat, at]] : [])));
  }

  /** @param last - the entry to begin at, if it is free. */
  join(seat: number, last: string | undefined): boolean {
    if (this.#places.has(seat)) return false;
    const wanted = this.#options.entries.findIndex(({ id }) => id === last);
    this.#places.set(seat, { at: this.#firstFree(Math.max(0, wanted), seat), picked: false });
    return true;
  }

  leave(seat: number): boolean {
    const wasHere = this.#places.delete(seat);
    this.#lookAgain();
    return wasHere;
  }

  move(seat: number, way: Direction): boolean {
    const { entries, columns = Math.max(1, entries.length), wrap = true } = this.#options;
    const shown = Math.max(1, typeof columns === "number" ? columns : columns());
    const grid = { count: entries.length, columns: shown, wrap };
    return this.#highlightAt(seat, (from) => nextFree(from, way, grid, (at) => this.#isFree(at, seat)));
  }

  highlight(seat: number, id: string): boolean {
    return this.#highlightAt(seat, () => this.#options.entries.findIndex((entry) => entry.id === id));
  }

  /** Picks what is highlighted. Whoever looks at it looks at the next, so that nobody is left at what cannot be had. */
  pick(seat: number): PickResult {
    const refused = (code: PickRefusal): PickResult => ({ ok: false, code });
    const cursor = this.#places.get(seat);
    if (cursor === undefined) return refused("not-here");
    if (cursor.picked) return refused("picked-already");
    const entry = this.#options.entries[cursor.at];
    if (entry === undefined || entry.isAvailable === false) return refused("unavailable");
    if (this.#isTaken(cursor.at, seat)) return refused("taken");
    cursor.picked = true;
    for (const [other, each] of this.#places) {
      if (!each.picked && !this.#isFree(each.at, other)) each.at = this.#firstFree(Math.max(0, each.at), other);
    }
    return { ok: true, id: entry.id };
  }

  /** Picks what everyone has highlighted; who has nothing to pick is not waited for. */
  pickForAll(): void {
    for (const { seat } of this.all) this.pick(seat);
    for (const [seat, { picked }] of [...this.#places]) if (!picked) this.#places.delete(seat);
  }

  cancel(seat: number): boolean {
    const cursor = this.#places.get(seat);
    if (cursor?.picked !== true) return false;
    cursor.picked = false;
    this.#lookAgain();
    return true;
  }

  #highlightAt(seat: number, find: (from: number) => number): boolean {
    const cursor = this.#places.get(seat);
    if (cursor === undefined || cursor.picked) return false;
    const at = find(Math.max(0, cursor.at));
    if (at === cursor.at || !this.#isFree(at, seat)) return false;
    cursor.at = at;
    return true;
  }

  #isTaken(at: number, seat: number): boolean {
    const { exclusive = false } = this.#options;
    return exclusive && [...this.#places].some(([other, each]) => other !== seat && each.picked && each.at === at);
  }

  #isFree(at: number, seat: number): boolean {
    const entry = this.#options.entries[at];
    return entry !== undefined && entry.isAvailable !== false && !this.#isTaken(at, seat);
  }

  /** The first that can be picked, from a place on, around; -1 where there is none. */
  #firstFree(from: number, seat: number): number {
    const { length } = this.#options.entries;
    for (let step = 0; step < length; step += 1) {
      const at = (from + step) % length;
      if (this.#isFree(at, seat)) return at;
    }
    return -1;
  }

  /** What is free again is highlighted by whoever found nothing before. */
  #lookAgain(): void {
    for (const [seat, cursor] of this.#places) if (cursor.at < 0) cursor.at = this.#firstFree(0, seat);
  }
}

interface Grid {
  readonly count: number;
  readonly columns: number;
  readonly wrap: boolean;
}

/** The next place that way that is free, past those that are not; the same place where there is none. */
function nextFree(
  from: number,
  way: Direction,
  { count, columns, wrap }: Grid,
  isFree: (at: number) => boolean,
): number {
  const rows = Math.ceil(count / columns);
  const isAcross = way === "left" || way === "right";
  const step = way === "left" || way === "up" ? -1 : 1;
  let [column, row] = [from % columns, Math.floor(from / columns)];
  for (let tries = 0; tries < Math.max(columns, rows); tries += 1) {
    if (isAcross) column += step;
    else row += step;
    const isOut = column < 0 || column >= columns || row < 0 || row >= rows;
    if (isOut && !wrap) return from;
    column = (column + columns) % columns;
    row = (row + rows) % rows;
    const at = row * columns + column;
    if (at < count && isFree(at)) return at;
  }
  return from;
}
