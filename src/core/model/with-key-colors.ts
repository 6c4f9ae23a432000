import type { Look } from "../look/look.ts";

/**
 * The look of a model in the key colors of its channels, to be drawn once and colored later: `drawModel` of it, with `only` for one channel after the
 * other, gives the pictures of layers.
 *
 * @example
 * const model = await prepareModel(withKeyColors(look), models);
 * for (const channel of channelsOf(model)) bakeSheet(look, images, { draw: (moment) => drawModel(model, moment, { only: channel }) });
 */
export function withKeyColors(look: Look): Look {
  return {
    ...look,
    key: `${look.key}|keys`,
    meshes: look.meshes.map((mesh) => ({
      ...mesh,
      recolors: new Map([...mesh.recolors].map(([name, recolor]) => [name, { ...recolor, colors: recolor.key }])),
    })),
  };
}
