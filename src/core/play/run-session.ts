import { EventQueue } from "../base/event-queue.ts";
import { MantleError } from "../base/problem.ts";
import { changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import { editRoster } from "./edit-roster.ts";
import { CueFollower } from "./follow-cues.ts";
import { type FlushOptions, idIn, openWriting, type Profile } from "./profile.ts";
import { Roster } from "./roster.ts";
import { seatObjects } from "./seat-objects.ts";
import { Seating } from "./seating.ts";
import type { Session, SessionEvents, SessionOptions, StoredElsewhere } from "./session.ts";

/**
 * Begins a session with what was read from its store.
 *
 * @param leave - called when the session is closed, with what resolves once all is stored.
 */
export function runSession(options: SessionOptions, profile: Profile, leave: (stored: Promise<void>) => void): Session {
  const { catalog, store, seats: seatCount = 8, maxCharacters = Number.POSITIVE_INFINITY } = options;
  const { exclusive = false, distinguishBy = [], now, conflicts = "refuse" } = options;
  const { characters, arrangement, revisions, problems } = profile;
  const channels = typeof distinguishBy === "string" ? [distinguishBy] : distinguishBy;
  for (const id of channels) {
    if (!catalog.channels.has(id))
      throw new MantleError("unknown-channel", `The catalog has no channel "${id}" to distinguish seats by.`);
  }
  const queue = new EventQueue<SessionEvents>();
  const roster = new Roster(characters, arrangement.order, arrangement.retired, maxCharacters);
  /** What everything is judged by: another object after an update. */
  const world = { catalog, roster, context: options.context ?? {} };
  const seating = new Seating(
    Object.assign(world, { queue, exclusive, distinguishBy: channels, wasSeated: () => writing.arrangementChanged() }),
    arrangement,
  );
  const writing = openWriting(store, revisions, {
    character: (id) => roster.find(id),
    arrangement: () => ({
      seats: seating.seats,
      devices: seating.devices,
      ...roster.arrangement,
      cueCounts: cues.followed,
    }),
  });

  if (profile.isArrangementDamaged) writing.arrangementChanged();
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
  const arranged = () => {
    writing.arrangementChanged();
    queue.emit("change", { kind: "roster" });
  };
  const wasFollowed = () => {
    writing.arrangementChanged();
    queue.emit("change", { kind: "cue" });
  };
  const cues = new CueFollower(
    Object.assign(world, { seating, now, replace: put, wasFollowed }),
    arrangement.cueCounts,
  );

  const seatAt = seatObjects(seating);
  const edits = editRoster(
    Object.assign(world, { seating, put, arranged, removed: (id: string) => writing.characterRemoved(id) }),
  );
  const adopt = ({ key, revision, content }: StoredElsewhere) => {
    const id = idIn(key) ?? "";
    const isKnown = roster.find(id) !== undefined;
    if (content === undefined && isKnown) edits.remove(id);
    const { character } = readCharacter(content);
    if (character?.id === id && (isKnown || !roster.isFull)) put(character);
    // What was marked as changed by that is what is stored.
    writing.adopted(key, revision);
  };

  return Object.freeze<Session>({
    get catalog() {
      return world.catalog;
    },
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
    ...edits,
    isUnsaved: (id) => writing.isUnsaved(id),
    adopt: (save) => queue.together(() => adopt(save)),
    update({ catalog: changed = world.catalog, ...change }) {
      const isOther = changed !== world.catalog;
      world.catalog = changed;
      world.context = { ...world.context, ...change };
      seating.judgeAnew(isOther);
    },
    join(device) {
      const number = seating.seatOfDevice(device) ?? seating.join(device, seatCount);
      return number === undefined ? undefined : seatAt(number);
    },
    leave: (device) => seating.drop(device),
    signal: (more) => seating.signal(more),
    together: (change) => seating.together(change),
    get cueCounts() {
      return cues.followed;
    },
    mergeCueCounts(followed) {
      if (cues.recount(followed)) wasFollowed();
    },
    enterScene: () => cues.arrive(),
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
  });
}
