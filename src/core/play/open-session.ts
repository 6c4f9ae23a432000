import type { Cue } from "../catalog/catalog.ts";
import { applyEdit } from "../character/apply-edit.ts";
import { changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import type { Signal } from "../character/context.ts";
import type { Look } from "../look/look.ts";
import { MantleError } from "../problem.ts";
import { recall } from "../recall.ts";
import { type CueFacts, type CueMoment, type CueOutcome, changeByCue, guardAgainst } from "./follow-cue.ts";
import { openWriting, readProfile } from "./profile.ts";
import { Roster } from "./roster.ts";
import { SeatPlace } from "./seat-place.ts";
import type { Seat, Session, SessionEvents, SessionOptions } from "./session.ts";
import { tintsApart } from "./tints-apart.ts";

/**
 * Opens the session kept in a store. Every scene makes this same call, and finds the same characters in the same seats.
 *
 * A damaged save is reported in `problems`, and the one before it is used.
 *
 * @example
 * const session = await openSession({ catalog, store })
 * const player = session.seat(1).character
 */
export async function openSession(options: SessionOptions): Promise<Session> {
  const { catalog, store, context = {}, seats: seatCount = 8, most = Number.POSITIVE_INFINITY } = options;
  const { exclusive = false, apart, now = () => 0 } = options;
  const { characters, arrangement, problems } = await readProfile(store);
  const roster = new Roster(characters, arrangement.order, arrangement.retired, most);
  const places = new Map<number, SeatPlace>();
  const followed = new Map(arrangement.followed);
  const lastFollowed = new Map<string, number>();
  const listeners: { [Name in keyof SessionEvents]: Set<(happened: SessionEvents[Name]) => void> } = {
    change: new Set(),
    seat: new Set(),
    character: new Set(),
    look: new Set(),
  };
  let signals: Readonly<Record<string, Signal>> = {};
  let arrived = Number.NEGATIVE_INFINITY;
  let isChanging = false;
  /** Seats that may look another way than was told. */
  const changed = new Set<number>();
  /** The seats of each character. */
  const seatsOf = new Map<string, Set<number>>();

  const writing = openWriting(store, {
    character: (id) => roster.find(id),
    arrangement: () => ({
      seats: new Map([...places].flatMap(([number, { id }]) => (id === undefined ? [] : [[number, id]]))),
      ...roster.arrangement,
      followed,
    }),
  });
  const tell = <Name extends keyof SessionEvents>(event: Name, happened: SessionEvents[Name]) => {
    for (const listener of [...listeners[event]]) listener(happened);
  };
  const placeOf = (number: number) => recall(places, number, () => new SeatPlace());
  const characterAt = (number: number) => roster.find(places.get(number)?.id ?? "");
  const lookAt = (number: number): Look | undefined => {
    const place = places.get(number);
    const character = characterAt(number);
    return character && place?.lookOf(catalog, character, signals);
  };
  const sayLooks = (numbers: Iterable<number>, say: (number: number, look: Look | undefined) => void) => {
    for (const number of [...numbers].sort((one, other) => one - other)) {
      const place = placeOf(number);
      const look = lookAt(number);
      if (look?.key === place.toldKey && look?.form === place.toldForm) continue;
      place.toldKey = look?.key;
      place.toldForm = look?.form;
      say(number, look);
    }
  };
  /** Whoever listens hears of the seats that look another way now, once a change is done as a whole. */
  const showLooks = (numbers: Iterable<number>) => {
    for (const number of numbers) changed.add(number);
    if (isChanging) return;
    const all = apart === undefined ? [...changed] : [...places.keys()];
    changed.clear();
    if (apart !== undefined) tintsApart(catalog, apart, [...places.values()], (id) => roster.find(id));
    if (listeners.look.size > 0) sayLooks(all, (number, look) => tell("look", { seat: number, look }));
  };
  const replace = (character: Character) => {
    const before = roster.find(character.id);
    roster.put(character);
    writing.characterChanged(character.id);
    if (before === undefined) writing.arrangementChanged();
    else tell("character", { id: character.id, changes: changesBetween(before, character) });
    tell("change", { kind: before === undefined ? "roster" : "character" });
    showLooks(seatsOf.get(character.id) ?? []);
  };
  const arrange = () => {
    writing.arrangementChanged();
    tell("change", { kind: "roster" });
  };
  const sit = (number: number, id: string | undefined) => {
    const place = placeOf(number);
    if (place.id === id) return;
    const before = characterAt(number);
    if (place.id !== undefined) seatsOf.get(place.id)?.delete(number);
    if (id !== undefined) recall(seatsOf, id, () => new Set()).add(number);
    place.sit(id);
    changed.add(number);
    writing.arrangementChanged();
    tell("seat", { seat: number, before, after: characterAt(number) });
    tell("change", { kind: "seat" });
  };
  const seatWith = (id: string): number | undefined => seatsOf.get(id)?.values().next().value;
  const take = (number: number, id: string) => {
    roster.get(id);
    if (roster.isRetired(id)) throw new MantleError("retired", `"${id}" is retired. Restore them first.`);
    const other = seatWith(id);
    if (exclusive && other !== undefined && other !== number)
      throw new MantleError("taken", `"${id}" sits in seat ${other} already.`);
    sit(number, id);
    showLooks([number]);
  };
  const merged = (before: Readonly<Record<string, Signal>>, more: Readonly<Record<string, Signal>>) =>
    Object.keys(more).every((id) => before[id] === more[id]) ? before : { ...before, ...more };

  const seat = (number: number): Seat => ({
    number,
    get device() {
      return places.get(number)?.device;
    },
    get character() {
      return characterAt(number);
    },
    get look() {
      return lookAt(number);
    },
    take: (id) => take(number, id),
    free() {
      sit(number, undefined);
      showLooks([number]);
    },
    signal(more) {
      const place = placeOf(number);
      const next = merged(place.signals, more);
      if (next === place.signals) return;
      place.signals = next;
      showLooks([number]);
    },
  });
  const seatObjects = new Map<number, Seat>();
  const seatAt = (number: number): Seat => {
    if (!Number.isInteger(number) || number < 1)
      throw new MantleError("bad-seat", `${number} is not a seat. Seats are numbered from 1.`);
    // Asked for each frame, so without a function made for the purpose.
    const known = seatObjects.get(number);
    if (known !== undefined) return known;
    const made = seat(number);
    seatObjects.set(number, made);
    return made;
  };

  const momentOf = (cue: Cue, number: number, character: Character, facts: CueFacts): CueMoment => {
    const key = keyOf(cue, number);
    return {
      catalog,
      character,
      context: { ...context, signals: { ...signals, ...places.get(number)?.signals } },
      facts,
      followed: followed.get(key) ?? 0,
      since: { followed: now() - (lastFollowed.get(key) ?? Number.NEGATIVE_INFINITY), arrival: now() - arrived },
    };
  };
  const follow = (cue: Cue, number: number, facts: CueFacts): CueOutcome => {
    const blank = { cue, seat: number, displaced: [], problems: [] };
    const refused = (code: CueOutcome["code"], because: string): CueOutcome => ({
      ...blank,
      done: false,
      code,
      because,
    });
    const character = characterAt(number);
    if (character === undefined) return refused("nobody", `Nobody sits in seat ${number}.`);
    const moment = momentOf(cue, number, character, facts);
    const against = guardAgainst(cue, moment);
    if (against !== undefined) return refused(...against);
    const control = cue.does.find((action) => "control" in action)?.control;
    const other = control === undefined ? undefined : String(facts[control] ?? "");
    if (other !== undefined && (roster.find(other) === undefined || roster.isRetired(other)))
      return refused("refused", `There is no character "${other}" to pass control to.`);
    const result = changeByCue(cue, moment);
    if (!result.ok) {
      const because = result.problems.map((problem) => problem.because).join(" ");
      return { ...refused("refused", because), problems: result.problems };
    }
    const key = keyOf(cue, number);
    followed.set(key, (followed.get(key) ?? 0) + 1);
    lastFollowed.set(key, now());
    if (cue.id !== undefined) writing.arrangementChanged();
    isChanging = true;
    try {
      if (result.character !== character) replace(result.character);
      for (const action of cue.does) if ("form" in action) placeOf(number).form = action.form ?? undefined;
      if (other !== undefined) passControl(number, other);
    } finally {
      // A listener that throws must not keep the others from hearing of looks ever after.
      isChanging = false;
    }
    showLooks([number]);
    return { ...blank, done: true, code: undefined, because: "", displaced: result.displaced };
  };
  /** The seat stays the player's; who sits in it is another now. */
  const passControl = (number: number, id: string) => {
    const other = seatWith(id);
    const own = places.get(number)?.id;
    if (other !== undefined && other !== number) sit(other, own);
    sit(number, id);
  };

  const raise = (word: string, facts: CueFacts, number: number): readonly CueOutcome[] =>
    (catalog.cues.get(word) ?? []).flatMap((cue) => {
      const outcome = follow(cue, number, facts);
      // The catalog is checked for words that raise themselves, so this comes to an end.
      const words = outcome.done ? cue.does.flatMap((action) => ("raise" in action ? [action.raise] : [])) : [];
      return [outcome, ...words.flatMap((next) => raise(next, facts, number))];
    });

  for (const [number, id] of arrangement.seats) {
    if (!Number.isInteger(number) || number < 1 || roster.find(id) === undefined) continue;
    placeOf(number).sit(id);
    recall(seatsOf, id, () => new Set()).add(number);
  }
  showLooks(places.keys());

  return {
    catalog,
    problems,
    get characters() {
      return roster.active;
    },
    get retired() {
      return roster.retired;
    },
    get isFull() {
      return roster.isFull;
    },
    get seats() {
      const used = [...places].filter(([, { id, device }]) => id !== undefined || device !== undefined);
      return used.map(([number]) => seatAt(number)).sort((one, other) => one.number - other.number);
    },
    seat: seatAt,
    keep: replace,
    duplicate(id) {
      const copy = roster.copyOf(catalog, id);
      replace(copy);
      return copy;
    },
    edit(id, edit) {
      const character = roster.get(id);
      const names = { ...context.names, taken: [...(context.names?.taken ?? []), ...roster.namesBeside(id)] };
      const result = applyEdit(catalog, character, edit, { ...context, signals, names });
      if (result.ok && result.character !== character) replace(result.character);
      return result;
    },
    retire(id) {
      roster.retire(id);
      for (const [number, place] of places) if (place.id === id) sit(number, undefined);
      arrange();
      showLooks([]);
    },
    restore(id) {
      roster.restore(id);
      arrange();
    },
    move(id, place) {
      roster.move(id, place);
      arrange();
    },
    join(device) {
      const own = [...places].find(([, place]) => place.device === device)?.[0];
      if (own !== undefined) return seatAt(own);
      for (let number = 1; number <= seatCount; number += 1) {
        const place = placeOf(number);
        if (place.device !== undefined) continue;
        place.device = device;
        const character = characterAt(number);
        tell("seat", { seat: number, before: character, after: character });
        tell("change", { kind: "seat" });
        return seatAt(number);
      }
      return undefined;
    },
    drop(device) {
      for (const [number, place] of places) {
        if (place.device !== device) continue;
        place.device = undefined;
        sit(number, undefined);
        tell("change", { kind: "seat" });
      }
      showLooks([]);
    },
    signal(more) {
      const next = merged(signals, more);
      if (next === signals) return;
      signals = next;
      showLooks(places.keys());
    },
    arrive() {
      arrived = now();
    },
    raise: (word, facts = {}, { seat: number } = { seat: 1 }) => raise(word, facts, number),
    on(event, listener) {
      // Who begins to listen knows how the seats look now.
      if (event === "look" && listeners.look.size === 0) sayLooks(places.keys(), () => {});
      listeners[event].add(listener);
      return () => listeners[event].delete(listener);
    },
    flush: writing.flush,
  };
}

/** What a cue's count is kept under; without an id, only as long as the session lasts. */
function keyOf({ id, number }: Cue, seat: number): string {
  return id === undefined ? `${seat} #${number}` : `${seat} ${id}`;
}
