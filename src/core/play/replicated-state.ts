import * as f from "../base/schema/forms.ts";
import { quickCheck } from "../base/schema/quick-check.ts";
import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import type { Session } from "./session.ts";

/** When something was changed, and by which session, for what is changed at the same time. */
interface Stamp {
  readonly time: number;
  readonly by: number;
}

const stamped = <T extends f.Form>(value: T) => f.looseObject({ time: f.number(), by: f.number(), value });
const ids = f.array(f.string());

const sharedSchema = f.looseObject({
  mantle: f.literal("shared-state/1"),
  catalog: f.string(),
  characters: f.array(stamped(f.unknown())),
  /** The ids of those that were removed. */
  removed: f.array(stamped(f.string())),
  /** How often cues were followed, which only grows and needs no stamp. */
  followed: f.record(f.string(), f.number(f.whole)),
  order: f.optional(stamped(f.looseObject({ order: ids, retired: ids }))),
  /** Who sits in each seat that was ever used. */
  seats: f.optional(stamped(f.array(f.tuple([f.number(f.whole, f.min(1)), f.nullable(f.string())])))),
});

/** What one session sends to the others: everything that was changed since they were opened. Plain data. */
export type SharedState = f.Valid<typeof sharedSchema>;
const hasForm = quickCheck(sharedSchema);
const isShared = (value: unknown): value is SharedState => hasForm(value);
type Order = NonNullable<SharedState["order"]>;
type Seats = NonNullable<SharedState["seats"]>;

export interface AgreementOptions {
  /** Milliseconds on a clock that all sessions share. */
  readonly now: () => number;
  /** A number above 0 that no other session has. */
  readonly by: number;
}

/**
 * What a session has agreed about with others of the same game.
 *
 * Each character, the order of the roster, and who sits where are registers whose last writer wins (M. Shapiro et al.,
 * "Conflict-free replicated data types", 2011), stamped by a clock that is never behind what it has received (S. Kulkarni et al.,
 * "Logical physical clocks", 2014). However late and in whatever order states arrive, sessions that received the same are the same.
 */
export class ReplicatedState {
  readonly #session: Session;
  readonly #options: AgreementOptions;
  /** What was read from the store counts as of now: what others changed before is in it. */
  readonly #opened: Stamp;
  readonly #seatNumbers = new Set<number>();
  readonly #stamps = new Map<string, Stamp>();
  #time = 0;
  #order: Order | undefined;
  #seats: Seats | undefined;
  /** As last seen, to notice what changed. */
  #seen: { characters: Map<string, Character>; order: string; seats: string; followed: string };

  constructor(session: Session, options: AgreementOptions) {
    this.#session = session;
    this.#options = options;
    this.#opened = { time: options.now(), by: 0 };
    this.#seen = this.#state();
  }

