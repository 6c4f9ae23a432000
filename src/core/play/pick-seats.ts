import { EventQueue } from "../base/event-queue.ts";
import { type Cursor, openPicker, type Picker } from "./picker.ts";
import type { Session } from "./session.ts";

export interface PickSeatsOptions {
  /** How many stand in a row; see `openPicker`. */
  readonly columns?: number | (() => number);
  /** Seconds after which what is highlighted is picked; no limit when left out. */
  readonly limit?: number;
  /** Seconds between the last pick and the start, in which somebody may still come, or take theirs back. @defaultValue `0` */
  readonly pause?: number;
}

/** What a player pressed: a way, to pick, or back. */
export type PickPress = "left" | "right" | "up" | "down" | "act" | "back";

/** Several players at one machine who pick at once: the screen without a screen. */
export interface SeatPicking {
  /** The cursors; another one whenever characters came to the roster, or went. */
  readonly picker: Picker;
  /** Whether everyone sits, and it has started. */
  readonly hasStarted: boolean;
  /** A device was pressed. To act joins and then picks; back takes back and then leaves. Whether it was a player's here. */
  press(device: string, pressed: PickPress): boolean;
  /** A device points at a character: it joins where it has to, highlights, and pointed at again, picks. */
  point(device: string, id: string): void;
  /** Moves time on. @param seconds - since the last call. */
  tick(seconds: number): void;
  /** Calls a listener after each change. Returns what ends that. */
  on(event: "change", listener: () => void): () => void;
  /** Ends it, and all listening. Unless it has started, everyone sits where they sat again. */
  close(): void;
}

/**
 * Several players pick who they are, each with a seat of their own.
 *
 * Everyone stands up when it is opened; what is picked sits at once, so that those of one look are painted apart. When all have picked it
 * starts, once; closed before, it has changed nothing but who joined.
 *
 * @example
 * const picking = pickSeats(session, { columns: 4, pause: 3 })
 * controls.on("press", ({ device, action }) => picking.press(device, action))
 */
export function pickSeats(session: Session, { columns, limit, pause = 0 }: PickSeatsOptions = {}): SeatPicking {
  const before = seated(session);
  const queue = new EventQueue<{ change: undefined }>();
  let hasStarted = false;
  let isClosed = false;
  let stopPicker = () => {};

  const emitChange = () => queue.emit("change", undefined);
  const open = (): Picker => {
    const last = new Map([...before, ...seated(session)]);
    const picker = openPicker({
      entries: session.characters,
      exclusive: session.exclusive,
      pause,
      ...(columns === undefined ? {} : { columns }),
      ...(limit === undefined ? {} : { limit }),
    });
    session.together(() => standUp(session));
    for (const { number, device } of session.seats) if (device !== undefined) picker.join(number, last.get(number));
    stopPicker();
    stopPicker = picker.on("change", () => changed(picker));
    return picker;
  };
  const changed = (picker: Picker) => {
    if (picker.isOver && !hasStarted) {
      hasStarted = true;
      // Time may have picked for those who had not.
      seatAs(picker.picks);
    }
    emitChange();
  };
  const stopRoster = session.on("change", ({ kind }) => {
    if (kind !== "roster" || hasStarted) return;
    picker = open();
    emitChange();
  });
  let picker = open();

  /** Seats whom players picked, though the game, or another page, has seated them elsewhere meanwhile. */
  const seatAs = (picks: Iterable<readonly [seat: number, id: string]>) =>
    session.together(() => {
      for (const [number, id] of picks) {
        const others = session.exclusive ? session.seats.filter((each) => each.number !== number) : [];
        for (const other of others) if (other.character?.id === id) other.free();
        session.seat(number).take(id);
      }
    });
  const seatOf = (device: string) => session.seats.find((seat) => seat.device === device)?.number;
  const join = (device: string): boolean => {
    const seat = hasStarted ? undefined : session.join(device)?.number;
    if (seat !== undefined) picker.join(seat, new Map(before).get(seat));
    return seat !== undefined;
  };
  const confirm = (number: number) => {
    const { at, picked } = cursorOf(picker, number) ?? {};
    if (at === undefined || picked || picker.isOver) return;
    // It sits before the last pick starts it.
    seatAs([[number, at]]);
    if (!picker.confirm(number).ok) session.seat(number).free();
  };
  const backOut = (number: number, device: string) => {
    if (picker.isOver) return;
    if (picker.cancel(number)) session.seat(number).free();
    else {
      picker.leave(number);
      session.drop(device);
    }
    emitChange();
  };

  return {
    get picker() {
      return picker;
    },
    get hasStarted() {
      return hasStarted;
    },
    press(device, pressed) {
      if (isClosed) return false;
      const number = seatOf(device);
      if (number === undefined) return pressed === "act" && join(device);
      if (pressed === "act") confirm(number);
      else if (pressed === "back") backOut(number, device);
      else picker.move(number, pressed);
      return true;
    },
    point(device, id) {
      if (isClosed) return;
      if (seatOf(device) === undefined) join(device);
      const number = seatOf(device);
      if (number === undefined) return;
      if (cursorOf(picker, number)?.at === id) confirm(number);
      else picker.highlight(number, id);
    },
    tick: (seconds) => picker.tick(seconds),
    on: (event, listener) => queue.on(event, listener),
    close() {
      stopPicker();
      stopRoster();
      queue.clear();
      if (isClosed) return;
      isClosed = true;
      if (hasStarted) return;
      const here = new Set(session.characters.map(({ id }) => id));
      session.together(() => {
        standUp(session);
        for (const [number, id] of before) if (here.has(id)) session.seat(number).take(id);
      });
    },
  };
}

function standUp({ seats }: Session): void {
  for (const seat of seats) seat.free();
}

function seated({ seats }: Session): readonly (readonly [seat: number, id: string])[] {
  return seats.flatMap(({ number, character }) => (character === undefined ? [] : [[number, character.id] as const]));
}

function cursorOf(picker: Picker, seat: number): Cursor | undefined {
  return picker.cursors.find((each) => each.seat === seat);
}
