import type { Problem } from "../base/problem.ts";
import type { Catalog, CatalogIds, SignalsOf } from "../catalog/model/catalog.ts";
import type { Changes } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import type { Signal } from "../character/context.ts";
import type { Edit, EditResult, LoadoutProblem } from "../character/edit.ts";
import type { SolvingContext } from "../loadout/solver.ts";
import type { Look } from "../look/look.ts";
import type { Json } from "../save/json.ts";
import type { Store } from "../save/store.ts";
import type { CueOutcome, CuePayload } from "./follow-cue.ts";
import type { FlushOptions } from "./profile.ts";

export interface SessionOptions<Ids extends CatalogIds = CatalogIds> {
  /** The catalog by which characters are judged and drawn. */
  readonly catalog: Catalog<Ids>;
  /** Where characters and seats are stored. One session at a time may have it. */
  readonly store: Store;
  /** What edits and cues are judged by: holdings, base stats, levels. */
  readonly context?: Omit<SolvingContext, "signals">;
  /** How many seats there are for devices that join. @defaultValue `8` */
  readonly seats?: number;
  /** How many characters there may be that are not retired. @defaultValue no limit */
  readonly maxCharacters?: number;
  /** No two seats may have the same character. @defaultValue `false` */
  readonly exclusive?: boolean;
  /**
   * What a flush does with what another writer stored meanwhile. `refuse` rejects with `changed-elsewhere`; `overwrite` replaces it, for
   * pages that agree by `syncTabs` which change was last.
   *
   * @defaultValue `"refuse"`
   */
  readonly conflicts?: "refuse" | "overwrite";
  /** The channel by which seats of one look are distinguished, each painted in a ramp of its own; of several, the first that the look has. */
  readonly distinguishBy?: Ids["channel"] | readonly Ids["channel"][];
  /** The time in seconds, by which cues rest and grace passes. @defaultValue no time passes, and a refusal for that reason names it */
  readonly now?: () => number;
}

/** What changed outside of a session while it was open. */
export interface SessionUpdate<Ids extends CatalogIds = CatalogIds> extends Omit<SolvingContext, "signals"> {
  /** The catalog, where somebody works on it while the game runs. */
  readonly catalog?: Catalog<Ids>;
}

/** A save that somebody else put into a session's store. */
export interface StoredElsewhere {
  readonly key: string;
  readonly revision: number;
  /** `undefined` where the save was removed. */
  readonly content: Json | undefined;
}

/** A place at the game that one player controls. */
export interface Seat<Ids extends CatalogIds = CatalogIds> {
  readonly number: number;
  /** What the player holds, as the game calls it. */
  readonly device: string | undefined;
  /** Who sits here now. */
  readonly character: Character | undefined;
  /** How they look now, under the signals; the same object until something changes. */
  readonly look: Look<Ids> | undefined;
  /** What is wrong with what they wear, as the game stands; the same list until something changes. */
  readonly problems: readonly LoadoutProblem[];
  /** The signals by which they look and are judged: those of the seat before those of the session. */
  readonly signals: SignalsOf<Ids, Signal>;
  /**
   * Seats a character of the roster here. Taking the one that sits here already changes nothing.
   *
   * @throws MantleError `unknown-character`, `retired`, and `taken` where seats are exclusive and another has it.
   */
  take(id: string): void;
  /** Frees the seat of its character; the player stays. */
  leave(): void;
  /** Sets signals of the running game for this seat; they come before those of the session. */
  signal(signals: SignalsOf<Ids, Signal>): void;
}

/** What happened in a session. */
export interface SessionEvents {
  /** Anything that is stored: `cue` is the count of a cue that has an id. */
  readonly change: { readonly kind: "roster" | "seat" | "character" | "cue" };
  /** Somebody else sits in a seat, or its device changed. */
  readonly seat: {
    readonly seat: number;
    readonly before: Character | undefined;
    readonly after: Character | undefined;
  };
  /** A character of the roster was changed, whether it is seated or not. */
  readonly character: { readonly id: string; readonly changes: Changes };
  /** Something else is worn in a seat than before, in these slots: by the same one, or by another who sits there now. */
  readonly loadout: {
    readonly seat: number;
    readonly loadout: Character["loadout"];
    readonly slots: readonly string[];
  };
  /** A seat looks another way than before. */
  readonly look: { readonly seat: number; readonly look: Look | undefined };
  /** Something else is wrong with what is worn in a seat than before, or nothing any more: parts that are missing, rules that broke. */
  readonly problems: { readonly seat: number; readonly problems: readonly LoadoutProblem[] };
}

