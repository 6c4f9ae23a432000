import type { EventQueue } from "../base/event-queue.ts";
import { getOrInsert } from "../base/get-or-insert.ts";
import { MantleError } from "../base/problem.ts";
import { changedKeys } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import type { Signal } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import type { Look } from "../look/look.ts";
import { distinctTints } from "./distinct-tints.ts";
import type { Arrangement } from "./profile.ts";
import { SeatPlace } from "./seat-place.ts";
import type { SessionEvents } from "./session.ts";
import type { World } from "./world.ts";

type Signals = Readonly<Record<string, Signal>>;

/** What an empty seat wears. */
const bare = {};

export interface SeatingOptions {
  readonly queue: EventQueue<SessionEvents>;
  readonly exclusive: boolean;
  readonly distinguishBy: readonly string[];
  /** Is called when who sits where has changed, for the next save. */
  readonly wasSeated: () => void;
}

/** Who sits where, how they look there, and the events of both. */
export class Seating {
  readonly #world: Readonly<World>;
  readonly #options: SeatingOptions;
  readonly #places = new Map<number, SeatPlace>();
  /** The seats of each character. */
  readonly #seatsOf = new Map<string, Set<number>>();
  /** Seats of which something may have changed since it was emitted last. */
  readonly #changed = new Set<number>();
  #signals: Signals = {};
  /** How many changes are under way, one within the other. */
  #changes = 0;

