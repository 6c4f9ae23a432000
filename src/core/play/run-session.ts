import { EventQueue } from "../base/event-queue.ts";
import { codesOf, MantleError } from "../base/problem.ts";
import { changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import { CueFollower } from "./follow-cues.ts";
import { type FlushOptions, openWriting, type Profile } from "./profile.ts";
import { Roster } from "./roster.ts";
import { Seating } from "./seating.ts";
import type { Seat, Session, SessionEvents, SessionOptions } from "./session.ts";

/**
 * Begins a session with what was read from its store.
 *
 * @param leave - called when the session is closed, with what resolves once all is stored.
 */
export function runSession(options: SessionOptions, profile: Profile, leave: (stored: Promise<void>) => void): Session {
  const { catalog, store, context = {}, seats: seatCount = 8, most = Number.POSITIVE_INFINITY } = options;
  const { exclusive = false, apart = [], now, conflicts = "refuse" } = options;
  const { characters, arrangement, revisions, problems } = profile;
  const channels = typeof apart === "string" ? [apart] : apart;
  for (const id of channels) {
    if (!catalog.channels.has(id))
      throw new MantleError("unknown-channel", `The catalog has no channel "${id}" to distinguish seats by.`);
  }
  const queue = new EventQueue<SessionEvents>();
  const roster = new Roster(characters, arrangement.order, arrangement.retired, most);
  const seating = new Seating(
    { catalog, context, roster, queue, exclusive, apart: channels, wasSeated: () => writing.arrangementChanged() },
    arrangement.seats,
  );
  const writing = openWriting(store, revisions, {
    character: (id) => roster.find(id),
    arrangement: () => ({ seats: seating.seats, ...roster.arrangement, followed: cues.followed }),
  });

  const flush = ({ overwrite = conflicts === "overwrite" }: FlushOptions = {}) => writing.flush({ overwrite });
  const put = (character: Character) => {
    const before = roster.find(character.id);
    roster.put(character);
    writing.characterChanged(character.id);
    if (before === undefined) writing.arrangementChanged();
    queue.together(() => {
      if (before !== undefined && queue.hasListeners("character"))
        queue.emit("character", { id: character.id, changes: changesBetween(before, character) });
      queue.emit("change", { kind: before === undefined ? "roster" : "character" });
      seating.show(seating.seatsOf(character.id));
    });
  };
  const arrange = () => {
    writing.arrangementChanged();
    queue.emit("change", { kind: "roster" });
  };
  const wasFollowed = () => {
    writing.arrangementChanged();
    queue.emit("change", { kind: "cue" });
  };
  const cues = new CueFollower(
    { catalog, context, roster, seating, now, replace: put, wasFollowed },
    arrangement.followed,
  );

  const seat = (number: number): Seat => ({
    number,
    get device() {
      return seating.deviceOf(number);
    },
    get character() {
      return seating.characterAt(number);
    },
    get look() {
      return seating.lookAt(number);
    },
    get problems() {
      return seating.problemsAt(number);
    },
    take: (id) => seating.take(number, id),
    free: () => seating.free(number),
    signal: (more) => seating.signal(more, number),
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

  return {
    catalog,
    problems,
    seatCount,
    exclusive,
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
      return seating.used.map(seatAt);
    },
    seat: seatAt,
    add(character) {
      requireForm(character);
      if (roster.find(character.id) !== undefined)
        throw new MantleError(
          "character-exists",
          `The roster has a character "${character.id}" already. Give this one another id, or replace that one.`,
        );
      put(character);
    },
    replace(character) {
      requireForm(character);
      roster.get(character.id);
      put(character);
    },
    duplicate(id) {
      const copy = roster.copyOf(catalog, id);
      put(copy);
      return copy;
    },
    edit(id, edit) {
      const character = roster.get(id);
      const names = { ...context.names, taken: [...(context.names?.taken ?? []), ...roster.namesBeside(id)] };
      const result = applyEdit(catalog, character, edit, { ...context, signals: seating.signals, names });
      if (result.ok && result.character !== character) put(result.character);
      return result;
    },
    retire(id) {
      roster.retire(id);
      seating.together(() => {
        for (const number of [...seating.seatsOf(id)]) seating.sit(number, undefined);
        arrange();
      });
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
      const number = seating.seatOfDevice(device) ?? seating.join(device, seatCount);
      return number === undefined ? undefined : seatAt(number);
    },
    drop: (device) => seating.drop(device),
    signal: (more) => seating.signal(more),
    together: (change) => seating.together(change),
    get followed() {
      return cues.followed;
    },
    recount(followed) {
      if (cues.recount(followed)) wasFollowed();
    },
    arrive: () => cues.arrive(),
    raise: (word, facts = {}, { seat: number } = { seat: 1 }) => cues.raise(word, facts, number),
    on(event, listener) {
      // Who begins to listen knows how things are now.
      if ((event === "loadout" || event === "look" || event === "problems") && !queue.hasListeners(event))
        seating.begin(event);
      return queue.on(event, listener);
    },
    flush,
    async close({ discard = false } = {}) {
      const stored = discard ? Promise.resolve() : flush();
      leave(stored);
      await stored;
    },
  };
}

/** What is kept must be what the next opening reads. */
function requireForm(character: Character): void {
  const { problems } = readCharacter(character);
  const [first] = problems;
  if (first !== undefined)
    throw new MantleError("not-a-character", `This cannot be kept. ${codesOf([first])}`, problems);
}
