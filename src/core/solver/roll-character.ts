import { getOrInsert } from "../base/get-or-insert.ts";
import { MantleError } from "../base/problem.ts";
import { type Random, randomFrom } from "../base/random.ts";
import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Body, Catalog, CatalogIds, Part } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { withPacks } from "../character/needed-packs.ts";
import { createCharacter } from "../edits/create-character.ts";
import type { RollKeep, RollOptions } from "../loadout/solver.ts";
import { wornParts } from "../rules/worn.ts";
import { budgetOf } from "./budget-of.ts";
import { LoadoutSearch } from "./loadout-search.ts";
import { type Model, modelFor, type Value } from "./model.ts";
import { open } from "./search/trail.ts";

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
  return withPacks(catalog, { ...blank, loadout, colors, bag: keep?.character.bag ?? {} });
}

function rollLoadout(
  catalog: Catalog,
  body: Body,
  facts: Character["facts"],
  options: RollOptions,
  random: Random,
): Character["loadout"] {
  const { holdings, stats, signals, emptyChance = 0.25, weights = {}, keep } = options;
  const context: Context = {
    ...(holdings === undefined ? {} : { holdings }),
    ...(stats === undefined ? {} : { stats }),
    ...(signals === undefined ? {} : { signals }),
  };
  const model = modelFor(catalog, body, catalog.retired.size === 0 ? undefined : keep?.character, context);
  const weightOf = (part: Part) => getOwn(weights, part.rarity ?? "") ?? 1;
  const search = new LoadoutSearch(model, facts, context);
  const locks = locksOf(catalog, keep);
  const hasNever = Object.values(weights).includes(0);
  for (const [variable, { slot, values }] of model.variables.entries()) {
    const isLocked = slot !== undefined && locks.has(slot.id);
    for (const [value, each] of values.entries()) {
      const isAllowed = isLocked ? agrees(each, locks.get(slot.id)) : !hasNever || canRoll(each, weightOf);
      if (!isAllowed) search.engine.require(search.literal(variable, value) ^ 1);
    }
  }
  for (const [id, lock] of locks) if (lock === "bare") keepBare(search, catalog.slots.get(id)?.number ?? -1);
  search.engine.decide = decider(search, likelyIn(model, emptyChance, weights, weightOf), random);
  const outcome = search.engine.search([], budgetOf({ budget: 100_000, ...options }));
  if (outcome === "found") return loadoutOf(model, search.values(), locks, weightOf, random);
  if (outcome === "none") throw nothingToRoll(options);
  throw new MantleError("gave-up", "No valid loadout was found in time. Give a greater budget, or loosen the rules.");
}

function nothingToRoll({ keep, weights = {} }: RollOptions): MantleError {
  const never = Object.keys(weights).filter((rarity) => weights[rarity] === 0);
  const agreeing = keep === undefined ? "" : " that agrees with what is kept";
  const without = never.length === 0 ? "" : ` without parts of a weight of 0 (${never.join(", ")})`;
  return new MantleError(
    "nothing-to-roll",
    `There is no valid loadout${agreeing}${without}. Ask surveyRules, keep less, or give greater weights.`,
  );
}

/** What a slot is to show: a part that is worn in it; the default that comes by itself; nothing. */
type Lock = { readonly part: string } | "issued" | "bare";

/** What the slots that are kept show, by slot; what takes a slot that is kept is kept, too. */
function locksOf(catalog: Catalog, keep: RollKeep | undefined): ReadonlyMap<string, Lock> {
  const locks = new Map<string, Lock>();
  if (keep === undefined) return locks;
  const worn = wornParts(catalog, keep.character);
  for (const slot of keep.slots ?? []) {
    const own = worn.find((each) => each.slot === slot);
    const taker = own ?? worn.find(({ part }) => part.occupies.includes(slot));
    const isDefault = taker !== undefined && taker.part.id === catalog.slots.get(taker.slot)?.default;
    if (taker === undefined) locks.set(slot, "bare");
    else locks.set(taker.slot, taker.issued || isDefault ? "issued" : { part: taker.part.id });
  }
  return locks;
}

function agrees({ kind, parts }: Value, lock: Lock | undefined): boolean {
  if (lock === "bare") return kind === "none" || kind === "covered";
  if (lock === "issued") return kind === "issued";
  return kind === "worn" && parts.some(({ id }) => id === lock?.part);
}

