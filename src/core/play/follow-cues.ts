import { type Message, message } from "../base/message.ts";
import { getOwn } from "../base/record.ts";
import type { Cue } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import {
  type CueMoment,
  type CueOutcome,
  type CuePayload,
  type CueRefusal,
  changeByCue,
  guardAgainst,
} from "./follow-cue.ts";
import type { Seating } from "./seating.ts";
import type { World } from "./world.ts";

export interface CueOptions {
  readonly seating: Seating;
  /** Seconds; without it no time passes. */
  readonly now: (() => number) | undefined;
  /** Parts were given, and are owned from now on. */
  readonly own: (parts: readonly string[]) => void;
  /** Puts a changed character in the place of the one with its id. */
  readonly replace: (character: Character) => void;
  /** A cue with an id was followed, which a save is to know. */
  readonly wasFollowed: () => void;
}

/** Follows the cues of a catalog, and counts how often. */
export class CueFollower {
  readonly #world: Readonly<World>;
  readonly #options: CueOptions;
  /** How often cues with an id were followed, by seat and id. */
  readonly #followed: Map<string, number>;
  /** How often others were, for as long as the session lasts: by seat and place in the catalog, which another catalog may fill otherwise. */
  readonly #passing = new Map<string, number>();
  readonly #last = new Map<string, number>();
  #arrived = Number.NEGATIVE_INFINITY;

  constructor(world: Readonly<World>, options: CueOptions, followed: ReadonlyMap<string, number>) {
    this.#world = world;
    this.#options = options;
    this.#followed = new Map(followed);
  }

  /** How often cues with an id were followed, for a save. */
  get followed(): ReadonlyMap<string, number> {
    return this.#followed;
  }

  /** Takes over greater counts. Whether there were any. */
  recount(followed: ReadonlyMap<string, number>): boolean {
    const greater = [...followed].filter(([key, count]) => count > (this.#followed.get(key) ?? 0));
    for (const [key, count] of greater) this.#followed.set(key, count);
    return greater.length > 0;
  }

  /** The grace of cues starts. */
  arrive(): void {
    this.#arrived = this.#now;
  }

  /** Follows all cues for a word, and those that they raise. */
  raise(word: string, facts: CuePayload, number: number): readonly CueOutcome[] {
    const outcomes: CueOutcome[] = [];
    for (const cue of this.#world.catalog.cues.get(word) ?? []) {
      const outcome = this.#follow(cue, number, facts);
      outcomes.push(outcome);
      if (!outcome.ok) continue;
      // The catalog is checked for words that raise themselves, so this comes to an end.
      for (const action of cue.does) if ("raise" in action) outcomes.push(...this.raise(action.raise, facts, number));
    }
    return outcomes;
  }

  #follow(cue: Cue, seat: number, facts: CuePayload): CueOutcome {
    const { roster } = this.#world;
    const { seating, replace, own, wasFollowed } = this.#options;
    const refused = (code: CueRefusal, because: Message, problems: readonly LoadoutProblem[] = []): CueOutcome => {
      return { cue, seat, ok: false, code, because, displaced: [], given: [], problems };
    };
    const character = seating.characterAt(seat);
    if (character === undefined) return refused("nobody", message("seat-empty", { seat }));
    const moment = this.#momentOf(cue, seat, character, facts);
    const against = guardAgainst(cue, moment);
    if (against !== undefined) return refused(...against);
    const control = cue.does.find((action) => "control" in action)?.control;
    const other = control === undefined ? undefined : String(getOwn(facts, control) ?? "");
    if (other !== undefined && (roster.find(other) === undefined || roster.isRetired(other)))
      return refused("refused", message("no-control", { id: other }));
    const result = changeByCue(cue, moment);
    if (!result.ok) return refused("refused", inOne(result.problems), result.problems);
    this.#note(cue, seat);
    try {
      seating.together(() => {
        own(result.given);
        if (result.character !== character) replace(result.character);
        for (const action of cue.does) if ("form" in action) seating.shape(seat, action.form ?? undefined);
        if (other !== undefined) seating.exchange(seat, other);
      });
    } finally {
      // Also when a listener breaks off: it was followed all the same.
      if (cue.id !== undefined) wasFollowed();
    }
    const { displaced, given } = result;
    return { cue, seat, ok: true, displaced, given, problems: [] };
  }

  /** Notes that a cue was followed, where something depends on that. */
  #note(cue: Cue, number: number): void {
    if (isCounted(cue)) {
      const counts = this.#countsOf(cue);
      const key = keyOf(cue, number);
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    if (cue.cooldown > 0) this.#last.set(keyOf(cue, number), this.#now);
  }

  get #now(): number {
    return this.#options.now?.() ?? 0;
  }

  #countsOf({ id }: Cue): Map<string, number> {
    return id === undefined ? this.#passing : this.#followed;
  }

  #momentOf(cue: Cue, number: number, character: Character, facts: CuePayload): CueMoment {
    const { catalog, context } = this.#world;
    return {
      catalog,
      character,
      context: { ...context, signals: this.#options.seating.signalsAt(number) },
      payload: facts,
      followed: isCounted(cue) ? (this.#countsOf(cue).get(keyOf(cue, number)) ?? 0) : 0,
      since: {
        followed:
          cue.cooldown > 0
            ? this.#now - (this.#last.get(keyOf(cue, number)) ?? Number.NEGATIVE_INFINITY)
            : Number.POSITIVE_INFINITY,
        arrival: this.#now - this.#arrived,
      },
      hasClock: this.#options.now !== undefined,
    };
  }
}

/** Several findings as one message. */
function inOne([first, ...others]: readonly LoadoutProblem[]): Message {
  if (first === undefined) throw new TypeError("A refusal has a reason");
  const { code, params, more = [] } = first;
  return { code, params, more: [...more, ...others.map(({ code, params, more = [] }) => ({ code, params, more }))] };
}

function isCounted({ id, times }: Cue): boolean {
  return id !== undefined || times !== Number.POSITIVE_INFINITY;
}

/** What a cue's count is kept under. */
function keyOf({ id, number }: Cue, seat: number): string {
  return id === undefined ? `${seat} #${number}` : `${seat} ${id}`;
}
