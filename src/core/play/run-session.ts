import { editRoster } from "./edit-roster.ts";
import type { Profile } from "./profile.ts";
import { RunningSession } from "./running-session.ts";
import { seatObjects } from "./seat-objects.ts";
import type { Session, SessionOptions } from "./session.ts";

/**
 * Begins a session with what was read from its store.
 *
 * @param leave - called when the session is closed, with what resolves once all is stored.
 */
export function runSession(options: SessionOptions, profile: Profile, leave: (stored: Promise<void>) => void): Session {
  const { seats: seatCount = 8, exclusive = false } = options;
  const running = new RunningSession(options, profile);
  const { world, seating, cues, writing } = running;
  const { roster } = world;
  const seatAt = seatObjects(seating);
  const seatAtOrNone = (number: number | undefined) => (number === undefined ? undefined : seatAt(number));
  const edits = editRoster(world, {
    seating,
    put: (character) => running.put(character),
    arranged: () => running.wasArranged("roster"),
    removed: (id) => writing.characterRemoved(id),
  });

  return Object.freeze<Session>({
    get catalog() {
      return world.catalog;
    },
    get context() {
      return world.context;
    },
    problems: profile.problems,
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
    get cueCounts() {
      return cues.followed;
    },
    seat: seatAt,
    ...edits,
    isUnsaved: (id) => writing.isUnsaved(id),
    adopt: (save) => running.adopt(save, edits.remove),
    update: (change) => running.update(change),
    join: (device) => seatAtOrNone(seating.seatOfDevice(device) ?? seating.join(device, seatCount)),
    seatOf: (device) => seatAtOrNone(seating.seatOfDevice(device)),
    leave: (device) => seating.drop(device),
    signal: (more) => seating.signal(more),
    together: (change) => seating.together(change),
    mergeCueCounts(counts) {
      if (cues.recount(counts)) running.wasArranged("cue");
    },
    enterScene: () => cues.arrive(),
    raise: (word, payload = {}, { seat } = { seat: 1 }) => cues.raise(word, payload, seat),
    on: (event, listener) => running.on(event, listener),
    flush: (wanted) => running.flush(wanted),
    async close({ discard = false } = {}) {
      const stored = discard ? Promise.resolve() : running.flush();
      leave(stored);
      await stored;
    },
  });
}
