import { getOrInsert } from "../base/get-or-insert.ts";
import { getOwn } from "../base/record.ts";
import type { Body, Catalog, CompiledPart, CompiledSet, Part, Slot } from "../catalog/model/catalog.ts";
import { accessTo, isAvailable } from "../character/bag/access.ts";
import { countInBag } from "../character/bag/bag.ts";
import type { Character } from "../character/character.ts";
import type { Context, Holdings } from "../character/context.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { maskOf } from "./mask.ts";

/** One thing a variable can be: parts that no rule distinguishes, or nothing chosen, or an answer. */
export interface Value {
  /**
   * `none`: an empty slot. `issued`: the default of a required slot. `covered`: a required slot that is taken by a part of
   * another. `worn`: any of `parts`. `answer`: an answer, or none. `set`: whether a set is worn.
   */
  readonly kind: "none" | "issued" | "covered" | "worn" | "answer" | "set";
  /** Every part that may be worn here, when `worn`; the default, when `issued`. */
  readonly parts: readonly Part[];
  readonly marks: readonly number[];
  /** The numbers of the slots it takes, its own among them. */
  readonly covers: readonly number[];
  readonly gives: CompiledPart["gives"];
  readonly needs: CompiledPart["requires"];
}

/** A slot, an answer that is left open, or whether a set that gives to a weighed stat is worn, which follows from the slots. */
export interface Variable {
  readonly slot: Slot | undefined;
  readonly set?: CompiledSet;
  readonly values: readonly Value[];
}

/** Who can have a mark, take a slot: for each variable the mask of such values. */
export type Holders = readonly { readonly variable: number; readonly mask: Uint32Array }[];

/** What a body can wear, in the form the solver works on: slots are variables, parts that rules do not distinguish are one value. */
export interface Model {
  readonly catalog: Catalog;
  readonly body: Body;
  /** Slots by their number, then open answers, then sets. */
  readonly variables: readonly Variable[];
  /** How many of them are to be decided: the others, which are sets, follow. */
  readonly decisions: number;
  /** By mark. Marks beyond those of the catalog stand for parts of which there are too few. */
  readonly holders: readonly Holders[];
  /** By slot number, who takes it. */
  readonly takers: readonly Holders[];
  /** By slot number, who takes it by choice. */
  readonly choosers: readonly Holders[];
  /** How many of a mark there are to wear, where there are too few for every slot. */
  readonly copies: readonly { readonly mark: number; readonly count: number }[];
}

const everything = {};
const models = new WeakMap<object, WeakMap<Catalog, Map<string, Model>>>();

/** The model of what a character may wear under a context: what is owned and, with the wardrobe `"bag"`, at hand. */
export function modelFor(catalog: Catalog, body: Body, character: Character | undefined, context: Context): Model {
  const { holdings } = context;
  if (context.wardrobe === "bag" && character !== undefined) {
    return buildModel({
      catalog,
      body,
      character,
      copiesOf: (part, slot) => carriedCopies(catalog, character, part, slot, holdings),
    });
  }
  const copiesOf = (part: Part) => (isAvailable(part, character) ? ownedCopies(part, holdings) : 0);
  // Where the bag has little room, it matters what comes out of it.
  if (context.bagPlaces !== undefined && character !== undefined)
    return buildModel({
      catalog,
      body,
      character,
      copiesOf,
      isAlone: ({ id }) => countInBag(character.bag, id) > 0 || Object.values(character.loadout).includes(id),
    });
  const defaults = character === undefined ? [] : chosenDefaults(catalog, character);
  const kept = [...catalog.retired].filter((id) => {
    const part = catalog.parts.get(id);
    return part !== undefined && isAvailable(part, character);
  });
  const byCatalog = getOrInsert(models, holdings ?? everything, () => new WeakMap<Catalog, Map<string, Model>>());
  const made = getOrInsert(byCatalog, catalog, () => new Map<string, Model>());
  if (made.size >= mostModels) made.clear();
  return getOrInsert(made, [body.id, ...defaults, ...kept.map((id) => `retired ${id}`)].join(" "), () =>
    buildModel({ catalog, body, copiesOf, ...(character && { character }) }),
  );
}

/** How many models of a catalog are kept: one for each body, and for what is chosen though it would come by itself, or retired and had. */
const mostModels = 64;

