import { titleFromId } from "../../base/text.ts";
import { compileRules } from "../compile/compile-rules.ts";
import { compileTable } from "../compile/table-art.ts";
import type { Catalog, CompiledRules, Part, Rule } from "../model/catalog.ts";
import type { AddedBy, Pack } from "../model/pack.ts";
import type { FramesSource } from "../schema/frames-schema.ts";
import type { CatalogSource } from "../schema/schema.ts";
import type { BodyPoints } from "./body-points.ts";
import { Findings } from "./findings.ts";
import { type ArtByOwner, readBody } from "./read-body.ts";
import { readChannel, readRamp } from "./read-colors.ts";
import { readCreation, readNames } from "./read-creation.ts";
import { readCues } from "./read-cues.ts";
import { readForm } from "./read-form.ts";
import { readOutfit, readPreset } from "./read-outfit.ts";
import { readPart } from "./read-part.ts";
import { readRig } from "./read-rig.ts";
import { readRule } from "./read-rule.ts";
import { readSlot } from "./read-slot.ts";
import { readStat } from "./read-stat.ts";
import { knownIds, type LayerReader } from "./reader.ts";
import type { Entry, Sources } from "./source.ts";

/** A catalog as far as it could be read: it is one only where nothing is an error. */
export interface SourcesReading {
  readonly catalog: Catalog;
  /** Of everything but rules, and of rules. */
  readonly findings: readonly Findings[];
}

/** What a catalog is read from. */
export interface Given {
  readonly main: CatalogSource;
  readonly sources: Sources;
  /** Of each body that has any. */
  readonly points: ReadonlyMap<string, BodyPoints>;
  /** The frames tables that were handed in, by path. */
  readonly tables: ReadonlyMap<string, FramesSource>;
  /** Those that are laid over it. */
  readonly packs: readonly Pack[];
}

/**
 * Reads the sections of a catalog, each entry in one walk that yields what it says and reports what is wrong with it: every
 * reference resolved, every default filled in, rules and what they see of parts made integers.
 */
export function readSources({ main, sources, points, tables, packs }: Given): SourcesReading {
  const known = knownIds(sources);
  const findings = new Findings();
  const inRules = new Findings();
  const rules = sources.rules.flatMap(
    (entry, number) => readRule(entry, number, { sources, known, findings: inRules }) ?? [],
  );
  const rigs = readEach(sources.rigs, (entry) => readRig(entry, { sources, known, findings }));
  const reader: LayerReader = { sources, known, findings, rigs, tables, places: new Map(), arts: new Map() };
  const bodies = readBodies(reader, points);
  const stats = readEach(sources.stats, (entry) => readStat(entry, reader));
  const compiled = compileSources(sources, rules, stats);
  const parts = readEach(sources.parts, (entry) => readPart(entry, compiled, reader));
  const { id, version, title = titleFromId(main.id) } = main;
  const catalog: Catalog = {
    id,
    version,
    title,
    rigs,
    bodies,
    slots: readSlots(reader, parts),
    ramps: readEach(sources.ramps, readRamp),
    channels: readEach(sources.channels, (entry) => readChannel(entry, reader)),
    stats,
    tags: readTags(reader),
    parts,
    outfits: readEach(sources.outfits, (entry) => readOutfit(entry, reader)),
    forms: readEach(sources.forms, (entry) => readForm(entry, reader)),
    presets: readEach(sources.presets, (entry) => readPreset(entry, reader)),
    creation: sources.creation && readCreation(sources.creation, reader),
    names: sources.names && readNames(sources.names),
    cues: readCues(reader),
    rules,
    tables: new Map([...tables].map(([path, table]) => [path, compileTable(path, table, rigs)])),
    packs: new Map(packs.map((pack) => [pack.id, pack])),
    addedBy: packs.length === 0 ? byNone : addedBy(sources),
    retired: new Set([...parts.values()].filter(({ retired }) => retired).map((part) => part.id)),
    compiled,
  };
  // Whatever makes objects reactive leaves a frozen one as it is.
  return { catalog: Object.freeze(catalog), findings: [findings, inRules] };
}

function readBodies(reader: LayerReader, points: ReadonlyMap<string, BodyPoints>): Catalog["bodies"] {
  const art: ArtByOwner = { layers: new Map(), meshes: new Map() };
  return readEach(reader.sources.bodies, (entry) =>
    readBody(entry, reader.rigs, points.get(entry.id) ?? noPoints, art, reader),
  );
}

function readTags({ sources, known, findings }: LayerReader): Catalog["tags"] {
  return readEach(sources.tags, (entry) => {
    findings.known(entry, [], "tag", entry.id, known.tag);
    return { id: entry.id, title: entry.value.title };
  });
}

/** Reads the slots, each with the parts that go in it. */
function readSlots(reader: LayerReader, parts: Catalog["parts"]): Catalog["slots"] {
  const { slots } = reader.sources;
  const partsBySlot = new Map<string, Part[]>([...slots.keys()].map((id) => [id, []]));
  for (const part of parts.values()) for (const slot of part.slots) partsBySlot.get(slot)?.push(part);
  const numbers = new Map([...slots.keys()].map((id, number) => [id, number]));
  return readEach(slots, (entry) =>
    readSlot(entry, numbers.get(entry.id) ?? -1, partsBySlot.get(entry.id) ?? [], reader),
  );
}

function compileSources(sources: Sources, rules: readonly Rule[], stats: Catalog["stats"]): CompiledRules {
  return compileRules({
    rules,
    slots: [...sources.slots.keys()],
    stats,
    outfits: outfitParts(sources),
    needed: neededStats(sources),
  });
}

const none: ReadonlyMap<string, string> = new Map();
const byNone: AddedBy = { bodies: none, slots: none, parts: none, channels: none, ramps: none, outfits: none };

/** The packs of what characters can name. */
function addedBy({ bodies, slots, parts, channels, ramps, outfits }: Sources): AddedBy {
  const packsIn = (entries: ReadonlyMap<string, Entry<unknown>>) => {
    const found = new Map<string, string>();
    for (const [id, { pack }] of entries) if (pack !== undefined) found.set(id, pack);
    return found;
  };
  return {
    bodies: packsIn(bodies),
    slots: packsIn(slots),
    parts: packsIn(parts),
    channels: packsIn(channels),
    ramps: packsIn(ramps),
    outfits: packsIn(outfits),
  };
}

const noPoints: BodyPoints = { table: new Map(), markers: undefined };

function readEach<S, T>(
  entries: ReadonlyMap<string, Entry<S>>,
  read: (entry: Entry<S>) => T | undefined,
): ReadonlyMap<string, T> {
  const all = new Map<string, T>();
  for (const entry of entries.values()) {
    const made = read(entry);
    if (made !== undefined) all.set(entry.id, made);
  }
  return all;
}

function outfitParts({ outfits }: Sources): ReadonlyMap<string, { readonly parts: readonly string[] }> {
  return new Map([...outfits].map(([id, { value }]) => [id, value]));
}

/** The stats that parts require. */
function neededStats({ parts }: Sources): ReadonlySet<string> {
  const needed = new Set<string>();
  for (const { value } of parts.values()) for (const stat in value.requires) needed.add(stat);
  return needed;
}