  /** Stamps what was changed here since it was last seen. Returns whether there is anything to send. */
  notice(): boolean {
    const { now, by } = this.#options;
    const stamp = { time: Math.max(now(), this.#time + 1), by };
    const seen = this.#seen;
    const found = this.#state();
    const changed = [...found.characters].filter(([id, character]) => seen.characters.get(id) !== character);
    const removed = [...seen.characters.keys()].filter((id) => !found.characters.has(id));
    for (const id of [...changed.map(([each]) => each), ...removed]) this.#stamps.set(id, stamp);
    if (found.order !== seen.order) this.#order = { ...stamp, value: orderOf(this.#session) };
    // Who is restored here does not come back to the seat that others would give them: that they do not is a change of seats, too.
    const isSeatedAnew =
      found.seats !== seen.seats ||
      (this.#seats !== undefined && found.seats !== JSON.stringify(this.#meant(this.#seats.value)));
    if (isSeatedAnew) this.#seats = { ...stamp, value: this.#seated() };
    const isAlike = found.order === seen.order && found.followed === seen.followed && removed.length === 0;
    if (isAlike && !isSeatedAnew && changed.length === 0) return false;
    this.#time = stamp.time;
    this.#seen = found;
    return true;
  }

  /** What to send to the others. */
  get shared(): SharedState {
    const stamps = [...this.#stamps].map(([id, stamp]) => ({ ...stamp, id, character: this.#seen.characters.get(id) }));
    const isThere = ({ character }: (typeof stamps)[number]) => character !== undefined;
    const characters = stamps.filter(isThere).map(({ time, by, character }) => ({ time, by, value: character }));
    const removed = stamps.filter((each) => !isThere(each)).map(({ time, by, id }) => ({ time, by, value: id }));
    const { catalog, cueCounts } = this.#session;
    return {
      mantle: "shared-state/1",
      catalog: catalog.id,
      characters,
      removed,
      followed: Object.fromEntries(cueCounts),
      order: this.#order,
      seats: this.#seats,
    };
  }

  /** Takes over what others changed later than it was changed here, as a whole. What is not understood, as from another game, is passed over. */
  receive(shared: unknown): void {
    if (isShared(shared) && shared.catalog === this.#session.catalog.id)
      this.#session.together(() => this.#takeOver(shared));
  }

  #takeOver({ characters, removed, followed, order, seats }: SharedState): void {
    this.#session.mergeCueCounts(new Map(Object.entries(followed)));
    this.#seen.followed = countsOf(this.#session);
    for (const { value, ...stamp } of characters) this.#receiveCharacter(value, stamp);
    for (const { value, ...stamp } of removed) this.#receiveRemoval(value, stamp);
    if (order !== undefined && isAfter(order, this.#order ?? this.#opened)) {
      this.#order = order;
      this.#time = Math.max(this.#time, order.time);
    }
    if (seats !== undefined && isAfter(seats, this.#seats ?? this.#opened)) {
      this.#seats = seats;
      this.#time = Math.max(this.#time, seats.time);
    }
    // Both are laid out anew, since either may have waited for a character that arrives only now.
    if (this.#order !== undefined) arrange(this.#session, this.#order.value);
    this.#seen.order = JSON.stringify(orderOf(this.#session));
    if (this.#seats !== undefined) this.#seen.seats = JSON.stringify(this.#seat(this.#seats.value));
  }

  #receiveCharacter(value: unknown, { time, by }: Stamp): void {
    const { character } = readCharacter(value);
    if (character === undefined || !isAfter({ time, by }, this.#stamps.get(character.id) ?? this.#opened)) return;
    const isNew = !this.#seen.characters.has(character.id);
    if (this.#session.isFull && isNew) return;
    this.#stamps.set(character.id, { time, by });
    this.#time = Math.max(this.#time, time);
    this.#seen.characters.set(character.id, character);
    if (isNew) this.#session.add(character);
    else this.#session.replace(character);
  }

  #receiveRemoval(id: string, { time, by }: Stamp): void {
    if (!isAfter({ time, by }, this.#stamps.get(id) ?? this.#opened)) return;
    this.#stamps.set(id, { time, by });
    this.#time = Math.max(this.#time, time);
    if (this.#seen.characters.delete(id)) this.#session.remove(id);
  }

  /** Seats everyone as received, but for who is retired meanwhile. Returns who is to sit where then. */
  #seat(received: Seats["value"]): Seats["value"] {
    const seated = this.#meant(received);
    const others = seated.filter(([number, id]) => this.#session.seat(number).character?.id !== id);
    // First everyone who leaves, so that no seat is in the way of another.
    for (const [number] of others) this.#session.seat(number).leave();
    for (const [number, id] of others) if (id !== null) this.#session.seat(number).take(id);
    return seated;
  }

  /** Who is to sit where, of those who are not retired. */
  #meant(received: Seats["value"]): Seats["value"] {
    for (const [number] of received) this.#seatNumbers.add(number);
    const isThere = new Set(this.#session.characters.map(({ id }) => id));
    const ids = new Map(received);
    return this.#seated().map(([number]) => {
      const id = ids.get(number) ?? null;
      return [number, id !== null && isThere.has(id) ? id : null];
    });
  }

  #seated(): Seats["value"] {
    for (const { number } of this.#session.seats) this.#seatNumbers.add(number);
    const numbers = [...this.#seatNumbers].toSorted((one, other) => one - other);
    return numbers.map((number) => [number, this.#session.seat(number).character?.id ?? null]);
  }

  #state() {
    const { characters, retired } = this.#session;
    return {
      characters: new Map([...characters, ...retired].map((character) => [character.id, character])),
      order: JSON.stringify(orderOf(this.#session)),
      seats: JSON.stringify(this.#seated()),
      followed: countsOf(this.#session),
    };
  }
}

function isAfter(one: Stamp, other: Stamp): boolean {
  return one.time > other.time || (one.time === other.time && one.by > other.by);
}

function countsOf({ cueCounts }: Session): string {
  return JSON.stringify([...cueCounts].sort());
}

function orderOf({ characters, retired }: Session): Order["value"] {
  return { order: characters.map(({ id }) => id), retired: retired.map(({ id }) => id) };
}

/** Retires, restores and orders as received; who is not named there comes last, by id. */
function arrange(session: Session, { order, retired }: Order["value"]): void {
  const aside = retired.filter((id) => [...session.characters, ...session.retired].some((each) => each.id === id));
  const isRetired = aside.every((id, at) => session.retired[at]?.id === id);
  if (!isRetired) for (const id of aside) session.retire(id);
  for (const { id } of session.retired) if (!retired.includes(id) && !session.isFull) session.restore(id);
  const ids = session.characters.map(({ id }) => id);
  const others = ids.filter((id) => !order.includes(id)).sort();
  for (const [place, id] of [...order.filter((each) => ids.includes(each)), ...others].entries())
    if (session.characters[place]?.id !== id) session.move(id, place);
}
