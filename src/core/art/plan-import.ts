import { formatColor } from "../base/color/color.ts";
import { getOrInsert } from "../base/get-or-insert.ts";
import { message } from "../base/message.ts";
import { nearestId } from "../base/nearest-id.ts";
import type { Problem } from "../base/problem.ts";
import type { Catalog, Rig } from "../catalog/model/catalog.ts";
import type { Image } from "../raster/image.ts";
import { packPictures, trimPicture } from "../raster/pack-pictures.ts";
import { findRecolors } from "./find-recolors.ts";
import { artFinding, type Found, type FoundLayer, type FoundPart } from "./found.ts";
import { nameId, titleOf } from "./name-id.ts";

export interface PlanOptions {
  readonly rig: Rig;
  /** The slot that parts go in whose art does not say it. */
  readonly slot?: string;
  /** How near parts are to the viewer. @defaultValue what the rig says for the slot */
  readonly depth?: number;
  /** The channel they are colored through. */
  readonly channel?: string;
  /** The folder their pictures go in. @defaultValue `"art"` */
  readonly folder?: string;
  /** The parts of the catalog that may be replaced. @defaultValue none */
  readonly replaces?: ReadonlySet<string>;
}

/** What an import would make, before anything is written. */
export interface ImportPlan {
  readonly parts: readonly PlannedPart[];
  /** What an included file of the catalog says of the parts; `undefined` when there are none. */
  readonly fragment: { readonly parts: Readonly<Record<string, object>> } | undefined;
  readonly problems: readonly Problem[];
}

export interface PlannedPart {
  readonly id: string;
  readonly title: string;
  readonly slot: string;
  /** As it was found. */
  readonly found: FoundPart;
  readonly layers: readonly PlannedLayer[];
}

/** A picture and its table, and where in the catalog folder they go. */
export interface PlannedLayer {
  readonly path: string;
  readonly image: Image;
  readonly tablePath: string;
  readonly table: object;
}

/**
 * Plans parts of a catalog from what was found in art: an id from each name, one packed picture and its frames table a layer, and the entry
 * of each part. Nothing is written.
 *
 * @example
 * const plan = planImport(catalog, readSheet("Rain Hat.png", image, rig), { rig, slot: "hat", depth: 70 })
 * plan.parts[0].id // → "rain-hat"
 */
export function planImport(catalog: Catalog, { parts, problems: before }: Found, options: PlanOptions): ImportPlan {
  const problems = [...before];
  const named = new Map<string, FoundPart[]>();
  for (const part of parts) {
    if (part.layers.every(({ frames }) => frames.length === 0)) {
      problems.push(artFinding(part.name, "warning", message("nothing-drawn", { name: part.name })));
      continue;
    }
    const id = nameId(part.name);
    if (id === undefined) {
      problems.push(
        artFinding(part.name, "error", message("name-without-letters", { name: part.name }), message("rename-it")),
      );
    } else getOrInsert(named, id, () => []).push(part);
  }
  const planned: PlannedPart[] = [];
  for (const [id, [part, ...others]] of named) {
    if (part === undefined) continue;
    if (others.length > 0) {
      const names = [part, ...others].map(({ name }) => name);
      problems.push(artFinding(part.name, "error", message("ids-clash", { id, names }), message("rename-one")));
    } else if (catalog.parts.has(id) && options.replaces?.has(id) !== true)
      problems.push(artFinding(part.name, "error", message("id-taken", { id }), message("say-replace")));
    else {
      const slot = slotOf(catalog, part, options, problems);
      if (slot !== undefined) planned.push(planPart(id, part, slot, options));
    }
  }
  for (const { part, other, key, ramp } of findRecolors(planned.map(({ found }) => found))) {
    const names = { part: titleOf(part.name), other: titleOf(other.name) };
    const isEqual = key.every((color, at) => color === ramp[at]);
    const recolored = message("recolor-of-part", { ...names, count: key.length });
    const colors = { part: names.part, key: key.map(formatColor), ramp: ramp.map(formatColor) };
    problems.push(
      isEqual
        ? artFinding(other.name, "warning", message("same-as-part", names), message("mend-same-as-part"))
        : artFinding(other.name, "warning", recolored, message("make-channel", colors)),
    );
  }
  const fragment = { parts: Object.fromEntries(planned.map((part) => [part.id, entryOf(part, options)])) };
  return { parts: planned, fragment: planned.length === 0 ? undefined : fragment, problems };
}

/** The slot a part goes in, if all is said that its entry needs. */
function slotOf(catalog: Catalog, part: FoundPart, options: PlanOptions, problems: Problem[]): string | undefined {
  const { name, slot = options.slot } = part;
  const { depth, rig } = options;
  if (slot === undefined) {
    problems.push(artFinding(name, "error", message("no-slot-for-part", { name: titleOf(name) }), message("say-slot")));
    return undefined;
  }
  if (!catalog.slots.has(slot)) {
    const meant = nearestId(slot, [...catalog.slots.keys()]);
    const fix = meant === undefined ? message("say-slot") : message("meant-id", { meant });
    problems.push(artFinding(name, "error", message("unknown-slot", { id: slot }), fix));
    return undefined;
  }
  if (depth === undefined && !rig.depths.has(slot)) {
    problems.push(
      artFinding(name, "error", message("no-depth-for-part", { name: titleOf(name) }), message("say-depth")),
    );
    return undefined;
  }
  return slot;
}

function planPart(id: string, found: FoundPart, slot: string, { rig, folder = "art" }: PlanOptions): PlannedPart {
  const layers = found.layers.map((layer, number): PlannedLayer => {
    const stem = `${folder}/${slot}/${id}${found.layers.length > 1 ? `-${number + 1}` : ""}`;
    return { path: `${stem}.png`, tablePath: `${stem}.frames.json`, ...packLayer(layer, rig) };
  });
  return { id, title: titleOf(found.name), slot, found, layers };
}

/** One packed picture of a layer, and its frames table. */
function packLayer({ frames }: FoundLayer, { frame: size, origin }: Rig): Pick<PlannedLayer, "image" | "table"> {
  const trimmed = frames.map(({ image }) => trimPicture(image));
  const { pages, places } = packPictures(trimmed.map((each) => each?.picture));
  const listed = frames.flatMap(({ animation, facing, frame, at }, number) => {
    const [cut, place] = [trimmed[number], places[number]];
    if (cut === undefined || place === undefined) return [];
    return [
      {
        ...(animation === undefined ? {} : { animation }),
        ...(facing === undefined ? {} : { facing }),
        ...(frame === undefined ? {} : { frame }),
        rect: [place.x, place.y, place.width, place.height],
        offset: [at.x + cut.bounds.x, at.y + cut.bounds.y],
      },
    ];
  });
  const table = { mantle: "frames/1", size: [size.width, size.height], origin: [origin.x, origin.y], frames: listed };
  return { image: pages[0] as Image, table };
}

function entryOf({ title, slot, found, layers }: PlannedPart, { depth, channel }: PlanOptions): object {
  return {
    title,
    slot,
    layers: layers.map(({ path, tablePath }, number) => {
      const opacity = found.layers[number]?.opacity ?? 1;
      return {
        image: path,
        frames: tablePath,
        ...(depth === undefined ? {} : { depth: depth + number }),
        ...(channel === undefined ? {} : { channel }),
        ...(opacity === 1 ? {} : { opacity }),
      };
    }),
  };
}
