import type { Body, Catalog, Part } from "../../catalog/model/catalog.ts";
import { createCharacter } from "../../edits/create-character.ts";
import { celsAt } from "../../look/cels-at.ts";
import type { Look, LookLayer, Moment } from "../../look/look.ts";
import { timedFrames } from "../../look/moments.ts";
import { resolveLook } from "../../look/resolve-look.ts";
import { composeFrame } from "../../raster/compose-frame.ts";
import type { Image, Images } from "../../raster/image.ts";
import { type Sheet, sheetOf } from "../../raster/sheet.ts";
import { type Mask, MaskDrawing, maskOf, united } from "./mask.ts";

/** One frame of a part, or of a bare body, as it is drawn in the rig's frame. */
export interface DrawnMask {
  readonly animation: string;
  readonly facing: string;
  readonly frame: number;
  /** What is more than a shadow. */
  readonly mask: Mask;
  /** Where to find it again. */
  readonly time: number;
}

/** The frames of an animation in a facing. */
export interface Series {
  readonly animation: string;
  readonly facing: string;
  readonly frames: readonly DrawnMask[];
}

/** What the pixels of a bare body or a part on one body are. */
export interface FigureFacts {
  readonly body: Body;
  /** `undefined` for the bare body. */
  readonly part: Part | undefined;
  readonly slot: string | undefined;
  readonly look: Look;
  readonly series: readonly Series[];
  /** The same of each layer by itself, in the order of the look. */
  readonly layers: readonly LayerFacts[];
  readonly pictures: readonly PictureFacts[];
}

/** What one layer shows. */
export interface LayerFacts {
  readonly path: string;
  readonly series: readonly Series[];
}

/** What a picture of a layer is like. */
export interface PictureFacts {
  readonly path: string;
  readonly layer: LookLayer;
  readonly image: Image;
  /** The same, prepared for drawing: its colors, and the visible pixels of each cell. */
  readonly sheet: Sheet;
  /** The same for pictures that are equal, pixel by pixel. */
  readonly content: string;
}

/** How opaque a pixel is that is more than a shadow. */
const solid = 128;

/** The bare body, without what it is issued with. */
export function bareLook(catalog: Catalog, body: Body): Look {
  const look = resolveLook(catalog, createCharacter(catalog, { body: body.id }));
  return { ...look, layers: look.layers.filter(({ part }) => part === undefined) };
}

/** Parts without the body that wears them, each in the first of its slots. */
export function partsLook(catalog: Catalog, body: Body, parts: readonly Part[]): Look {
  const bare = createCharacter(catalog, { body: body.id });
  const loadout = Object.fromEntries(parts.map(({ id, slots: [slot = ""] }) => [slot, id]));
  const look = resolveLook(catalog, { ...bare, loadout });
  return { ...look, layers: look.layers.filter((layer) => parts.some(({ id }) => id === layer.part)) };
}

/** Draws every frame of a look once, in the facings that are drawn, and keeps what is visible of it. */
export function seriesOf(look: Look, images: Images): readonly Series[] {
  const facings = [...look.rig.facings.values()].filter(({ mirrored }) => !mirrored);
  return [...look.rig.animations.values()].flatMap((animation) =>
    facings.map(({ id: facing }) => {
      const shown = new Map(timedFrames(animation).map(({ frame, time }) => [frame, time]));
      const frames = [...shown]
        .sort(([one], [other]) => one - other)
        .map(([frame, time]): DrawnMask => {
          const mask = maskIn(look, images, { animation: animation.id, facing, time });
          return { animation: animation.id, facing, frame, time, mask };
        });
      return { animation: animation.id, facing, frames };
    }),
  );
}

/** What is visible of a look: from the runs of its cells, where those are drawn as they are, and else from the drawing. */
function maskIn(look: Look, images: Images, moment: Moment): Mask {
  const { frame, origin } = look.rig;
  const cels = celsAt(look, moment);
  const isPlain = cels.every(
    ({ rotation, width, height, source }) => rotation === 0 && width === source.width && height === source.height,
  );
  if (!isPlain) return maskOf(composeFrame(look, images, moment), solid);
  const drawing = new MaskDrawing(frame, solid);
  for (const { image, frame: drawn, layer, x, y, flip, width } of cels) {
    const picture = images.get(image);
    const cut = layer.art.pictures[drawn.picture];
    if (picture === undefined || cut === undefined) continue;
    const { cells, table } = sheetOf(picture, cut, layer.blank);
    const at = { x: origin.x + x, y: origin.y + y, mirror: flip ? width : 0 };
    drawing.add(cells, drawn.cell, { table, opacity: layer.opacity, ...at });
  }
  return drawing.mask();
}

/** What several layers show together. */
export function together(layers: readonly LayerFacts[], bare: readonly Series[]): readonly Series[] {
  const [first, ...others] = layers;
  if (first === undefined) return bare;
  return first.series.map((series, at) => ({
    ...series,
    frames: series.frames.map((frame, number) => ({
      ...frame,
      mask: others.reduce((sum, layer) => {
        const mask = layer.series[at]?.frames[number]?.mask;
        return mask === undefined || mask.count === 0 ? sum : united(sum, mask);
      }, frame.mask),
    })),
  }));
}

/** The pictures of a look, as far as they are there. */
export function picturesIn(look: Look, images: Images): readonly PictureFacts[] {
  return look.layers.flatMap((layer) =>
    layer.images.flatMap((path, number) => {
      const [image, cut] = [images.get(path), layer.art.pictures[number]];
      if (image === undefined || cut === undefined) return [];
      const sheet = sheetOf(image, cut, layer.blank);
      return [{ path, layer, image, sheet, content: contentOf(sheet) }];
    }),
  );
}

/** Two sums over all that is visible, the way of G. Fowler, L. C. Noll and K.-P. Vo (1991) with different factors: enough to tell pictures apart. */
function contentOf({ image: { width, height }, table, cells: { indices, runs } }: Sheet): string {
  let [one, two] = [0x811c9dc5, 0x9747b28c];
  for (const list of [table, runs, indices])
    for (let at = 0; at < list.length; at += 1) {
      const value = list[at] as number;
      one = Math.imul(one ^ value, 0x01000193);
      two = Math.imul(two ^ value, 0x5bd1e995) + at;
    }
  return `${width}x${height}:${one >>> 0}:${two >>> 0}`;
}
