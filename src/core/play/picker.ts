import { EventQueue } from "../base/event-queue.ts";
import {
  type Cursor,
  type CursorOptions,
  Cursors,
  type Direction,
  type PickerEntry,
  type PickResult,
} from "./cursors.ts";

export interface PickerOptions extends CursorOptions {
  /** Seconds after which what is highlighted is picked, for those who have not; no limit when left out. */
  readonly limit?: number;
  /**
   * Seconds between the last pick and the end, in which somebody may still come, or take theirs back.
   *
   * @defaultValue `0`
   */
  readonly pause?: number;
}

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
  move(seat: number, way: Direction): void;
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
 * picker.confirm(1) // → { ok: true, id: "heron" }
 * picker.confirm(1) // → { ok: false, code: "over" }
 */
export function openPicker(options: PickerOptions): Picker {
  const { limit = Number.POSITIVE_INFINITY, pause = 0 } = options;
  const cursors = new Cursors(options);
  const queue = new EventQueue<{ change: undefined }>();
  let passed = 0;
  /** Seconds since everyone had picked; `undefined` while somebody has not. */
  let settled: number | undefined;
  let isOver = false;

  const emitChange = () => queue.emit("change", undefined);
  /** After what can make the picks complete, or incomplete again. */
  const settle = () => {
    settled = cursors.areAllPicked ? (settled ?? 0) : undefined;
    if (settled !== undefined && pause <= 0) isOver = true;
  };
  /** Does a change of who is here or what is picked; whether there was one. */
  const change = (isDone: () => boolean) => {
    if (isOver || !isDone()) return false;
    settle();
    emitChange();
    return true;
  };
  const look = (isMoved: () => boolean) => {
    if (!isOver && isMoved()) emitChange();
  };
  const end = () => {
    isOver = true;
    emitChange();
  };

  return {
    entries: options.entries,
    get cursors() {
      return cursors.all;
    },
    get isOver() {
      return isOver;
    },
    get remaining() {
      const left = settled === undefined ? limit - passed : Math.min(pause - settled, limit - passed);
      return isOver || cursors.all.length === 0 || left === Number.POSITIVE_INFINITY ? undefined : Math.max(0, left);
    },
    get picks() {
      return cursors.picks;
    },
    join: (seat, last) => void change(() => cursors.join(seat, last)),
    leave: (seat) => void change(() => cursors.leave(seat)),
    move: (seat, way) => look(() => cursors.move(seat, way)),
    highlight: (seat, id) => look(() => cursors.highlight(seat, id)),
    confirm(seat) {
      if (isOver) return { ok: false, code: "over" };
      const result = cursors.pick(seat);
      if (result.ok) change(() => true);
      return result;
    },
    cancel: (seat) => change(() => cursors.cancel(seat)),
    tick(seconds) {
      if (isOver || cursors.all.length === 0) return;
      passed += seconds;
      if (settled !== undefined) settled += seconds;
      if (settled !== undefined && settled >= pause) end();
      else if (passed >= limit) {
        cursors.pickForAll();
        end();
      }
    },
    on: (event, listener) => queue.on(event, listener),
  };
}
