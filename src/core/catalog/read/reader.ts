import type { Rig } from "../model/drawn.ts";
import type { LayerArt } from "../model/layer-art.ts";
import type { FramesSource } from "../schema/frames-schema.ts";
import type { Findings, Known } from "./findings.ts";
import type { Entry, Sources } from "./source.ts";

/** The ids that conditions can name. */
export type KnownIds = Readonly<Record<"part" | "tag" | "slot" | "body" | "outfit" | "stat", Known>>;

/** What everything is read with: all sections, the ids that conditions can name, and where findings go. */
export interface Reader {
  readonly sources: Sources;
  readonly known: KnownIds;
  readonly findings: Findings;
}

/** What layers are read with besides. */
export interface LayerReader extends Reader {
  readonly rigs: ReadonlyMap<string, Rig>;
  /** The frames tables that were handed in, by path. */
  readonly tables: ReadonlyMap<string, FramesSource>;
  /** By slot, that slot alone, as most parts have it. */
  readonly places: Map<string, PartPlaces>;
  /** How frames lie on each rig, by what layers say of it: most say nothing, and share it. */
  readonly arts: Map<string, ReadonlyMap<string, LayerArt>>;
}

/** The slots that a part goes in, by their ids and by their numbers. */
export interface PartPlaces {
  readonly slots: readonly string[];
  readonly places: readonly number[];
}

/** Gathers the ids that conditions can name; a stat is one that the catalog names, a body has, or a part or a rule gives. */
export function knownIds(sources: Sources): KnownIds {
  const tags = new Set<string>();
  const stats = new Set(sources.stats.keys());
  for (const { value } of sources.bodies.values()) for (const stat in value.stats) stats.add(stat);
  for (const { value } of sources.parts.values()) {
    for (const tag of value.tags ?? []) tags.add(tag);
    for (const stat in value.gives) stats.add(stat);
  }
  for (const { value } of sources.rules) for (const stat in value.gives) stats.add(stat);
  return {
    part: sources.parts,
    slot: sources.slots,
    body: sources.bodies,
    outfit: sources.outfits,
    tag: tags,
    stat: stats,
  };
}

/** Where a layer is written, and who can wear it. */
export interface LayerPlace {
  readonly entry: Entry<unknown>;
  readonly keys: readonly (string | number)[];
  readonly bodies: Iterable<string>;
  /** The slots it can be worn in; none for what belongs to a body. */
  readonly slots: readonly string[];
}