/** No part of any slot may take a slot. */
function keepBare(search: LoadoutSearch, slot: number): void {
  const { model, engine } = search;
  for (const { variable } of model.takers[slot] ?? []) {
    for (const [value, { covers }] of (model.variables[variable]?.values ?? []).entries()) {
      if (covers.includes(slot)) engine.require(search.literal(variable, value) ^ 1);
    }
  }
}

/** Whether a value can come up: of its parts, at least one has a weight. */
function canRoll({ kind, parts }: Value, weightOf: (part: Part) => number): boolean {
  return (kind !== "worn" && kind !== "issued") || parts.some((part) => weightOf(part) > 0);
}

/** Decides slot by slot, those with the fewest values left rather first, on values at random, the likely ones rather than others. */
function decider(search: LoadoutSearch, likely: Likely, random: Random): () => number | undefined {
  const { model, engine } = search;
  const { values: literals } = search.program.program.table;
  const known = engine.trail.values;
  return () => {
    let chosen: readonly number[] | undefined;
    let rank = Number.POSITIVE_INFINITY;
    for (let variable = 0; variable < model.decisions; variable += 1) {
      const own = literals[variable] ?? [];
      const left = engine.left(variable);
      if (left < 2) continue;
      const next = left * (1 + random.next());
      if (next >= rank) continue;
      rank = next;
      chosen = own;
    }
    if (chosen === undefined) return undefined;
    const weights = likely[literals.indexOf(chosen)] ?? [];
    let sum = 0;
    for (let value = 0; value < chosen.length; value += 1)
      if (known[chosen[value] ?? 0] === open) sum += weights[value] ?? 0;
    let at = random.next() * sum;
    let last: number | undefined;
    for (let value = 0; value < chosen.length; value += 1) {
      const literal = chosen[value] ?? 0;
      if (known[literal] !== open) continue;
      if (last === undefined || (weights[value] ?? 0) > 0) last = literal;
      at -= weights[value] ?? 0;
      if (at < 0) return literal;
    }
    return last;
  };
}

type Likely = readonly (readonly number[])[];

const plainLikely = new WeakMap<Model, Map<number, Likely>>();

/** How likely each value is, which is kept where no rarity matters. */
function likelyIn(
  model: Model,
  emptyChance: number,
  weights: NonNullable<RollOptions["weights"]>,
  weightOf: (part: Part) => number,
): Likely {
  if (Object.keys(weights).length > 0) return likelihoods(model, emptyChance, weightOf);
  const kept = getOrInsert(plainLikely, model, () => new Map<number, Likely>());
  return getOrInsert(kept, emptyChance, () => likelihoods(model, emptyChance, weightOf));
}

/** How likely each value is among those of its variable. */
function likelihoods({ variables }: Model, emptyChance: number, weightOf: (part: Part) => number): Likely {
  return variables.map(({ values }) => {
    const weights = values.map(({ kind, parts }) =>
      kind === "worn" || kind === "issued" ? parts.reduce((sum, part) => sum + weightOf(part), 0) : 0,
    );
    const all = weights.reduce((sum, weight) => sum + weight, 0);
    const bare = emptyChance >= 1 ? Number.MAX_VALUE : (all === 0 ? 1 : all) * (emptyChance / (1 - emptyChance));
    return values.map(({ kind }, value) => {
      if (kind === "none") return bare;
      // A slot taken by a part of another is as likely as one more part would be.
      return kind === "covered" ? 1 : (weights[value] ?? 0);
    });
  });
}

function loadoutOf(
  model: Model,
  values: readonly number[],
  locks: ReadonlyMap<string, Lock>,
  weightOf: (part: Part) => number,
  random: Random,
): Character["loadout"] {
  const loadout: Record<string, string> = {};
  for (const [variable, { slot, values: choices }] of model.variables.entries()) {
    const value = choices[values[variable] ?? -1];
    if (slot === undefined || value?.kind !== "worn") continue;
    const lock = locks.get(slot.id);
    const part = typeof lock === "object" ? lock.part : pickWeighted(value.parts, weightOf, random)?.id;
    if (part !== undefined) loadout[slot.id] = part;
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
