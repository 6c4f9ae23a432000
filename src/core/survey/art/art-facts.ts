import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Body, Catalog, Part } from "../../catalog/model/catalog.ts";
import { createCharacter } from "../../edits/create-character.ts";
import type { Look, LookLayer } from "../../look/look.ts";
import { runOf } from "../../look/moments.ts";
import { resolveLook } from "../../look/resolve-look.ts";
import { composeFrame } from "../../raster/compose-frame.ts";
import { contentName } from "../../raster/content-name.ts";
import type { Image, Images } from "../../raster/image.ts";
import { type Mask, maskOf } from "./mask.ts";

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
  readonly pictures: readonly PictureFacts[];
}

/** What a picture of a layer is like. */
export interface PictureFacts {
  readonly path: string;
  readonly layer: LookLayer;
  readonly image: Image;
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

/** A part alone, worn in a slot. */
export function partLook(catalog: Catalog, body: Body, part: Part, slot: string): Look {
  const bare = createCharacter(catalog, { body: body.id });
  const look = resolveLook(catalog, { ...bare, loadout: { [slot]: part.id } });
  return { ...look, layers: look.layers.filter((layer) => layer.part === part.id) };
}

/** Draws every frame of a look once, in the facings that are drawn, and keeps what is visible of it. */
export function seriesOf(look: Look, images: Images): readonly Series[] {
  const facings = [...look.rig.facings.values()].filter(({ mirrored }) => !mirrored);
  return [...look.rig.animations.values()].flatMap((animation) =>
    facings.map(({ id: facing }) => {
      const shown = new Map(runOf(animation).map(({ frame, time }) => [frame, time]));
      const frames = [...shown].sort(([one], [other]) => one - other).map(([frame, time]): DrawnMask => {
        const drawn = composeFrame(look, images, { animation: animation.id, facing, time });
        return { animation: animation.id, facing, frame, time, mask: maskOf(drawn, solid) };
      });
      return { animation: animation.id, facing, frames };
    }),
  );
}

const names = new WeakMap<Image, string>();

/** The pictures of a look, as far as they are there. */
export function picturesIn(look: Look, images: Images): readonly PictureFacts[] {
  return look.layers.flatMap((layer) =>
    layer.images.flatMap((path) => {
      const image = images.get(path);
      return image === undefined ? [] : [{ path, layer, image, content: contentOf(image) }];
    }),
  );
}

function contentOf(image: Image): string {
  return getOrInsert(names, image, () => {
    const { data, width } = image;
    return contentName(`${width}`, new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
  });
}
