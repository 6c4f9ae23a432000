import { EventQueue } from "../base/event-queue.ts";
import type { Cursor } from "./cursors.ts";
import { openPicker, type Picker } from "./picker.ts";
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
 * Everyone stands up when it is opened; what is picked sits at once, so that those of one look are painted in different ramps. When all have picked it
 * starts, once; closed before, it has changed nothing but who joined.
 *
 * @example
 * const picking = pickSeats(session, { columns: 4, pause: 3 })
 * controls.on("press", ({ device, action }) => picking.press(device, action))
 */
export function pickSeats(session: Session, options: PickSeatsOptions = {}): SeatPicking {
  return new OpenPicking(session, options);
}

class OpenPicking implements SeatPicking {
  readonly #session: Session;
  readonly #options: PickSeatsOptions;
  /** Who sat where when it was opened. */
  readonly #before: readonly Seated[];
  readonly #queue = new EventQueue<{ change: undefined }>();
  readonly #stopRoster: () => void;
  #picker: Picker;
  #stopPicker = () => {};
  #hasStarted = false;
  #isClosed = false;

  constructor(session: Session, options: PickSeatsOptions) {
    this.#session = session;
    this.#options = options;
    this.#before = seated(session);
    this.#picker = this.#openPicker();
    this.#stopRoster = session.on("change", ({ kind }) => {
      if (kind !== "roster" || this.#hasStarted) return;
      this.#picker = this.#openPicker();
      this.#emitChange();
    });
  }

  get picker(): Picker {
    return this.#picker;
  }

  get hasStarted(): boolean {
    return this.#hasStarted;
  }

  press(device: string, pressed: PickPress): boolean {
    if (this.#isClosed) return false;
    const number = this.#seatOf(device);
    if (number === undefined) return pressed === "act" && this.#join(device);
    if (pressed === "act") this.#confirm(number);
    else if (pressed === "back") this.#backOut(number, device);
    else this.#picker.move(number, pressed);
    return true;
  }

  point(device: string, id: string): void {
    if (this.#isClosed) return;
    if (this.#seatOf(device) === undefined) this.#join(device);
    const number = this.#seatOf(device);
    if (number === undefined) return;
    if (cursorOf(this.#picker, number)?.at === id) this.#confirm(number);
    else this.#picker.highlight(number, id);
  }

  tick(seconds: number): void {
    this.#picker.tick(seconds);
  }

  on(event: "change", listener: () => void): () => void {
    return this.#queue.on(event, listener);
  }

  close(): void {
    this.#stopPicker();
    this.#stopRoster();
    this.#queue.clear();
    if (this.#isClosed) return;
    this.#isClosed = true;
    if (this.#hasStarted) return;
    const session = this.#session;
    const here = new Set(session.characters.map(({ id }) => id));
    session.together(() => {
      standUp(session);
      for (const [number, id] of this.#before) if (here.has(id)) session.seat(number).take(id);
    });
  }

  #emitChange(): void {
    this.#queue.emit("change", undefined);
  }

  /** A picker of the roster as it is now, with everyone who has a device. */
  #openPicker(): Picker {
    const session = this.#session;
    const last = new Map([...this.#before, ...seated(session)]);
    const picker = openPicker({ ...this.#options, entries: session.characters, exclusive: session.exclusive });
    session.together(() => standUp(session));
    for (const { number, device } of session.seats) if (device !== undefined) picker.join(number, last.get(number));
    this.#stopPicker();
    this.#stopPicker = picker.on("change", () => this.#changed(picker));
    return picker;
  }

  #changed(picker: Picker): void {
    if (picker.isOver && !this.#hasStarted) {
      this.#hasStarted = true;
      // Time may have picked for those who had not.
      this.#seatAs(picker.picks);
    }
    this.#emitChange();
  }

  /** Seats whom players picked, though the game, or another page, has seated them elsewhere meanwhile. */
  #seatAs(picks: Iterable<Seated>): void {
    const session = this.#session;
    session.together(() => {
      for (const [number, id] of picks) {
        const others = session.exclusive ? session.seats.filter((each) => each.number !== number) : [];
        for (const other of others) if (other.character?.id === id) other.leave();
        session.seat(number).take(id);
      }
    });
  }

  #seatOf(device: string): number | undefined {
    return this.#session.seats.find((seat) => seat.device === device)?.number;
  }

  #join(device: string): boolean {
    const seat = this.#hasStarted ? undefined : this.#session.join(device)?.number;
    if (seat !== undefined) this.#picker.join(seat, new Map(this.#before).get(seat));
    return seat !== undefined;
  }

  #confirm(number: number): void {
    const { at, picked } = cursorOf(this.#picker, number) ?? {};
    if (at === undefined || picked || this.#picker.isOver) return;
    // It sits before the last pick starts it.
    this.#seatAs([[number, at]]);
    if (!this.#picker.confirm(number).ok) this.#session.seat(number).leave();
  }

  #backOut(number: number, device: string): void {
    if (this.#picker.isOver) return;
    if (this.#picker.cancel(number)) this.#session.seat(number).leave();
    else {
      this.#picker.leave(number);
      this.#session.leave(device);
    }
    this.#emitChange();
  }
}

type Seated = readonly [seat: number, id: string];

function standUp({ seats }: Session): void {
  for (const seat of seats) seat.leave();
}

function seated({ seats }: Session): readonly Seated[] {
  return seats.flatMap(({ number, character }) => (character === undefined ? [] : [[number, character.id] as const]));
}

function cursorOf(picker: Picker, seat: number): Cursor | undefined {
  return picker.cursors.find((each) => each.seat === seat);
}
