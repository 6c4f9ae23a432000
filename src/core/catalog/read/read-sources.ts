import { titleFromId } from "../../base/text.ts";
import { compileRules } from "../compile/compile-rules.ts";
import { compileTable } from "../compile/table-art.ts";
import type { Catalog, Part } from "../model/catalog.ts";
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

/**
 * Reads the sections of a catalog, each entry in one walk that yields what it says and reports what is wrong with it: every
 * reference resolved, every default filled in, rules and what they see of parts made integers.
 *
 * @param points - of each body that has any.
 * @param tables - the frames tables that were handed in, by path.
 * @param packs - those that are laid over it.
 */
export function readSources(
  main: CatalogSource,
  sources: Sources,
  points: ReadonlyMap<string, BodyPoints>,
  tables: ReadonlyMap<string, FramesSource>,
  packs: readonly Pack[],
): SourcesReading {
  const known = knownIds(sources);
  const ruleReader = { sources, known, findings: new Findings() };
  const rules = sources.rules.flatMap((entry, number) => readRule(entry, number, ruleReader) ?? []);
  const findings = new Findings();
  const rigs = readEach(sources.rigs, (entry) => readRig(entry, { sources, known, findings }));
  const reader: LayerReader = { sources, known, findings, rigs, tables, places: new Map(), arts: new Map() };
  const art: ArtByOwner = { layers: new Map(), meshes: new Map() };
  const bodies = readEach(sources.bodies, (entry) =>
    readBody(entry, rigs, points.get(entry.id) ?? noPoints, art, reader),
  );
  const partsBySlot = new Map<string, Part[]>([...sources.slots.keys()].map((id) => [id, []]));
  const slotNumbers = new Map([...sources.slots.keys()].map((id, number) => [id, number]));
  const slots = readEach(sources.slots, (entry) =>
    readSlot(entry, slotNumbers.get(entry.id) ?? -1, partsBySlot.get(entry.id) ?? [], reader),
  );
  const ramps = readEach(sources.ramps, readRamp);
  const channels = readEach(sources.channels, (entry) => readChannel(entry, reader));
  const stats = readEach(sources.stats, (entry) => readStat(entry, reader));
  const tags = readEach(sources.tags, (entry) => {
    findings.known(entry, [], "tag", entry.id, known.tag);
    return { id: entry.id, title: entry.value.title };
  });
  const compiled = compileRules({
    rules,
    slots: [...slots.keys()],
    stats,
    outfits: outfitParts(sources),
    needed: neededStats(sources),
  });
  const retired = new Set<string>();
  const parts = readEach(sources.parts, (entry) => {
    const part = readPart(entry, compiled, reader);
    if (part.retired) retired.add(part.id);
    for (const slot of part.slots) partsBySlot.get(slot)?.push(part);
    return part;
  });
  const outfits = readEach(sources.outfits, (entry) => readOutfit(entry, reader));
  const forms = readEach(sources.forms, (entry) => readForm(entry, reader));
  const presets = readEach(sources.presets, (entry) => readPreset(entry, reader));
  const cues = readCues(reader);
  const creation = sources.creation && readCreation(sources.creation, reader);
  const names = sources.names && readNames(sources.names);
  const tableArt = new Map([...tables].map(([path, table]) => [path, compileTable(path, table, rigs)]));
  const { id, version, title = titleFromId(main.id) } = main;
  const drawn = { rigs, bodies, slots, ramps, channels, stats, tags, parts, outfits, forms };
  return {
    // Whatever makes objects reactive leaves a frozen one as it is.
    catalog: Object.freeze({
      id,
      version,
      title,
      ...drawn,
      presets,
      creation,
      names,
      cues,
      rules,
      tables: tableArt,
      packs: new Map(packs.map((pack) => [pack.id, pack])),
      addedBy: packs.length === 0 ? byNone : addedBy(sources),
      retired,
      compiled,
    }),
    findings: [findings, ruleReader.findings],
  };
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
