import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit } from "../character/edit.ts";
import { judgedEdit } from "../edits/do-edit.ts";
import { isOffered } from "../edits/verbs/paint.ts";
import { removeVerb } from "../edits/verbs/remove.ts";
import { wearVerb } from "../edits/verbs/wear.ts";
import { maskOf } from "./solve/domains.ts";
import { type Model, modelFor, type Value } from "./solve/model.ts";
import { findNearest, type Nearest } from "./solve/nearest.ts";
import { type Budget, Solver } from "./solve/solver.ts";

/** The edits that make a loadout valid. */
export interface Repair {
  /** In the order to apply them; empty when nothing is wrong; `undefined` when there is no way, or when none was found. */
  readonly edits: readonly Edit[] | undefined;
  /** How many slots change what is chosen in them. */
  readonly changes: number;
  /** Whether it is proved that no smaller answer exists, or that there is none at all; `false` when the budget ran out. */
  readonly complete: boolean;
}

export interface RepairOptions extends Context {
  /** Slots in the order in which the player chose what is in them, the last choice last: where answers tie, the last are kept. */
  readonly recent?: readonly string[];
  /** Slots that must stay as they are. */
  readonly keep?: readonly string[];
  /** Search steps before giving up. @defaultValue `50_000` */
  readonly budget?: number;
}

/**
 * Finds the fewest edits that make a character's loadout valid.
 *
 * Edits are tried in order of size, so no smaller answer exists: size is the number of slots that change. Among smallest
 * answers, those that keep what the player chose last come first, then those that leave appearance alone, then those that keep
 * what is worn. Parts the player does not own are never proposed, and with the wardrobe `"bag"` only gear that is carried is.
 * A color that its channel does not offer is painted in the default.
 *
 * @throws MantleError `unknown-body`: without a body nothing can be judged.
 * @example
 * repairLoadout(catalog, wren, { holdings })
 * // → { edits: [{ remove: "hat" }], changes: 1, complete: true }
 */
export function repairLoadout(catalog: Catalog, character: Character, options: RepairOptions = {}): Repair {
  const kept = new Set(options.keep ?? []);
  return repair(catalog, character, options, (slot) => (kept.has(slot) ? "keep" : undefined));
}

/**
 * Fills what is missing around the choices a character has, with the fewest parts, and takes nothing off.
 *
 * @example
 * completeLoadout(catalog, { ...wren, loadout: { chain: "watch-chain" } })
 * // → { edits: [{ wear: "waistcoat", in: "vest" }], changes: 1, complete: true }
 */
export function completeLoadout(catalog: Catalog, character: Character, options: RepairOptions = {}): Repair {
  const kept = new Set(options.keep ?? []);
  const isChosen = (slot: string) => catalog.parts.has(getOwn(character.loadout, slot) ?? "");
  return repair(catalog, character, options, (slot) => (kept.has(slot) || isChosen(slot) ? "keep" : undefined));
}

/**
 * Finds the fewest edits after which a part is worn in a slot and the whole loadout is valid.
 *
 * @returns as `repairLoadout` does; the edits put the part on, too.
 */
export function waysToWear(
  catalog: Catalog,
  character: Character,
  part: string,
  slot: string,
  options: RepairOptions = {},
): Repair {
  return repair(catalog, character, options, (each) => (each === slot ? { part } : undefined));
}

/** What a slot is bound to: what it holds now, or a part. */
type Bind = "keep" | { readonly part: string } | undefined;

function repair(
  catalog: Catalog,
  character: Character,
  options: RepairOptions,
  bindOf: (slot: string) => Bind,
): Repair {
  const body = requireKnown("body", character.body, catalog.bodies);
  const model = modelFor(catalog, body, character, options);
  const solver = new Solver(model, character.facts, options);
  const stay = model.variables.map(({ slot, values }) =>
    maskOf(
      values.length,
      slot === undefined ? values.keys() : stayingValues(values, chosenIn(catalog, character, slot.id)),
    ),
  );
  const paints = wrongPaints(catalog, character);
  if (!bind(solver, stay, bindOf) || !solver.start()) return { edits: undefined, changes: 0, complete: true };

  const budget = { steps: options.budget ?? 50_000 };
  const first = findNearest(solver, stay, budget);
  if (first.values === undefined) return { edits: undefined, changes: 0, complete: first.complete };
  const values = preferred(catalog, character, solver, stay, first, options.recent ?? [], budget);
  const target = loadoutOf(model, values, stay, character, bindOf);
  const changes = model.variables.filter(
    ({ slot }) => slot !== undefined && getOwn(target, slot.id) !== getOwn(character.loadout, slot.id),
  ).length;
  return { edits: [...editsTo(catalog, character, target, options), ...paints], changes, complete: true };
}

/** What is chosen in a slot, as far as the catalog knows it. */
function chosenIn(catalog: Catalog, character: Character, slot: string): string | undefined {
  const part = getOwn(character.loadout, slot);
  if (part === undefined || !catalog.parts.has(part)) return undefined;
  return part;
}

function stayingValues(values: readonly Value[], part: string | undefined): readonly number[] {
  const isStaying = ({ kind, parts }: Value) =>
    part === undefined ? kind !== "worn" : kind === "worn" && parts.some(({ id }) => id === part);
  return [...values.keys()].filter((value) => {
    const each = values[value];
    return each !== undefined && isStaying(each);
  });
}

