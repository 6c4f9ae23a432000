import { type Fix, type Problem, pointerTo } from "../../base/problem.ts";
import type { RigSource } from "../schema/art-schema.ts";
import type { CreationSource, NamesSource, PresetSource } from "../schema/creation-schema.ts";
import type { CueSource } from "../schema/cue-schema.ts";
import type {
  BodySource,
  CatalogSource,
  FormSource,
  FragmentSource,
  PartSource,
  RampSource,
  RuleSource,
} from "../schema/schema.ts";

/** An authored entry and where it stands, so that every later finding can point at it. */
export interface Entry<T> {
  readonly id: string;
  readonly value: T;
  readonly file: string;
  readonly pointer: string;
  /** The pack that adds it; `undefined` for what is the catalog's own. */
  readonly pack?: string | undefined;
  /** What packs change of it, in their order, each with its place: `value` holds what is the same no more. */
  readonly changes?: readonly EntryChange[];
}

/** What a pack changes of an entry. */
export interface EntryChange {
  readonly value: unknown;
  readonly file: string;
  readonly pointer: string;
  readonly pack: string;
}

type Section<K extends keyof FragmentSource> = NonNullable<FragmentSource[K]>[keyof NonNullable<FragmentSource[K]>];

/** The sections of all files laid together. */
export interface Sources {
  readonly rigs: ReadonlyMap<string, Entry<RigSource>>;
  readonly bodies: ReadonlyMap<string, Entry<BodySource>>;
  readonly slots: ReadonlyMap<string, Entry<Section<"slots">>>;
  readonly ramps: ReadonlyMap<string, Entry<RampSource>>;
  readonly channels: ReadonlyMap<string, Entry<Section<"channels">>>;
  readonly stats: ReadonlyMap<string, Entry<Section<"stats">>>;
  readonly tags: ReadonlyMap<string, Entry<Section<"tags">>>;
  readonly parts: ReadonlyMap<string, Entry<PartSource>>;
  readonly outfits: ReadonlyMap<string, Entry<Section<"outfits">>>;
  readonly forms: ReadonlyMap<string, Entry<FormSource>>;
  readonly presets: ReadonlyMap<string, Entry<PresetSource>>;
  readonly rules: readonly Entry<RuleSource>[];
  readonly cues: readonly Entry<CueSource>[];
  readonly creation: Entry<CreationSource> | undefined;
  readonly names: Entry<NamesSource> | undefined;
}

export interface SourceFile {
  readonly file: string;
  /** The pack it is of; `undefined` for those of the catalog. */
  readonly pack?: string;
  readonly content: FragmentSource | CatalogSource;
}

/** The sections that are maps by id. */
export type MapSection = Exclude<keyof Sources, "rules" | "cues" | "creation" | "names">;

export const mapSections: readonly MapSection[] = [
  "rigs",
  "bodies",
  "slots",
  "ramps",
  "channels",
  "stats",
  "tags",
  "parts",
  "outfits",
  "forms",
  "presets",
];

/** An entry of a section; its pointer is only put together when there is something to report. */
class SectionEntry implements Entry<unknown> {
  readonly id: string;
  readonly value: unknown;
  readonly file: string;
  readonly section: string;
  readonly pack: string | undefined;

  constructor(section: string, id: string, value: unknown, { file, pack }: SourceFile) {
    this.id = id;
    this.value = value;
    this.file = file;
    this.section = section;
    this.pack = pack;
  }

  get pointer(): string {
    return pointerTo(this.section, this.id);
  }
}

/** Lays the sections of several files together; an id that stands in two files is a problem. */
export function gatherSources(files: readonly SourceFile[]): { sources: Sources; problems: readonly Problem[] } {
  const problems: Problem[] = [];
  const gathered = Object.fromEntries(mapSections.map((section) => [section, new Map<string, Entry<unknown>>()]));
  const rules: Entry<RuleSource>[] = [];
  const cues: Entry<CueSource>[] = [];
  for (const source of files) {
    const { file, content } = source;
    for (const section of mapSections) {
      const entries = gathered[section] as Map<string, Entry<unknown>>;
      const values: Readonly<Record<string, unknown>> = content[section] ?? {};
      for (const id of Object.keys(values)) {
        const entry = new SectionEntry(section, id, values[id], source);
        const first = entries.get(id);
        if (first === undefined) entries.set(id, entry);
        else problems.push(duplicateProblem(entry, first));
      }
    }
    for (const [number, value] of (content.rules ?? []).entries()) {
      rules.push({ id: String(number), value, file, pointer: pointerTo("rules", number) });
    }
    for (const [number, value] of (content.cues ?? []).entries()) {
      cues.push({ id: String(number), value, file, pointer: pointerTo("cues", number) });
    }
  }
  const creation = only("creation", files, problems);
  const names = only("names", files, problems);
  return { sources: { ...(gathered as unknown as Pick<Sources, MapSection>), rules, cues, creation, names }, problems };
}

/** A section of which a catalog has one. */
function only<K extends "creation" | "names">(
  section: K,
  files: readonly SourceFile[],
  problems: Problem[],
): Entry<NonNullable<FragmentSource[K]>> | undefined {
  const entries = files.flatMap(({ file, content, pack }) => {
    const value = content[section];
    return value === undefined ? [] : [{ id: section, value, file, pointer: pointerTo(section), pack }];
  });
  const [first, ...others] = entries;
  if (first !== undefined) for (const entry of others) problems.push(duplicateProblem(entry, first));
  return first;
}

/** What was there first stays as it is, so a pack calls its own otherwise. */
function adviceOn({ id, pack, pointer }: Entry<unknown>): Fix {
  if (pack === undefined) return { code: "mend-duplicate-id", params: {} };
  if (pointer === pointerTo(id)) return { code: "write-change", params: { id } };
  return { code: "add-namespace", params: { name: `${pack}.${id.replace(/^.*\./, "")}` } };
}

function duplicateProblem(entry: Entry<unknown>, first: Entry<unknown>): Problem {
  return {
    code: "duplicate-id",
    params: { id: entry.id, file: first.file, pointer: first.pointer },
    severity: "error",
    place: { file: entry.file, pointer: entry.pointer },
    related: [{ file: first.file, pointer: first.pointer }],
    fixes: [adviceOn(entry)],
  };
}
