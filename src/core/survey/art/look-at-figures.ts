import type { Body, Catalog, Part } from "../../catalog/model/catalog.ts";
import type { Look } from "../../look/look.ts";
import type { Image } from "../../raster/image.ts";
import { artChecks } from "../checks.ts";
import { type ArtSign, type FigureTrace, traceOf } from "./art-check.ts";
import { bareLook, type FigureFacts, partsLook, picturesIn, seriesOf, together } from "./art-facts.ts";
import { type SharedDepths, sharedDepths } from "./shared-depths.ts";

/** Gives a picture by its path; `undefined` for one that is not there or cannot be read. */
export type LoadPicture = (path: string) => Promise<Image | undefined>;

/** Some parts on a body. */
export interface FigureGroup {
  readonly body: string;
  /** Whether the bare body is looked at as well. */
  readonly bare: boolean;
  readonly parts: readonly string[];
}

/** What was seen of them, as plain data: another thread may have looked. */
export interface FiguresSeen {
  readonly signs: readonly ArtSign[];
  readonly traces: readonly FigureTrace[];
}

/** Someone who looks at one group after the other, and remembers the body of the last. */
export function figureLooker(catalog: Catalog, load: LoadPicture): (group: FigureGroup) => Promise<FiguresSeen> {
  let last: Model | undefined;
  return async ({ body: id, bare: isBareWanted, parts }) => {
    const body = catalog.bodies.get(id);
    if (body === undefined) return { signs: [], traces: [] };
    last = last?.body === body ? last : await modelOf(catalog, body, load);
    const { bare, shared } = last;
    if (bare === undefined) return { signs: [], traces: [] };
    const signs: ArtSign[] = [];
    const traces: FigureTrace[] = [];
    const look = (figure: FigureFacts) => {
      for (const check of artChecks) signs.push(...(check.find?.(figure, bare) ?? []));
      traces.push(traceOf(figure, shared));
    };
    if (isBareWanted) look(bare);
    for (const name of parts) {
      const part = catalog.parts.get(name);
      if (part === undefined) continue;
      const worn = { body, part, slot: part.slots[0], look: partsLook(catalog, body, [part]) };
      const figure = await factsOf(worn, load);
      if (figure !== undefined) look(figure);
    }
    return { signs, traces };
  };
}

/** A body on which parts are looked at. */
interface Model {
  readonly body: Body;
  /** `undefined` where a picture of it is not there. */
  readonly bare: FigureFacts | undefined;
  readonly shared: SharedDepths;
}

async function modelOf(catalog: Catalog, body: Body, load: LoadPicture): Promise<Model> {
  const bare = { body, part: undefined, slot: undefined, look: bareLook(catalog, body) };
  return { body, bare: await factsOf(bare, load), shared: sharedDepths(catalog, body) };
}

interface Figure {
  readonly body: Body;
  readonly part: Part | undefined;
  readonly slot: string | undefined;
  readonly look: Look;
}

/** Draws a figure whole; `undefined` where a picture of it is not there. */
async function factsOf(figure: Figure, load: LoadPicture): Promise<FigureFacts | undefined> {
  const images = await loadAll(figure.look, load);
  if (images === undefined) return undefined;
  const layers = figure.look.layers.map((layer) => ({
    path: layer.images[0] ?? "",
    series: seriesOf({ ...figure.look, layers: [layer] }, images),
  }));
  return { ...figure, series: together(layers, []), layers, pictures: picturesIn(figure.look, images) };
}

/** The pictures of a look; `undefined` where one is not there. */
export async function loadAll({ layers }: Look, load: LoadPicture): Promise<ReadonlyMap<string, Image> | undefined> {
  const images = new Map<string, Image>();
  for (const path of new Set(layers.flatMap((layer) => layer.images))) {
    const image = await load(path);
    if (image === undefined) return undefined;
    images.set(path, image);
  }
  return images;
}
