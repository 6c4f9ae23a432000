import type { Progress } from "../base/progress.ts";
import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, LoadoutProblem } from "../character/edit.ts";
import type { Situation } from "../character/situation.ts";
import type { Explained } from "../rules/explain-broken.ts";

/** How long a search may take. What it has found by then is returned. */
export interface SearchLimits {
  /**
   * Search steps before it ends. The same steps always lead to the same answer; a million of them take some seconds.
   *
   * @defaultValue `500_000`
   */
  readonly budget?: number;
  /** Milliseconds before it ends, by `clock`. The answer then depends on the machine. No limit when left out. */
  readonly milliseconds?: number;
  /** The time in milliseconds, from any start. @defaultValue `Date.now` */
  readonly clock?: () => number;
  /** Is called now and then with about how many steps of the budget were taken. */
  readonly onProgress?: (progress: Progress) => void;
  /** Ends the search when it is aborted, as that of an `AbortController`; checked now and then. */
  readonly signal?: { readonly aborted: boolean };
}

/** The edits that make a loadout valid. */
export interface Repair {
  /** In the order to apply them; empty when nothing is wrong; `undefined` when there is no way, or when none was found. */
  readonly edits: readonly Edit[] | undefined;
  /** How many slots change what is chosen in them. The default of a required slot is no choice. */
  readonly changes: number;
  /** It is proved that no answer changes fewer slots than this. */
  readonly lowerBound: number;
  /** Whether it is proved that no smaller answer exists, or that there is none at all; `false` when the budget ran out. */
  readonly isProven: boolean;
}

/** What a repair keeps, and how long it may take. */
export interface RepairLimits extends SearchLimits {
  /** Slots in the order in which the player chose what is in them, the last choice last: where answers tie, the last are kept. */
  readonly recent?: readonly string[];
  /** Slots that must stay as they are. */
  readonly keep?: readonly string[];
  /** Is called when a smaller answer is known, or a higher bound. */
  readonly report?: (state: { readonly changes: number | undefined; readonly lowerBound: number }) => void;
}

/** What a random character is made of, and what stays of an existing one. */
export interface RollOptions<Ids extends CatalogIds = CatalogIds>
  extends Pick<Context, "holdings" | "stats" | "signals">,
    SearchLimits {
  /** A whole number; the same seed always gives the same character. */
  readonly seed: number;
  /** The body to use; any of the catalog's when left out. */
  readonly body?: Ids["body"];
  readonly name?: string;
  readonly id?: string;
  readonly facts?: Character["facts"];
  /**
   * How likely a slot that may be empty is left empty, 0 to 1, as far as rules leave it open.
   *
   * @defaultValue `0.25`
   */
  readonly emptyChance?: number;
  /** How many times as likely parts of a rarity are; 1 where nothing is given, and 0 for never. */
  readonly weights?: Readonly<Record<string, number>>;
  /** What stays as it is in a character; its id, name and facts stay unless others are given. */
  readonly keep?: RollKeep<Ids>;
}

/** Whose body, slots and channels a roll keeps. */
export interface RollKeep<Ids extends CatalogIds = CatalogIds> {
  readonly character: Character;
  readonly body?: boolean;
  readonly slots?: readonly Ids["slot"][];
  readonly channels?: readonly Ids["channel"][];
}

/** How findings are mended. */
export interface Mending {
  fixesFor(situation: Situation, said: Explained): LoadoutProblem["fixes"];
  /** Fixes of a part that is worn in a slot and not owned. */
  fixesForUnowned(situation: Situation, slot: string): LoadoutProblem["fixes"];
}

/**
 * The search over loadouts. It is `solver` of `zealous-mantle/solver`, and is passed to what needs it, so that a page that only checks and
 * draws does not load it.
 */
export interface Solver {
  /** Finds the fewest edits that make a loadout valid. @throws MantleError `unknown-body`. */
  repair(situation: Situation, limits?: RepairLimits): Repair;
  /** Fills what is missing with the fewest parts, and takes nothing off. @throws MantleError `unknown-body`. */
  complete(situation: Situation, limits?: RepairLimits): Repair;
  /** Finds the fewest edits after which a part is worn in a slot and the loadout is valid. @throws MantleError `unknown-body`. */
  editsToWear(situation: Situation, part: string, slot: string, limits?: RepairLimits): Repair;
  /** Makes a valid character at random. @throws MantleError `unknown-body`, `nothing-to-roll`, `gave-up`. */
  roll(catalog: Catalog, options: RollOptions): Character;
  /** Finds fixes of findings: those that put something on, or take several edits, too. */
  readonly mending: Mending;
}

/** What the game knows, and the search where it is at hand. */
export interface SolvingContext extends Context {
  /** The search, `solver` of `zealous-mantle/solver`: for fixes that put something on, edits that lead to an option, settling, and rolls. */
  readonly solver?: Solver | undefined;
}
