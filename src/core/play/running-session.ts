import { EventQueue } from "../base/event-queue.ts";
import { MantleError } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import { ownedToo } from "./follow-cue.ts";
import { CueFollower } from "./follow-cues.ts";
import { type FlushOptions, idIn, openWriting, type Profile, type Writing } from "./profile.ts";
import { Roster } from "./roster.ts";
import { Seating } from "./seating.ts";
import type { SessionEvents, SessionOptions, SessionUpdate, StoredElsewhere } from "./session.ts";
import type { World } from "./world.ts";

/** The state of a session: who there is and who sits where, what of it is stored, and the events of all that. */
export class RunningSession {
  readonly world: World;
  readonly queue = new EventQueue<SessionEvents>();
  readonly seating: Seating;
  readonly cues: CueFollower;
  readonly writing: Writing;
  readonly #overwrites: boolean;

  constructor(options: SessionOptions, { characters, arrangement, revisions, isArrangementDamaged }: Profile) {
    const { catalog, store, maxCharacters = Number.POSITIVE_INFINITY, exclusive = false, now } = options;
    const { order, retired, cueCounts } = arrangement;
    this.#overwrites = options.conflicts === "overwrite";
    this.world = {
      catalog,
      context: options.context ?? {},
      roster: new Roster(characters, order, retired, maxCharacters),
    };
    this.writing = openWriting(store, revisions, {
      character: (id) => this.world.roster.find(id),
      arrangement: () => this.#arrangement(),
    });
    const { queue } = this;
    const wasSeated = () => this.writing.arrangementChanged();
    const distinguishBy = knownChannels(catalog, options.distinguishBy ?? []);
    this.seating = new Seating(this.world, { queue, exclusive, distinguishBy, wasSeated }, arrangement);
    const cueOptions = {
      seating: this.seating,
      now,
      own: (parts: readonly string[]) => this.#own(parts),
      replace: (character: Character) => this.put(character),
      wasFollowed: () => this.wasArranged("cue"),
    };
    this.cues = new CueFollower(this.world, cueOptions, cueCounts);
    if (isArrangementDamaged) this.writing.arrangementChanged();
  }

  /** Puts a character in the roster, new or in the place of the one with its id. */
  put(character: Character): void {
    const { roster } = this.world;
    const before = roster.find(character.id);
    roster.put(character);
    this.writing.characterChanged(character.id);
    if (before === undefined) this.writing.arrangementChanged();
    this.queue.together(() => {
      if (before !== undefined && this.queue.hasListeners("character"))
        this.queue.emit("character", { id: character.id, changes: changesBetween(before, character) });
      this.queue.emit("change", { kind: before === undefined ? "roster" : "character" });
      this.seating.show(this.seating.seatsOf(character.id));
    });
  }

  /** Something of the profile that is not in a character has changed. */
  wasArranged(kind: "roster" | "cue"): void {
    this.writing.arrangementChanged();
    this.queue.emit("change", { kind });
  }

  /**
   * Takes over what another program stored.
   *
   * @param remove - takes a character out of the roster.
   */
  adopt({ key, revision, content }: StoredElsewhere, remove: (id: string) => void): void {
    const { roster } = this.world;
    this.queue.together(() => {
      const id = idIn(key) ?? "";
      const isKnown = roster.find(id) !== undefined;
      if (content === undefined && isKnown) remove(id);
      const { character } = readCharacter(content);
      if (character?.id === id && (isKnown || !roster.isFull)) this.put(character);
      // What was marked as changed by that is what is stored.
      this.writing.adopted(key, revision);
    });
  }

  update({ catalog = this.world.catalog, ...change }: SessionUpdate): void {
    const isOther = catalog !== this.world.catalog;
    this.world.catalog = catalog;
    this.world.context = { ...this.world.context, ...change };
    this.seating.judgeAnew(isOther);
  }

  on<Event extends keyof SessionEvents>(event: Event, listener: (value: SessionEvents[Event]) => void): () => void {
    // Who begins to listen knows how things are now.
    if ((event === "loadout" || event === "look" || event === "problems") && !this.queue.hasListeners(event))
      this.seating.begin(event);
    return this.queue.on(event, listener);
  }

  flush({ overwrite = this.#overwrites }: FlushOptions = {}): Promise<void> {
    return this.writing.flush({ overwrite });
  }

  /** What was given is owned from now on. */
  #own(parts: readonly string[]): void {
    const { context } = this.world;
    const more = ownedToo(context, parts);
    if (more.holdings === undefined) return;
    this.world.context = { ...context, ...more };
    this.seating.judgeAnew(false);
  }

  #arrangement() {
    const { seats, devices } = this.seating;
    return { seats, devices, ...this.world.roster.arrangement, cueCounts: this.cues.followed };
  }
}

function knownChannels(catalog: Catalog, wanted: string | readonly string[]): readonly string[] {
  const channels = typeof wanted === "string" ? [wanted] : wanted;
  for (const id of channels) {
    if (!catalog.channels.has(id))
      throw new MantleError("unknown-channel", `The catalog has no channel "${id}" to distinguish seats by.`);
  }
  return channels;
}
