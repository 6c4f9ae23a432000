import { EventQueue } from "../base/event-queue.ts";
/** Something that can be picked. */
export interface PickerEntry {
  readonly id: string;
  /** Shown and passed by: a character that is not there yet. @defaultValue `true` */
  readonly isAvailable?: boolean;
}

export interface PickerOptions {
  readonly entries: readonly PickerEntry[];
  /** How many stand in a row, or a function that returns it where that changes; all of them in a list of one row when left out. */
  readonly columns?: number | (() => number);
  /** Goes on at the other end. @defaultValue `true` */
  readonly wrap?: boolean;
  /** What one has picked, no other can. @defaultValue `false` */
  readonly exclusive?: boolean;
  /** Seconds after which what is highlighted is picked, for those who have not; no limit when left out. */
  readonly limit?: number;
  /**
   * Seconds between the last pick and the end, in which somebody may still come, or take theirs back.
   *
   * @defaultValue `0`
   */
  readonly pause?: number;
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

/** A selection screen without a screen. */
export interface Picker {
  readonly entries: readonly PickerEntry[];
  /** By seat, in the order of seats. */
  readonly cursors: readonly Cursor[];
  /** Whether everyone who is here has picked; nothing can be changed then. */
  readonly isOver: boolean;
  /** Seconds until it is over by itself; `undefined` while no time runs. */
  readonly remaining: number | undefined;
  /** What was picked, by seat. */
  readonly picks: ReadonlyMap<number, string>;
  /** Somebody comes, late or not; highlights the first that can be picked, or what they had last. */
  join(seat: number, last?: string): void;
  leave(seat: number): void;
  /** Moves a cursor, past what cannot be picked; where there is nothing that way, it stays. */
  move(seat: number, way: "left" | "right" | "up" | "down"): void;
  /** Highlights an entry, as a pointer does. */
  highlight(seat: number, id: string): void;
  /** Picks what is highlighted. A second press does nothing. */
  confirm(seat: number): PickResult;
  /** Takes a pick back; `false` where there is none, so that the screen can be left. */
  cancel(seat: number): boolean;
  /** Moves time on. @param seconds - since the last call. */
  tick(seconds: number): void;
  /** Calls a listener after each change. Returns what ends that. */
  on(event: "change", listener: () => void): () => void;
}

/**
 * Opens a selection for any number of players at once.
 *
 * @example
 * const picker = openPicker({ entries: session.characters, columns: 4, exclusive: true })
 * picker.join(1)
 * picker.move(1, "right")
 * picker.confirm(1) // → { ok: true, id: "heron" }; a second call: { ok: false, code: "over" }
 */
export function openPicker(options: PickerOptions): Picker {
  const { entries, columns = Math.max(1, options.entries.length), wrap = true, exclusive = false } = options;
  const { limit = Number.POSITIVE_INFINITY, pause = 0 } = options;
  const cursors = new Map<number, { at: number; picked: boolean }>();
  const queue = new EventQueue<{ change: undefined }>();
  let passed = 0;
  /** Seconds since everyone had picked; `undefined` while somebody has not. */
  let settled: number | undefined;
  let isOver = false;

  const emitChange = () => queue.emit("change", undefined);
  const isAvailable = (at: number) => entries[at] !== undefined && entries[at].isAvailable !== false;
  const isTaken = (at: number, seat: number) =>
    exclusive && [...cursors].some(([other, cursor]) => other !== seat && cursor.picked && cursor.at === at);
  const isFree = (at: number, seat: number) => isAvailable(at) && !isTaken(at, seat);
  /** The first that can be picked, from a place on, around. */
  const firstFree = (from: number, seat: number) => {
    for (let step = 0; step < entries.length; step += 1) {
      const at = (from + step) % entries.length;
      if (isFree(at, seat)) return at;
    }
    return -1;
  };
  /** What is free again is looked at by whoever found nothing before. */
  const lookAgain = () => {
    for (const [seat, cursor] of cursors) if (cursor.at < 0) cursor.at = firstFree(0, seat);
  };
  const settle = () => {
    const isSettled = cursors.size > 0 && [...cursors.values()].every(({ picked }) => picked);
    settled = isSettled ? (settled ?? 0) : undefined;
    if (isSettled && pause <= 0) isOver = true;
  };
  const pick = (seat: number): PickResult => {
    const cursor = cursors.get(seat);
    const refused = (code: PickRefusal): PickResult => ({ ok: false, code });
    if (isOver) return refused("over");
    if (cursor === undefined) return refused("not-here");
    if (cursor.picked) return refused("picked-already");
    const entry = entries[cursor.at];
    if (entry === undefined || !isAvailable(cursor.at)) return refused("unavailable");
    if (isTaken(cursor.at, seat)) return refused("taken");
    cursor.picked = true;
    // Whoever looked at it looks at the next, so that nobody stands on what cannot be had.
    for (const [other, each] of cursors) {
      if (!each.picked && !isFree(each.at, other)) each.at = firstFree(Math.max(0, each.at), other);
    }
    settle();
    return { ok: true, id: entry.id };
  };

  return {
    entries,
    get cursors() {
      return [...cursors]
        .sort(([one], [other]) => one - other)
        .map(([seat, { at, picked }]) => ({ seat, at: entries[at]?.id, picked }));
    },
    get isOver() {
      return isOver;
    },
    get remaining() {
      const left = settled === undefined ? limit - passed : Math.min(pause - settled, limit - passed);
      return isOver || cursors.size === 0 || left === Number.POSITIVE_INFINITY ? undefined : Math.max(0, left);
    },
    get picks() {
      const picked = [...cursors].filter(([, cursor]) => cursor.picked);
      return new Map(picked.flatMap(([seat, { at }]) => (entries[at] ? [[seat, entries[at].id] as const] : [])));
    },
    join(seat, last) {
      if (isOver || cursors.has(seat)) return;
      const wanted = entries.findIndex(({ id }) => id === last);
      cursors.set(seat, { at: firstFree(Math.max(0, wanted), seat), picked: false });
      settle();
      emitChange();
    },
    leave(seat) {
      if (isOver || !cursors.delete(seat)) return;
      lookAgain();
      settle();
      emitChange();
    },
    move(seat, way) {
      const cursor = cursors.get(seat);
      if (isOver || cursor === undefined || cursor.picked) return;
      const grid = {
        count: entries.length,
        columns: Math.max(1, typeof columns === "number" ? columns : columns()),
        wrap,
      };
      const at = nextFree(Math.max(0, cursor.at), way, grid, (each) => isFree(each, seat));
      if (at === cursor.at || !isFree(at, seat)) return;
      cursor.at = at;
      emitChange();
    },
    highlight(seat, id) {
      const cursor = cursors.get(seat);
      const at = entries.findIndex((entry) => entry.id === id);
      if (isOver || cursor === undefined || cursor.picked || at === cursor.at || !isFree(at, seat)) return;
      cursor.at = at;
      emitChange();
    },
    confirm(seat) {
      const result = pick(seat);
      if (result.ok) emitChange();
      return result;
    },
    cancel(seat) {
      const cursor = cursors.get(seat);
      if (isOver || cursor?.picked !== true) return false;
      cursor.picked = false;
      lookAgain();
      settle();
      emitChange();
      return true;
    },
    tick(seconds) {
      if (isOver || cursors.size === 0) return;
      passed += seconds;
      if (settled !== undefined) settled += seconds;
      if (settled !== undefined && settled >= pause) {
        isOver = true;
        emitChange();
        return;
      }
      if (passed < limit) return;
      for (const seat of [...cursors.keys()].sort((one, other) => one - other)) pick(seat);
      // Who found nothing to pick is not waited for.
      for (const [seat, { picked }] of [...cursors]) if (!picked) cursors.delete(seat);
      isOver = true;
      emitChange();
    },
    on: (event, listener) => queue.on(event, listener),
  };
}

interface Grid {
  readonly count: number;
  readonly columns: number;
  readonly wrap: boolean;
}

/** The next place that way that is free, past those that are not; the same place where there is none. */
function nextFree(
  from: number,
  way: "left" | "right" | "up" | "down",
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
