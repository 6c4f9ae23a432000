import { titleFromId } from "../../base/text.ts";
import type {
  Body,
  Catalog,
  Channel,
  CompiledPart,
  CompiledRules,
  Gift,
  LayerGroup,
  Outfit,
  Part,
  Ramp,
  Rig,
  Rule,
  Slot,
  Stat,
} from "../model/catalog.ts";
import type { BodyPoints } from "../read/body-points.ts";
import { readGifts } from "../read/gift.ts";
import { inherited, lineage } from "../read/lineage.ts";
import type { Entry, Sources } from "../read/source.ts";
import { kindOf } from "../rules/rule-kinds.ts";
import type { CatalogSource, PartSource, RampSource, RuleSource, StatSource } from "../schema/schema.ts";
import { compileCreation, compileNames, compilePreset } from "./compile-creation.ts";
import { compileCues } from "./compile-cues.ts";
import { compileForm, compileLayer, compileRig, readColor } from "./compile-drawn.ts";
import { compileRules } from "./compile-rules.ts";

const nothing: readonly never[] = [];
const noPoints: BodyPoints = { table: new Map(), markers: undefined };
const noCounterparts: Readonly<Record<string, string>> = {};

/**
 * Compiles checked sources: every reference resolved, every default filled in, rules and what they see of parts made integers.
 *
 * @param points - of each body that has any.
 */
export function compileCatalog(
  main: CatalogSource,
  sources: Sources,
  points: ReadonlyMap<string, BodyPoints>,
): Catalog {
  const rules = sources.rules.flatMap(readRule);
  const needed = new Set<string>();
  for (const { value } of sources.parts.values()) for (const stat in value.requires) needed.add(stat);
  const compiled = compileRules({
    rules,
    slots: [...sources.slots.keys()],
    stats: compileEach(sources.stats, ({ value }) => readBounds(value)),
    outfits: compileEach(sources.outfits, ({ value }) => value),
    needed,
  });
  const rigs = compileEach(sources.rigs, ({ id, value }) => compileRig(id, value));
  const parts = compileEach(sources.parts, ({ id, value }) => compilePart(id, value, compiled));
  const partsBySlot = new Map<string, Part[]>();
  for (const part of parts.values()) {
    for (const slot of part.slots) {
      const list = partsBySlot.get(slot);
      if (list === undefined) partsBySlot.set(slot, [part]);
      else list.push(part);
    }
  }
  return {
    id: main.id,
    version: main.version,
    title: main.title ?? titleFromId(main.id),
    rigs,
    bodies: compileEach(sources.bodies, ({ id }) => compileBody(id, sources, rigs, points.get(id) ?? noPoints)),
    slots: compileEach(
      sources.slots,
      ({ id, value }): Slot => ({
        id,
        number: compiled.slotNumbers.get(id) ?? -1,
        title: value.title ?? titleFromId(id),
        kind: value.kind,
        required: value.required ?? false,
        default: value.default,
        data: value.data ?? false,
        parts: partsBySlot.get(id) ?? [],
      }),
    ),
    ramps: compileEach(sources.ramps, ({ id, value }) => compileRamp(id, value)),
    channels: compileEach(
      sources.channels,
      ({ id, value }): Channel => ({
        id,
        title: value.title ?? titleFromId(id),
        ramps: value.ramps,
        default: value.default,
        key: value.key.map(readColor),
        match: value.match ?? "key",
        custom: value.custom ?? false,
      }),
    ),
    stats: compileEach(
      sources.stats,
      ({ id, value }): Stat => ({
        id,
        title: value.title ?? titleFromId(id),
        ...readBounds(value),
      }),
    ),
    parts,
    outfits: compileEach(
      sources.outfits,
      ({ id, value }): Outfit => ({
        id,
        title: value.title ?? titleFromId(id),
        parts: value.parts,
        colors: value.colors ?? {},
        others: value.others ?? "keep",
      }),
    ),
    forms: compileEach(sources.forms, ({ id, value }) => compileForm(id, value)),
    presets: compileEach(sources.presets, ({ id, value }) => compilePreset(id, value, sources)),
    creation: sources.creation && compileCreation(sources.creation.value, sources),
    names: sources.names && compileNames(sources.names.value),
    cues: compileCues(sources.cues),
    rules,
    compiled,
  };
}

function compileEach<S, T>(
  entries: ReadonlyMap<string, Entry<S>>,
  compile: (entry: Entry<S>) => T | undefined,
): ReadonlyMap<string, T> {
  const compiled = new Map<string, T>();
  for (const [id, entry] of entries) {
    const made = compile(entry);
    if (made !== undefined) compiled.set(id, made);
  }
  return compiled;
}

function readRule({ value, file, pointer }: Entry<RuleSource>, number: number): readonly Rule[] {
  return [kindOf(value)?.read(value, { number, place: { file, pointer }, say: value.say }) ?? []].flat();
}

