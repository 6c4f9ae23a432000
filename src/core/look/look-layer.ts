import type { Body, Catalog, Depth, Layer, LayerArt } from "../catalog/model/catalog.ts";
import { isTabled, tablePath } from "../catalog/model/frames-table.ts";
import type { Worn } from "../rules/worn.ts";
import type { LookLayer } from "./look.ts";
import { pictureOf } from "./picture-of.ts";

/** All of a layer but its colors, and where it is shown. */
export function lookLayer(
  { tables }: Catalog,
  body: Body,
  layer: Layer,
  worn: Worn | undefined,
): Omit<LookLayer, "recolor" | "side"> {
  const { rest, byFacing } = depthOf(layer, body, worn?.slot ?? "");
  return {
    part: worn?.part.id,
    ...drawnArt(layer, body, tables),
    blank: layer.blank,
    depth: rest,
    depthByFacing: byFacing,
    opacity: layer.opacity,
    otherwise: layer.otherwise,
    attach: layer.attach,
    offset: forBody(layer.offset, body) ?? { x: 0, y: 0 },
    scale: forBody(layer.scale, body) ?? 1,
  };
}

function depthOf({ depth, group }: Layer, { rig: { depths } }: Body, slot: string): Depth {
  return depth ?? depths.get(`${slot}/${group}`) ?? depths.get(slot) ?? noDepth;
}

const noDepth: Depth = { rest: 0, byFacing: new Map() };

/** The pictures of a layer on a body, and how its frames lie in them. A table that was not handed in shows nothing. */
export function drawnArt(layer: Layer, body: Body, tables: Catalog["tables"]): Pick<LookLayer, "images" | "art"> {
  const own = pictureOf(layer, body);
  if (!isTabled(layer)) return { images: [own], art: layer.art.get(body.rig.id) ?? noArt };
  const table = tables.get(tablePath(layer, body.artName));
  if (table === undefined) return { images: [], art: noArt };
  return { images: table.images.map((image) => image ?? own), art: table.art.get(body.rig.id) ?? noArt };
}

const noArt: LayerArt = { key: "", pictures: [], frames: new Map(), grid: undefined };

/** The entry for a body, or else the nearest it extends, or else for all. */
function forBody<T>(said: ReadonlyMap<string, T>, { lineage }: Body): T | undefined {
  const named = lineage.find((body) => said.has(body));
  return said.get(named ?? "");
}
