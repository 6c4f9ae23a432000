import { MantleError } from "../base/problem.ts";
import { type Random, randomFrom } from "../base/random.ts";
import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Body, Catalog, CatalogIds, Part } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { createCharacter } from "../edits/create-character.ts";
import { findAny } from "./solve/find-any.ts";
import { type Model, modelFor, type Value } from "./solve/model.ts";
import { Solver } from "./solve/solver.ts";

export interface RollOptions<Ids extends CatalogIds = CatalogIds>
  extends Pick<Context, "holdings" | "stats" | "signals"> {
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
  readonly bareness?: number;
  /** How many times as likely parts of a rarity are; 1 where nothing is given, and 0 for never. */
  readonly weights?: Readonly<Record<string, number>>;
  /** What stays as it is in a character; its id, name and facts stay unless others are given. */
  readonly keep?: RollKeep<Ids>;
  /** Search steps before giving up. @defaultValue `100_000` */
  readonly budget?: number;
}

export interface RollKeep<Ids extends CatalogIds = CatalogIds> {
  readonly character: Character;
  readonly body?: boolean;
  readonly slots?: readonly Ids["slot"][];
  readonly channels?: readonly Ids["channel"][];
}

/**
 * Makes a valid character at random.
 *
 * Slots are filled by a search that takes back what leads nowhere, in random order: every valid part can come up, and there is
 * a result whenever there is a valid loadout at all. With `holdings`, only parts that are owned come up.
 *
 * @throws MantleError `unknown-body`; `nothing-to-roll` when no valid loadout agrees with what is kept; `gave-up` when the
 * budget ran out before one was found.
 * @example
 * rollCharacter(catalog, { seed: 7 })
 * rollCharacter(catalog, { seed: 8, keep: { character: wren, body: true, slots: ["hair"] }, weights: { rare: 0.2 } })
 */
export function rollCharacter<Ids extends CatalogIds>(catalog: Catalog<Ids>, options: RollOptions<Ids>): Character {
  const random = randomFrom(options.seed);
  const { keep } = options;
  const kept = keep?.body === true ? keep.character.body : undefined;
  const body = options.body ?? kept ?? random.pick([...catalog.bodies.keys()]) ?? "";
  const known = requireKnown("body", body, catalog.bodies);
  const facts = options.facts ?? keep?.character.facts ?? {};
  const loadout = rollLoadout(catalog, known, facts, options, random);
  const colors: Record<string, string> = {};
  for (const channel of catalog.channels.values()) {
    const ramp = random.pick(channel.ramps);
    const chosen = keep?.channels?.includes(channel.id) ? getOwn(keep.character.colors, channel.id) : ramp;
    if (chosen !== undefined) colors[channel.id] = chosen;
  }
  const named = options.name ?? keep?.character.name;
  const blank = createCharacter(catalog, {
    body,
    id: options.id ?? keep?.character.id ?? `rolled-${options.seed >>> 0}`,
    ...(named === undefined ? {} : { name: named }),
    facts,
  });
  return { ...blank, loadout, colors, bag: keep?.character.bag ?? {} };
}

function rollLoadout(
  catalog: Catalog,
  body: Body,
  facts: Character["facts"],
  options: RollOptions,
  random: Random,
): Character["loadout"] {
  const { holdings, stats, signals, bareness = 0.25, weights = {}, budget = 100_000 } = options;
  const context: Context = {
    ...(holdings === undefined ? {} : { holdings }),
    ...(stats === undefined ? {} : { stats }),
    ...(signals === undefined ? {} : { signals }),
  };
  const model = modelFor(catalog, body, undefined, context);
  const weightOf = (part: Part) => getOwn(weights, part.rarity ?? "") ?? 1;
  const likely = likelihoods(model, bareness, weightOf);
  const solver = new Solver(model, facts, context);
  if (!hold(solver, options.keep) || !solver.start()) throw nothingToRoll(options.keep);

  const order = (variable: number, values: readonly number[]) => shuffled(values, likely[variable] ?? [], random);
  const root = solver.domains.save();
  // A search that went wrong early is better begun anew than finished; what failed in it has gained weight.
  for (let spent = 0, turn = 64; spent < budget; spent += turn, turn *= 2) {
    const found = findAny(solver, { steps: turn }, { tieBreak: random.next, order });
    if (found.kind === "found") return loadoutOf(model, found.values, options.keep, weightOf, random);
    if (found.kind === "none") throw nothingToRoll(options.keep);
    solver.domains.restore(root);
  }
  throw new MantleError(
    "gave-up",
    `No valid loadout was found in ${budget} steps. Give a greater budget, or loosen the rules.`,
  );
}