/** A body; `undefined` for one without a rig, with which no catalog is compiled. */
function compileBody(
  id: string,
  sources: Sources,
  rigs: ReadonlyMap<string, Rig>,
  points: BodyPoints,
): Body | undefined {
  const line = lineage(id, sources);
  const rig = rigs.get(inherited(line, "rig") ?? "");
  if (rig === undefined) return undefined;
  const own = line[0]?.value;
  return {
    id,
    title: own?.title ?? titleFromId(id),
    rig,
    layers: (inherited(line, "art") ?? []).map(compileLayer),
    artName: own?.artFrom ?? id,
    lineage: line.map((entry) => entry.id),
    points: points.table,
    markers: points.markers,
    collider: inherited(line, "collider"),
    abilities: inherited(line, "abilities") ?? nothing,
    stats: Object.assign({}, ...line.map(({ value }) => value.stats ?? {}).reverse()),
    growsInto: own?.growsInto,
  };
}

function compilePart(id: string, source: PartSource, rules: CompiledRules): Part {
  const occupies = source.occupies ?? nothing;
  const tags = source.tags ?? nothing;
  const slots = typeof source.slot === "string" ? [source.slot] : source.slot;
  const price = source.price;
  const gives = readGifts(source.gives);
  const requires = source.requires ?? {};
  return {
    id,
    title: source.title ?? titleFromId(id),
    slots,
    occupies,
    tags,
    layers: (source.layers ?? nothing).map(compileLayer),
    fits: source.fits === undefined ? undefined : new Set(source.fits),
    hides: source.hides === undefined ? nothing : source.hides.map(readGroup),
    gives,
    requires,
    price,
    access: source.access ?? (price === undefined || price === 0 ? "owned" : "listed"),
    rarity: source.rarity,
    counterparts: source.counterparts ?? noCounterparts,
    stack: source.stack ?? 1,
    compiled: compileForRules(id, tags, slots, occupies, gives, requires, rules),
  };
}

function readGroup(source: string): LayerGroup {
  const [slot = "", group] = source.split("/");
  return { slot, group };
}

function compileForRules(
  id: string,
  tags: readonly string[],
  slots: readonly string[],
  occupies: readonly string[],
  gives: Readonly<Record<string, Gift>>,
  requires: Readonly<Record<string, number>>,
  rules: CompiledRules,
): CompiledPart {
  let marks = listed(nothing, rules.partMarks.get(id));
  for (const tag of tags) marks = listed(marks, rules.tagMarks.get(tag));
  let covers: readonly number[] = nothing;
  for (const slot of occupies) {
    const number = rules.slotNumbers.get(slot) ?? -1;
    covers = listed(covers, number);
    marks = listed(marks, markOf(number, rules));
  }
  const places = slots.map((slot) => rules.slotNumbers.get(slot) ?? -1);
  let led: readonly number[] = nothing;
  for (const each of marks) for (const rule of rules.triggers[each] ?? nothing) led = listed(led, rule);
  const own = places.length === 1 ? markOf(places[0] ?? -1, rules) : undefined;
  for (const rule of rules.triggers[own ?? -1] ?? nothing) led = listed(led, rule);
  let weighed: CompiledPart["gives"] = nothing;
  for (const stat in gives) {
    const number = rules.statNumbers.get(stat);
    const gift = gives[stat];
    if (number === undefined || gift === undefined) continue;
    weighed = grown(weighed, { stat: number, add: gift.add, times: gift.times });
  }
  let required: CompiledPart["requires"] = nothing;
  for (const stat in requires) {
    required = grown(required, { stat: rules.statNumbers.get(stat) ?? -1, atLeast: requires[stat] ?? 0 });
  }
  return { marks, rules: led, places, covers, gives: weighed, requires: required };
}

/** The mark of a filled slot, where rules ask about it. */
function markOf(slot: number, { slotMarks }: CompiledRules): number | undefined {
  const mark = slotMarks[slot] ?? -1;
  return mark < 0 ? undefined : mark;
}

/** A list with a number, if there is one and it is not there yet. */
function listed(numbers: readonly number[], number: number | undefined): readonly number[] {
  return number === undefined || numbers.includes(number) ? numbers : grown(numbers, number);
}

/**
 * A list with one more item. Lists that grow by `push` keep room for sixteen, which for the many short lists of a large catalog
 * is most of its memory.
 */
function grown<T>(list: readonly T[], item: T): readonly T[] {
  return list.length === 0 ? [item] : [...list, item];
}

function compileRamp(id: string, source: RampSource): Ramp {
  const { title, colors } = "colors" in source ? source : { title: undefined, colors: source };
  return { id, title: title ?? titleFromId(id), colors: colors.map(readColor) };
}

function readBounds(source: StatSource): { min: number; max: number } {
  return { min: source.min ?? Number.NEGATIVE_INFINITY, max: source.max ?? Number.POSITIVE_INFINITY };
}