  /**
   * @param seats - who sits where to begin with; whoever is not in the roster, or retired, is left out.
   * @param devices - which was last where.
   */
  constructor(
    world: Readonly<World>,
    options: SeatingOptions,
    { seats, devices }: Pick<Arrangement, "seats" | "devices">,
  ) {
    this.#world = world;
    this.#options = options;
    for (const [number, device] of devices) if (isSeat(number)) this.placeOf(number).lastDevice = device;
    for (const [number, id] of seats) {
      const isThere = world.roster.find(id) !== undefined && !world.roster.isRetired(id);
      if (!isSeat(number) || !isThere) continue;
      this.placeOf(number).sit(id);
      getOrInsert(this.#seatsOf, id, () => new Set()).add(number);
    }
    this.show(this.#places.keys());
  }

  /** The numbers of seats that have a character or a device, in order. */
  get used(): readonly number[] {
    const used = [...this.#places].filter(([, { id, device }]) => id !== undefined || device !== undefined);
    return used.map(([number]) => number).sort((one, other) => one - other);
  }

  /** Who sits where, for a save. */
  get seats(): ReadonlyMap<number, string> {
    return new Map([...this.#places].flatMap(([number, { id }]) => (id === undefined ? [] : [[number, id]])));
  }

  /** Which device was last where, for a save. */
  get devices(): ReadonlyMap<number, string> {
    const places = [...this.#places];
    return new Map(
      places.flatMap(([number, { lastDevice }]) => (lastDevice === undefined ? [] : [[number, lastDevice]])),
    );
  }

  /** What the session's signals are. */
  get signals(): Signals {
    return this.#signals;
  }

  placeOf(number: number): SeatPlace {
    return getOrInsert(this.#places, number, () => new SeatPlace());
  }

  deviceOf(number: number): string | undefined {
    return this.#places.get(number)?.device;
  }

  seatOfDevice(device: string): number | undefined {
    return [...this.#places].find(([, place]) => place.device === device)?.[0];
  }

  characterAt(number: number): Character | undefined {
    return this.#world.roster.find(this.#places.get(number)?.id ?? "");
  }

  seatsOf(id: string): Iterable<number> {
    return this.#seatsOf.get(id) ?? [];
  }

  seatWith(id: string): number | undefined {
    return this.#seatsOf.get(id)?.values().next().value;
  }

  lookAt(number: number): Look | undefined {
    const character = this.characterAt(number);
    return character && this.#places.get(number)?.lookOf(this.#world.catalog, character, this.#signals);
  }

  /** What is wrong with what the one in a seat wears, as the game stands. */
  problemsAt(number: number): readonly LoadoutProblem[] {
    const character = this.characterAt(number);
    const place = this.#places.get(number);
    if (character === undefined || place === undefined) return [];
    const { catalog, context } = this.#world;
    return place.problemsOf(character, this.#signals, context, (signals) =>
      checkLoadout(catalog, character, { ...context, signals }),
    );
  }

  /** The signals a seat is judged by: its own before the session's. */
  signalsAt(number: number): Signals {
    return { ...this.#signals, ...this.#places.get(number)?.signals };
  }

  /** Puts somebody in a seat, or nobody; looks are shown by `show`. */
  sit(number: number, id: string | undefined): void {
    const place = this.placeOf(number);
    if (place.id === id) return;
    const before = this.characterAt(number);
    if (place.id !== undefined) this.#seatsOf.get(place.id)?.delete(number);
    if (id !== undefined) getOrInsert(this.#seatsOf, id, () => new Set()).add(number);
    place.sit(id);
    this.#changed.add(number);
    this.#emitSeat(number, before);
  }

  take(number: number, id: string): void {
    const { roster } = this.#world;
    roster.get(id);
    if (roster.isRetired(id)) throw new MantleError("retired", `"${id}" is retired. Restore them first.`);
    const other = this.seatWith(id);
    if (this.#options.exclusive && other !== undefined && other !== number)
      throw new MantleError("taken", `"${id}" sits in seat ${other} already.`);
    this.together(() => this.sit(number, id));
  }

  /** Frees a seat of its character. */
  free(number: number): void {
    this.together(() => this.sit(number, undefined));
  }

  /** Seats somebody, and whoever sat here where they sat: the seat stays the player's. */
  exchange(number: number, id: string): void {
    const other = this.seatWith(id);
    const own = this.#places.get(number)?.id;
    if (other !== undefined && other !== number) this.sit(other, own);
    this.sit(number, id);
  }

  /** Shows somebody in a form; without one, as the signals say. */
  shape(number: number, form: string | undefined): void {
    this.placeOf(number).form = form;
    this.#changed.add(number);
  }

  /** Gives a device the seat it had last, else the first that waits for none, else the first without one. */
  join(device: string, max: number): number | undefined {
    const free = Array.from({ length: max }, (_, at) => at + 1).filter((number) => this.deviceOf(number) === undefined);
    const lastAt = (number: number) => this.#places.get(number)?.lastDevice;
    const number =
      free.find((each) => lastAt(each) === device) ?? free.find((each) => lastAt(each) === undefined) ?? free[0];
    if (number === undefined) return undefined;
    Object.assign(this.placeOf(number), { device, lastDevice: device });
    this.#emitSeat(number, this.characterAt(number));
    return number;
  }

  drop(device: string): void {
    const number = this.seatOfDevice(device);
    if (number === undefined) return;
    this.together(() => {
      Object.assign(this.placeOf(number), { device: undefined, lastDevice: undefined });
      if (this.characterAt(number) === undefined) this.#emitSeat(number, undefined);
      else this.sit(number, undefined);
    });
  }

  /** Sets signals of the running game, for one seat or for all. */
  signal(more: Signals, number?: number): void {
    if (number === undefined) {
      const next = merged(this.#signals, more);
      if (next === this.#signals) return;
      this.#signals = next;
      this.show(this.#places.keys());
      return;
    }
    const place = this.placeOf(number);
    const next = merged(place.signals, more);
    if (next === place.signals) return;
    place.signals = next;
    this.show([number]);
  }

  /** Does a change as a whole: who sits where, and how they look then, is emitted once it is done. */
  together(change: () => void): void {
    this.#options.queue.together(() => {
      this.#changes += 1;
      try {
        change();
      } finally {
        this.#changes -= 1;
        this.show([]);
      }
    });
  }

  /**
   * Emits what is wrong in seats now that they are judged by something else.
   *
   * @param looksToo - emits all looks as well: their pictures may be others.
   */
  judgeAnew(looksToo: boolean): void {
    if (looksToo) for (const place of this.#places.values()) place.emittedKey = undefined;
    this.show(this.#places.keys());
  }

  /** Emits which seats look another way now, and what is wrong with them now. */
  show(numbers: Iterable<number>): void {
    for (const number of numbers) this.#changed.add(number);
    if (this.#changes > 0) return;
    const { catalog, roster } = this.#world;
    const { queue, distinguishBy } = this.#options;
    const all = distinguishBy.length === 0 ? [...this.#changed] : [...this.#places.keys()];
    this.#changed.clear();
    if (distinguishBy.length > 0)
      distinctTints(catalog, distinguishBy, [...this.#places.values()], (id) => roster.find(id));
    if (queue.hasListeners("loadout"))
      this.#emitLoadouts(all, (seat, loadout, slots) => queue.emit("loadout", { seat, loadout, slots }));
    if (queue.hasListeners("look")) this.#emitLooks(all, (seat, look) => queue.emit("look", { seat, look }));
    if (queue.hasListeners("problems"))
      this.#emitProblems(all, (seat, problems) => queue.emit("problems", { seat, problems }));
  }

  /** Takes how things are now as emitted, for whoever subscribes now. */
  begin(event: "loadout" | "look" | "problems"): void {
    const all = this.#places.keys();
    if (event === "loadout") this.#emitLoadouts(all, () => {});
    else if (event === "look") this.#emitLooks(all, () => {});
    else this.#emitProblems(all, () => {});
  }

  #emitSeat(seat: number, before: Character | undefined): void {
    this.#options.wasSeated();
    this.#options.queue.emit("seat", { seat, before, after: this.characterAt(seat) });
    this.#options.queue.emit("change", { kind: "seat" });
  }

  #emitLoadouts(
    numbers: Iterable<number>,
    emit: (number: number, loadout: Character["loadout"], slots: readonly string[]) => void,
  ): void {
    for (const number of inOrder(numbers)) {
      const place = this.placeOf(number);
      const loadout = this.characterAt(number)?.loadout ?? bare;
      const slots = changedKeys(place.emittedLoadout, loadout);
      place.emittedLoadout = loadout;
      if (slots.length > 0) emit(number, loadout, slots);
    }
  }

  #emitLooks(numbers: Iterable<number>, emit: (number: number, look: Look | undefined) => void): void {
    for (const number of inOrder(numbers)) {
      const place = this.placeOf(number);
      const look = this.lookAt(number);
      if (look?.key === place.emittedKey && look?.form === place.emittedForm) continue;
      place.emittedKey = look?.key;
      place.emittedForm = look?.form;
      emit(number, look);
    }
  }

  #emitProblems(numbers: Iterable<number>, emit: (number: number, problems: readonly LoadoutProblem[]) => void): void {
    for (const number of inOrder(numbers)) {
      const place = this.placeOf(number);
      const problems = this.problemsAt(number);
      const found =
        problems.length === 0
          ? ""
          : JSON.stringify(problems.map(({ code, place, params }) => [code, place.pointer, params]));
      if (found === place.emittedProblems) continue;
      place.emittedProblems = found;
      emit(number, problems);
    }
  }
}

function isSeat(number: number): boolean {
  return Number.isInteger(number) && number > 0;
}

function inOrder(numbers: Iterable<number>): readonly number[] {
  return [...numbers].sort((one, other) => one - other);
}

/** Signals with more of them; the same object when nothing differs. */
function merged(before: Signals, more: Signals): Signals {
  return Object.keys(more).every((id) => before[id] === more[id]) ? before : { ...before, ...more };
}