/** What may be besides what is asked of a model of anyone. */
export interface Openness {
  /** Whether the game may signal whatever it likes; else it signals nothing. @defaultValue `true` */
  readonly signals?: boolean;
  /** Whether retired parts may be worn, as by those who have them. @defaultValue `true` */
  readonly retired?: boolean;
  /** Whether a part that needs something is a value of its own, so that each need is that of one part. @defaultValue `false` */
  readonly byNeed?: boolean;
}

/** The model of what anyone could ever wear on a body, whatever they answered. */
export function openModel(
  catalog: Catalog,
  body: Body,
  { signals = true, retired = true, byNeed = false }: Openness = {},
): Model {
  const openAnswers = signals ? ["fact", "signal"] : ["fact"];
  const copiesOf = (part: Part) => (retired || !part.retired ? Number.POSITIVE_INFINITY : 0);
  const isAlone = ({ compiled }: Part) => byNeed && compiled.requires.length > 0;
  return buildModel({ catalog, body, copiesOf, isAlone, openAnswers });
}

/** Required slots that have been given their default by choice: such a part does not yield to others as an issued one does. */
function chosenDefaults(catalog: Catalog, { loadout }: Character): readonly string[] {
  return [...catalog.slots.values()].flatMap((slot) =>
    slot.required && slot.default !== undefined && getOwn(loadout, slot.id) === slot.default ? [slot.id] : [],
  );
}

function ownedCopies(part: Part, holdings: Holdings | undefined): number {
  return accessTo(part, holdings) === "owned" ? Number.POSITIVE_INFINITY : 0;
}

function carriedCopies(
  catalog: Catalog,
  character: Character,
  part: Part,
  slot: Slot,
  holdings: Holdings | undefined,
): number {
  const owned = isAvailable(part, character) ? ownedCopies(part, holdings) : 0;
  if (slot.kind !== "gear" || owned === 0) return owned;
  const worn = part.slots.filter((id) => catalog.slots.get(id)?.kind === "gear" && character.loadout[id] === part.id);
  return countInBag(character.bag, part.id) + worn.length;
}

interface Making {
  readonly catalog: Catalog;
  readonly body: Body;
  /** How many of a part there are to wear. */
  readonly copiesOf: (part: Part, slot: Slot) => number;
  /** Whether a part is a value by itself, though rules do not tell it from others: one that is in the bag, or needs something. */
  readonly isAlone?: (part: Part) => boolean;
  /** Whose choices are there to stay. */
  readonly character?: Character;
  /** The kinds of conditions on answers that are left open. */
  readonly openAnswers?: readonly string[];
}

function buildModel({ catalog, body, copiesOf, isAlone, character, openAnswers = [] }: Making): Model {
  const { compiled } = catalog;
  const copies = new Map<Part, { mark: number; count: number }>();
  const limit = (part: Part, count: number): number | undefined => {
    if (count >= part.slots.length) return undefined;
    return getOrInsert(copies, part, () => ({ mark: compiled.marks.size + copies.size, count })).mark;
  };
  const variables: Variable[] = [];
  for (const slot of catalog.slots.values()) {
    const classes = new Map<
      string,
      { readonly first: Part; readonly parts: Part[]; readonly extra: number | undefined }
    >();
    for (const part of slot.parts) {
      const byItself = slot.required && slot.default === part.id && character?.loadout[slot.id] !== part.id;
      if (!fitsBody(part, body.id) || byItself) continue;
      const count = copiesOf(part, slot);
      if (count === 0) continue;
      const extra = limit(part, count);
      getOrInsert(classes, `${signature(part, extra)}${isAlone?.(part) === true ? part.id : ""}`, () => ({
        first: part,
        parts: [],
        extra,
      })).parts.push(part);
    }
    const worn = [...classes.values()].map(({ first, parts, extra }) =>
      wearingValue("worn", first, parts, slot, compiled.slotMarks, extra),
    );
    variables.push({ slot, values: [...unchosen(catalog, slot), ...worn] });
  }
  variables.push(...answerVariables(catalog, openAnswers));
  const decisions = variables.length;
  variables.push(...setVariables(catalog));

  const markCount = compiled.marks.size + copies.size;
  const slotCount = catalog.slots.size;
  return {
    catalog,
    body,
    variables,
    decisions,
    holders: holdersOf(variables, markCount, ({ marks }) => marks),
    takers: holdersOf(variables, slotCount, ({ covers }) => covers),
    choosers: holdersOf(variables, slotCount, ({ kind, covers }) => (kind === "worn" ? covers : [])),
    copies: [...copies.values()],
  };
}

