import type { Body, Catalog, Layer } from "../catalog/catalog.ts";
import type { Character } from "../character/character.ts";
import { fitsBody } from "../character/fits-body.ts";
import { unknownId } from "../character/refuse.ts";
import { type Worn, wornParts } from "../character/worn.ts";
import { MantleError } from "../problem.ts";
import { valueAt } from "../record.ts";
import type { Look, LookLayer, Recolor } from "./look.ts";
import { pictureOf } from "./picture-of.ts";
import { layoutSheet } from "./sheet-layout.ts";

/**
 * Resolves how a character looks: the layers of its body and of every worn part, without those another part hides, each with
 * its colors.
 *
 * Parts the catalog does not know, or that were not made for the body, are not shown. A channel the character has not painted,
 * or painted with a ramp that is not offered, shows its default.
 *
 * @throws MantleError `unknown-body`.
 * @example
 * const look = resolveLook(catalog, wren)
 * celsAt(look, { animation: "walk", facing: "west", time: 0.35 })
 */
export function resolveLook(catalog: Catalog, character: Character): Look {
  const body = catalog.bodies.get(character.body);
  if (body === undefined) {
    const problem = unknownId({ catalog, context: {} }, "body", character.body, ["body"]);
    throw new MantleError(problem.code, problem.because, [problem]);
  }
  const worn = wornParts(catalog, character).filter(({ part }) => fitsBody(part, body.id));
  const bare = body.layers.map((layer) => lookLayer(catalog, character, body, undefined, layer));
  const dressed = worn.flatMap((each) =>
    each.part.layers
      .filter((layer) => isShown(layer, each, worn))
      .map((layer) => lookLayer(catalog, character, body, each.part.id, layer)),
  );
  const layers = [...bare, ...dressed];
  const { rig, collider } = body;
  return { key: [catalog.id, catalog.version, rig.id, ...layers.map(layerKey)].join("|"), rig, layers, collider };
}

function isShown(layer: Layer, { slot, part }: Worn, worn: readonly Worn[]): boolean {
  if (layer.in !== undefined && layer.in !== slot) return false;
  return !worn.some(
    (other) =>
      other.part !== part &&
      other.part.hides.some((hidden) => hidden.slot === slot && (hidden.group ?? layer.group) === layer.group),
  );
}

function lookLayer(
  catalog: Catalog,
  character: Character,
  body: Body,
  part: string | undefined,
  layer: Layer,
): LookLayer {
  return {
    part,
    image: pictureOf(layer, body),
    layout: layoutSheet(body.rig, layer),
    depth: layer.depth,
    depthByFacing: layer.depthByFacing,
    recolor: layer.channel === undefined ? undefined : recolorFor(catalog, character, layer.channel),
    opacity: layer.opacity,
    otherwise: layer.otherwise,
  };
}

/** The colors a character shows in a channel; `undefined` for a channel or ramp the catalog does not have. */
export function recolorFor(catalog: Catalog, character: Pick<Character, "colors">, id: string): Recolor | undefined {
  const channel = catalog.channels.get(id);
  if (channel === undefined) return undefined;
  const painted = valueAt(character.colors, id);
  const ramp = catalog.ramps.get(painted !== undefined && channel.ramps.includes(painted) ? painted : channel.default);
  return ramp === undefined ? undefined : { channel: id, ramp: ramp.id, key: channel.key, colors: ramp.colors };
}

function layerKey({ image, depth, recolor, opacity }: LookLayer): string {
  return `${image}@${depth}${recolor === undefined ? "" : `#${recolor.ramp}`}${opacity === 1 ? "" : `*${opacity}`}`;
}