function nothingToRoll(keep: RollKeep | undefined): MantleError {
  const because = keep === undefined ? "" : " that agrees with what is kept";
  return new MantleError("nothing-to-roll", `There is no valid loadout${because}. Ask surveyRules, or keep less.`);
}

/** How likely each value is among those of its variable. */
function likelihoods(
  { variables }: Model,
  bareness: number,
  weightOf: (part: Part) => number,
): readonly (readonly number[])[] {
  return variables.map(({ values }) => {
    const weights = values.map(({ kind, parts }) =>
      kind === "worn" || kind === "issued" ? parts.reduce((sum, part) => sum + weightOf(part), 0) : 0,
    );
    const all = weights.reduce((sum, weight) => sum + weight, 0);
    const bare = bareness >= 1 ? Number.MAX_VALUE : (all === 0 ? 1 : all) * (bareness / (1 - bareness));
    return values.map(({ kind }, value) => {
      if (kind === "none") return bare;
      // A slot taken by a part of another is as likely as one more part would be.
      return kind === "covered" ? 1 : (weights[value] ?? 0);
    });
  });
}

/**
 * Values in random order, the likely ones rather first; what has no weight is left out. P. S. Efraimidis, P. G. Spirakis,
 * "Weighted random sampling with a reservoir" (2006).
 */
function shuffled(values: readonly number[], weights: readonly number[], random: Random): readonly number[] {
  return values
    .map((value) => ({ value, weight: weights[value] ?? 1 }))
    .filter(({ weight }) => weight > 0)
    .map(({ value, weight }) => ({ value, key: -Math.log(1 - random.next()) / weight }))
    .sort((one, other) => one.key - other.key)
    .map(({ value }) => value);
}

/** Holds slots at what a character has in them; whether that can be. */
function hold(solver: Solver, keep: RollKeep | undefined): boolean {
  for (const [variable, { slot, values }] of solver.model.variables.entries()) {
    if (keep === undefined || slot === undefined || keep.slots?.includes(slot.id) !== true) continue;
    const part = getOwn(keep.character.loadout, slot.id);
    for (const [value, each] of values.entries()) {
      if (!isKept(each, part, slot.required ? slot.default : undefined)) solver.domains.dropValue(variable, value);
    }
  }
  return !solver.domains.failed;
}

function isKept({ kind, parts }: Value, part: string | undefined, initial: string | undefined): boolean {
  if (part === undefined || part === initial) return kind !== "worn";
  return kind === "worn" && parts.some(({ id }) => id === part);
}

function loadoutOf(
  model: Model,
  values: readonly number[],
  keep: RollKeep | undefined,
  weightOf: (part: Part) => number,
  random: Random,
): Character["loadout"] {
  const loadout: Record<string, string> = {};
  for (const [variable, { slot, values: choices }] of model.variables.entries()) {
    const value = choices[values[variable] ?? -1];
    if (slot === undefined || value?.kind !== "worn") continue;
    const kept = keep?.slots?.includes(slot.id) === true ? getOwn(keep.character.loadout, slot.id) : undefined;
    loadout[slot.id] = kept ?? pickWeighted(value.parts, weightOf, random)?.id ?? "";
  }
  return loadout;
}

function pickWeighted(parts: readonly Part[], weightOf: (part: Part) => number, random: Random): Part | undefined {
  let left = random.next() * parts.reduce((sum, part) => sum + weightOf(part), 0);
  for (const part of parts) {
    left -= weightOf(part);
    if (left < 0) return part;
  }
  return parts.findLast((part) => weightOf(part) > 0);
}