/** What rules distinguish a part by: parts of one signature are one value. */
function signature({ compiled }: Part, extra: number | undefined): string {
  const { marks, covers, gives, requires: needs } = compiled;
  let key = `${extra ?? ""};${marks.join(" ")};${covers.join(" ")}`;
  for (const { stat, add, times } of gives) key += `;${stat} ${add} ${times}`;
  for (const { stat, atLeast } of needs) key += `;n${stat} ${atLeast}`;
  return key;
}

function wearingValue(
  kind: "worn" | "issued",
  part: Part,
  parts: readonly Part[],
  slot: Slot,
  slotMarks: readonly number[],
  extra?: number,
): Value {
  const { marks, covers, gives, requires: needs } = part.compiled;
  const all = new Set(marks);
  const own = slotMarks[slot.number] ?? -1;
  if (own >= 0) all.add(own);
  if (extra !== undefined) all.add(extra);
  return { kind, parts, marks: [...all], covers: [...new Set([slot.number, ...covers])], gives, needs };
}

const nothing = { parts: [], marks: [], covers: [], gives: [], needs: [] } as const;

/** What a slot can be without a choice. */
function unchosen(catalog: Catalog, slot: Slot): readonly Value[] {
  if (!slot.required) return [{ kind: "none", ...nothing }];
  const covered: Value = { kind: "covered", ...nothing };
  const initial = slot.default === undefined ? undefined : catalog.parts.get(slot.default);
  if (initial === undefined) return [covered];
  return [wearingValue("issued", initial, [initial], slot, catalog.compiled.slotMarks), covered];
}

/** A variable for each fact or signal that rules ask about, with every answer that makes a difference. */
function answerVariables({ compiled }: Catalog, kinds: readonly string[]): readonly Variable[] {
  const asked = new Map<string, Map<string | undefined, number>>();
  for (const { condition, mark } of compiled.given) {
    if (!kinds.includes(condition.kind)) continue;
    const value = "value" in condition ? condition.value : undefined;
    getOrInsert(asked, `${condition.kind}:${condition.id}`, () => new Map()).set(value, mark);
  }
  return [...asked.values()].map((values) => {
    const there = values.get(undefined);
    const some = there === undefined ? [] : [there];
    const named = [...values].flatMap(([value, mark]) => (value === undefined ? [] : [[mark, ...some]]));
    const answers = [[], ...(there === undefined ? [] : [some]), ...named];
    return { slot: undefined, values: answers.map((marks): Value => ({ ...nothing, kind: "answer", marks })) };
  });
}

/** A variable for each set that gives to a stat that is weighed: not worn, or worn. */
function setVariables({ compiled }: Catalog): readonly Variable[] {
  return compiled.sets.flatMap((set) => {
    const gives = Object.entries(set.gives).flatMap(([id, { add, times }]) => {
      const stat = compiled.statNumbers.get(id);
      return stat === undefined ? [] : [{ stat, add, times }];
    });
    if (gives.length === 0) return [];
    const [missing, worn]: [Value, Value] = [
      { ...nothing, kind: "set" },
      { ...nothing, kind: "set", gives },
    ];
    return [{ slot: undefined, set, values: [missing, worn] }];
  });
}

function holdersOf(
  variables: readonly Variable[],
  count: number,
  numbersOf: (value: Value) => readonly number[],
): readonly Holders[] {
  const holders: { variable: number; mask: Uint32Array }[][] = Array.from({ length: count }, () => []);
  for (let variable = 0; variable < variables.length; variable += 1) {
    const { values } = variables[variable] as Variable;
    const byNumber = new Map<number, number[]>();
    for (let value = 0; value < values.length; value += 1) {
      const numbers = numbersOf(values[value] as Value);
      for (let at = 0; at < numbers.length; at += 1) getOrInsert(byNumber, numbers[at] as number, () => []).push(value);
    }
    byNumber.forEach((having, number) => {
      holders[number]?.push({ variable, mask: maskOf(values.length, having) });
    });
  }
  return holders;
}
