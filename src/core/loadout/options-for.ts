import { getOwn } from "../base/record.ts";
import type { Access, Catalog, CatalogIds, Part, Slot } from "../catalog/model/catalog.ts";
import { accessTo, isAvailable } from "../character/bag/access.ts";
import type { Character } from "../character/character.ts";
import type { Displaced, Edit, EditResult, LoadoutProblem } from "../character/edit.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import { type Stats, statsOf } from "../rules/stats.ts";
import { requireSolver } from "./require-solver.ts";
import type { Repair, Solver, SolvingContext } from "./solver.ts";
import { Trials } from "./trials.ts";

/**
 * What would happen if a part were put on now.
 *
 * `state` is known at once. The details are worked out when they are first read, so that a list of thousands costs no more than
 * what of it is shown.
 */
export interface Option {
  readonly part: Part;
  /** The slot it would go in. */
  readonly slot: string;
  /**
   * `worn`: it is there. `ready`: it can be put on, and takes at most the place of what is in its slot. `displaces`: it can be
   * put on, and sends something else away. `blocked`: something is in the way. `locked`: it is known and not owned. `secret`:
   * it is not known to this player, or retired and not had by this character, and better not shown.
   */
  readonly state: "worn" | "ready" | "displaces" | "blocked" | "locked" | "secret";
  /** What it would send away, and why. */
  readonly displaced: readonly Displaced[];
  /** Why it cannot be put on. */
  readonly problems: readonly LoadoutProblem[];
  /**
   * The fewest edits that end with it worn and nothing broken; `undefined` when there are none.
   *
   * @throws MantleError `no-solver` when it is read and no solver was passed.
   */
  readonly editsToWear: readonly Edit[] | undefined;
  /** Every stat that would change. */
  readonly stats: readonly StatChange[];
}

/** A stat that would change. */
export interface StatChange {
  readonly stat: string;
  readonly before: number;
  readonly after: number;
}

/**
 * Returns for every part of a slot whether it can be worn now and, if not, why and what would change that.
 *
 * Verdicts are those of doing the edit and checking what comes of it.
 *
 * @returns one option for each part of the slot, in the order of the catalog; empty for a slot the catalog does not have.
 * @example
 * optionsFor(catalog, wren, "hat").map(({ part, state }) => `${part.id}: ${state}`)
 * // → ["storm-hat: worn", "reed-cap: ready", "wool-cap: ready", …]
 */
export function optionsFor<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  character: Character,
  slot: Ids["slot"],
  { solver, ...context }: SolvingContext = {},
): readonly Option[] {
  const known = catalog.slots.get(slot);
  return known === undefined ? [] : optionsIn(known, new Trials(catalog, character, context), solver);
}

/** The options of every slot, by slot id in the order of the catalog. */
export function allOptions(
  catalog: Catalog,
  character: Character,
  { solver, ...context }: SolvingContext = {},
): ReadonlyMap<string, readonly Option[]> {
  const trials = new Trials(catalog, character, context);
  return new Map([...catalog.slots.values()].map((slot) => [slot.id, optionsIn(slot, trials, solver)]));
}

function optionsIn(slot: Slot, trials: Trials, solver: Solver | undefined): readonly Option[] {
  const current = trials.wornIn(slot);
  const isOwned = trials.context.holdings === undefined && trials.catalog.retired.size === 0;
  const options = new Array<Option>(slot.parts.length);
  for (let at = 0; at < slot.parts.length; at += 1) {
    const part = slot.parts[at];
    if (part === undefined) continue;
    const withheld = isOwned || part === current ? undefined : withheldAs(part, slot, trials);
    const state = part === current ? "worn" : (withheld ?? trials.tryOn(part, slot));
    options[at] = new LazyOption(part, slot.id, state, trials, solver);
  }
  return options;
}

/** How a part is kept from a player, if it is. What comes by itself is kept from nobody. */
function withheldAs(part: Part, slot: Slot, { context, character }: Trials): "locked" | "secret" | undefined {
  const states: Readonly<Record<Access, "locked" | "secret" | undefined>> = {
    owned: undefined,
    listed: "locked",
    secret: "secret",
  };
  const isOwn = (slot.required && slot.default === part.id) || getOwn(character.loadout, slot.id) === part.id;
  if (isOwn) return undefined;
  return isAvailable(part, character) ? states[accessTo(part, context.holdings)] : "secret";
}

class LazyOption implements Option {
  readonly part: Part;
  readonly slot: string;
  readonly state: Option["state"];
  readonly #trials: Trials;
  readonly #solver: Solver | undefined;
  #known: Known | undefined;

  constructor(part: Part, slot: string, state: Option["state"], trials: Trials, solver: Solver | undefined) {
    this.part = part;
    this.slot = slot;
    this.state = state;
    this.#trials = trials;
    this.#solver = solver;
  }

  get displaced(): readonly Displaced[] {
    const result = this.#attempt();
    return result.ok ? result.displaced.filter(({ slot }) => slot !== this.slot) : [];
  }

  get problems(): readonly LoadoutProblem[] {
    const result = this.#attempt();
    return result.ok ? [] : result.problems;
  }

  get editsToWear(): readonly Edit[] | undefined {
    const known = this.#details();
    const solver = requireSolver(this.#solver, "editsToWear of an option");
    known.toWear ??= solver.editsToWear(this.#trials, this.part.id, this.slot);
    return known.toWear.edits;
  }

  get stats(): readonly StatChange[] {
    const { catalog, character, context } = this.#trials;
    const result = this.#attempt();
    const known = this.#details();
    known.stats ??= changedStats(statsOf(catalog, character, context), statsOf(catalog, result.character, context));
    return known.stats;
  }

  toJSON(): object {
    const { part, slot, state, displaced, problems, stats } = this;
    const editsToWear = this.#solver === undefined ? undefined : this.editsToWear;
    return { part: part.id, slot, state, displaced, problems, editsToWear, stats };
  }

  #attempt(): EditResult {
    const { catalog, character, context } = this.#trials;
    const known = this.#details();
    known.result ??= applyEdit(catalog, character, { wear: this.part.id, in: this.slot }, context);
    return known.result;
  }

  #details(): Known {
    this.#known ??= { result: undefined, toWear: undefined, stats: undefined };
    return this.#known;
  }
}

/** The details of an option that were asked for. */
interface Known {
  result: EditResult | undefined;
  toWear: Pick<Repair, "edits"> | undefined;
  stats: readonly StatChange[] | undefined;
}

function changedStats(before: Stats, after: Stats): readonly StatChange[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .map((stat) => ({ stat, before: getOwn(before, stat) ?? 0, after: getOwn(after, stat) ?? 0 }))
    .filter((change) => change.before !== change.after);
}