/** What outlives a scene: the roster, who sits where, and their saves. */
export interface Session<Ids extends CatalogIds = CatalogIds> {
  readonly catalog: Catalog<Ids>;
  /** What was wrong with saves when the session was opened. */
  readonly problems: readonly Problem<unknown>[];
  /** The roster in its order, without the retired. */
  readonly characters: readonly Character[];
  /** Those set aside, whoever was retired last at the end. */
  readonly retired: readonly Character[];
  /** Whether no more characters can be kept. */
  readonly isFull: boolean;
  /** What edits and cues are judged by now. */
  readonly context: Omit<SolvingContext, "signals">;
  /** How many seats there are for devices that join. */
  readonly seatCount: number;
  /** Whether no two seats may have the same character. */
  readonly exclusive: boolean;
  /** Seats that have a character or a device, by number. */
  readonly seats: readonly Seat<Ids>[];
  /** A seat by its number, from 1. */
  seat(number: number): Seat<Ids>;
  /** Adds a character to the roster. @throws MantleError `character-exists` where one has its id, `roster-full`, `not-a-character`. */
  add(character: Character): void;
  /** Puts a character in the place of the one with its id. @throws MantleError `unknown-character`, `not-a-character`. */
  replace(character: Character): void;
  /** Adds a copy of a character, under an id and a name of its own. @throws MantleError `unknown-character`, `roster-full`. */
  duplicate(id: string): Character;
  /** Changes a character of the roster; a name that another bears is refused. @throws MantleError `unknown-character`. */
  edit(id: string, edit: Edit<Ids>): EditResult;
  /**
   * Takes over what changed meanwhile: rights and purchases, levels. What is not named stays as it was; what a purchase put in a bag is
   * for `replace`.
   *
   * @example
   * const bought = purchase(catalog, wren, "storm-hat", { holdings, balance })
   * session.replace(bought.character)
   * session.update({ holdings: bought.holdings })
   */
  update(change: SessionUpdate<Ids>): void;
  /** Sets a character aside: it loses its seat, and nothing else. @throws MantleError `unknown-character`. */
  retire(id: string): void;
  /**
   * Removes a character for good, with its save: with the next exchange on other devices as well. `retire` only sets it aside.
   *
   * @throws MantleError `unknown-character`.
   */
  remove(id: string): void;
  /** Takes a retired character back. @throws MantleError `unknown-character`, `roster-full`. */
  restore(id: string): void;
  /** Moves a character to a place in the roster, from 0. @throws MantleError `unknown-character`. */
  move(id: string, place: number): void;
  /**
   * Gives a device the seat it has; else the one it had last, also before the session was opened; else the first that no other had, and at last
   * the first without one. `undefined` when all are taken.
   */
  join(device: string): Seat<Ids> | undefined;
  /** The seat that a device has; `undefined` before it joins. */
  seatOf(device: string): Seat<Ids> | undefined;
  /** Takes a device's seat from it, for good; who sat there loses it. */
  leave(device: string): void;
  /** Sets signals of the running game. */
  signal(signals: SignalsOf<Ids, Signal>): void;
  /** How often cues that have an id were followed, by seat number and id: `"1 first-letters"`. */
  readonly cueCounts: ReadonlyMap<string, number>;
  /** Takes over how often they were followed elsewhere, as on another page; no count falls. */
  mergeCueCounts(followed: ReadonlyMap<string, number>): void;
  /** Is called when a scene has begun: the grace of cues starts. */
  enterScene(): void;
  /**
   * Raises a word: every cue of the catalog for it is judged for a seat, in the order of the catalog, and followed or not.
   *
   * @param payload - what comes with the word, such as who did it.
   * @returns what came of each cue, and of those raised by them, in that order.
   */
  raise(word: Ids["cue"], payload?: CuePayload, where?: { readonly seat: number }): readonly CueOutcome[];
  /**
   * Does several changes as a whole: what happens in them is emitted, in its order, once all of them are done.
   *
   * @example
   * session.together(() => {
   *   session.seat(1).leave();
   *   session.seat(2).take("wren");
   * })
   */
  together(change: () => void): void;
  /**
   * Calls back when something happens. Returns what stops it.
   *
   * Listeners are called with everything in the order in which it happened; what one changes is emitted once all have been called. When one throws,
   * the others are called all the same, and the call that changed something throws it then.
   *
   * @throws MantleError `endless-answers`, from the call that changed something, when listeners answer each other without end.
   */
  on<Name extends keyof SessionEvents>(event: Name, listener: (happened: SessionEvents[Name]) => void): () => void;
  /** Whether a character has changes that are not stored yet. */
  isUnsaved(id: string): boolean;
  /**
   * Takes over what somebody else put into the session's store, so that the session stores its own changes after it. A character
   * replaces the one with its id, and `undefined` removes it; a profile only counts at the next opening. `receiveSave` calls this for a
   * store that is kept in agreement with another, and merges what is not stored yet.
   */
  adopt(save: StoredElsewhere): void;
  /**
   * Resolves when everything changed so far is stored.
   *
   * @throws MantleError `changed-elsewhere` when another writer stored something since it was read or written here; whatever the store
   * failed with. What failed is tried again at the next flush; the rest is stored.
   */
  flush(options?: FlushOptions): Promise<void>;
  /**
   * Stores everything and releases the store: the next call that opens it reads it again. For a game that ends, or another player's
   * profile. With `discard`, what is not stored yet is lost.
   *
   * @throws as `flush` does; the session stays open then.
   */
  close(options?: { readonly discard?: boolean }): Promise<void>;
}
