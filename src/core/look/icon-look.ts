import { fitRamp } from "../base/color/ramp.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Look, LookLayer, LookMesh, Recolor } from "./look.ts";
import { lookOf, shownBody } from "./resolve-look.ts";

/** Paper tones, dark to light: what a part is shown on must not compete with it. */
const quiet = [0x8f8878, 0xb9b1a0, 0xcfc8b8, 0xddd7ca, 0xe8e3d8];

/**
 * The look of one part for its option icon: worn alone, in the character's colors, by the character's body in quiet tones.
 *
 * @param slot - the slot it is worn in; the first of its slots when left out.
 * @throws MantleError `unknown-part`, `unknown-body`.
 * @example
 * const look = iconLook(catalog, wren, "storm-hat")
 * await loader.load(look)
 * const icon = drawIcon(look, loader.images, "storm-hat")
 */
export function iconLook(catalog: Catalog, character: Character, part: string, slot?: string): Look {
  const found = requireKnown("part", part, catalog.parts);
  const body = shownBody(catalog, character);
  const worn = slot ?? found.slots[0] ?? "";
  const look = lookOf(catalog, character, body, [{ slot: worn, part: found, issued: true }], []);
  const layers = look.layers.flatMap((layer): LookLayer[] => {
    if (layer.part === part) return [layer];
    if (layer.opacity !== 1) return [];
    return [layer.recolor === undefined ? layer : { ...layer, recolor: quieted(layer.recolor) }];
  });
  const meshes = look.meshes.map((mesh): LookMesh => {
    if (mesh.part === part) return mesh;
    return { ...mesh, recolors: new Map([...mesh.recolors].map(([name, recolor]) => [name, quieted(recolor)])) };
  });
  return { ...look, key: `${look.key}|icon ${worn}/${part}`, layers, meshes };
}

function quieted(recolor: Recolor): Recolor {
  return { ...recolor, ramp: "quiet", colors: fitRamp(quiet, recolor.key) };
}