/** Binds slots in the domains; whether that can be done. */
function bind(solver: Solver, stay: readonly Uint32Array[], bindOf: (slot: string) => Bind): boolean {
  for (const [variable, { slot, values }] of solver.model.variables.entries()) {
    const bound = slot === undefined ? undefined : bindOf(slot.id);
    const mask = stay[variable];
    if (slot === undefined || bound === undefined || mask === undefined) continue;
    if (bound === "keep") solver.domains.keep(variable, mask);
    else {
      const wanted = [...values.keys()].filter((value) => values[value]?.parts.some(({ id }) => id === bound.part));
      solver.domains.keep(variable, maskOf(values.length, wanted));
    }
  }
  return !solver.domains.failed;
}

/** Among the smallest answers, the one that changes what matters least: each slot stays in turn, where that costs nothing. */
function preferred(
  catalog: Catalog,
  character: Character,
  solver: Solver,
  stay: readonly Uint32Array[],
  first: Nearest,
  recent: readonly string[],
  budget: Budget,
): readonly number[] {
  let values = first.values ?? [];
  const size = movedIn(values, stay).length;
  const rank = (slot: string) => {
    const place = catalog.slots.get(slot);
    if (recent.includes(slot)) return recent.length - recent.lastIndexOf(slot);
    if (place?.kind === "appearance") return recent.length + 1;
    return recent.length + (chosenIn(catalog, character, slot) === undefined ? 3 : 2);
  };
  const order = solver.model.variables
    .flatMap(({ slot }, variable) => (slot === undefined ? [] : [{ variable, rank: rank(slot.id) }]))
    .sort((one, other) => one.rank - other.rank);
  for (const { variable } of order) {
    const mask = stay[variable];
    if (mask === undefined) continue;
    const before = solver.domains.save();
    solver.domains.keep(variable, mask);
    if (!movedIn(values, stay).includes(variable)) continue;
    const other = solver.domains.failed ? undefined : findNearest(solver, stay, budget).values;
    if (other !== undefined && movedIn(other, stay).length === size) values = other;
    else solver.domains.restore(before);
  }
  return values;
}

function movedIn(values: readonly number[], stay: readonly Uint32Array[]): readonly number[] {
  return [...values.keys()].filter((variable) => {
    const value = values[variable] ?? 0;
    return (((stay[variable]?.[value >>> 5] ?? 0) >>> (value & 31)) & 1) === 0;
  });
}

/** The loadout of an answer: what stays as it is, and of parts that rules do not distinguish the first. */
function loadoutOf(
  model: Model,
  values: readonly number[],
  stay: readonly Uint32Array[],
  character: Character,
  bindOf: (slot: string) => Bind,
): Character["loadout"] {
  const changed = new Set(movedIn(values, stay));
  const loadout: Record<string, string> = { ...character.loadout };
  for (const [variable, { slot, values: choices }] of model.variables.entries()) {
    if (slot === undefined) continue;
    const bound = bindOf(slot.id);
    const value = choices[values[variable] ?? -1];
    const wanted = typeof bound === "object" ? bound.part : value?.parts[0]?.id;
    if (typeof bound !== "object" && !changed.has(variable)) continue;
    if (value?.kind === "worn" && wanted !== undefined) loadout[slot.id] = wanted;
    else delete loadout[slot.id];
  }
  return loadout;
}

/** The verbs of the edits of a repair, so that whoever only repairs does not load the others. */
const repairVerbs = { wear: wearVerb, remove: removeVerb };

/** Edits that lead to a loadout, in an order in which each is accepted; what only works as one is done together. */
function editsTo(
  catalog: Catalog,
  character: Character,
  target: Character["loadout"],
  context: Context,
): readonly Edit[] {
  const edits: Edit[] = [];
  let current = character;
  const pending = () =>
    [...catalog.slots.keys()].flatMap((slot): readonly Edit[] => {
      const wanted = getOwn(target, slot);
      if (getOwn(current.loadout, slot) === wanted) return [];
      return [wanted === undefined ? { remove: slot } : { wear: wanted, in: slot }];
    });
  for (let left = pending(); left.length > 0; left = pending()) {
    const next = left.find((edit) => {
      const result = judgedEdit(repairVerbs, edit, { catalog, character: current, context });
      // An edit that sends away what is to stay would only have to be undone.
      const isUndone = result.ok && result.displaced.some(({ slot, part }) => getOwn(target, slot) === part);
      if (!result.ok || isUndone || result.character === current) return false;
      current = result.character;
      return true;
    });
    if (next === undefined) {
      const removals = left.filter(({ remove }) => remove !== undefined);
      edits.push({ together: [...removals, ...left.filter(({ remove }) => remove === undefined)] });
      break;
    }
    edits.push(next);
  }
  return edits;
}

/** Edits that paint what no channel offers in the default. */
function wrongPaints(catalog: Catalog, character: Character): readonly Edit[] {
  return Object.entries(character.colors).flatMap(([id, ramp]) => {
    const channel = catalog.channels.get(id);
    return channel === undefined || isOffered(channel, ramp) ? [] : [{ paint: id, ramp: channel.default }];
  });
}
