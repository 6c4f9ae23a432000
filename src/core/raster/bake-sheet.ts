import type { Look } from "../look/look.ts";
import { named } from "../look/named.ts";
import { composeInto } from "./compose-frame.ts";
import { createImage, type Image, type Images } from "./image.ts";

export interface BakeOptions {
  /** @defaultValue all of the rig's, in its order */
  readonly animations?: readonly string[];
  /** @defaultValue all of the rig's, in its order, mirrored ones too */
  readonly facings?: readonly string[];
}

/** A sheet of whole frames and the table that says what is where. */
export interface BakedSheet {
  readonly image: Image;
  readonly table: FrameTable;
}

export interface FrameTable {
  readonly mantle: "frames/1";
  /** Where the figure stands inside each frame, in pixels. */
  readonly origin: readonly [number, number];
  readonly frames: readonly BakedFrame[];
}

export interface BakedFrame {
  readonly animation: string;
  readonly facing: string;
  /** Counted from 0. */
  readonly frame: number;
  /** Upper left corner, width and height in the sheet, in pixels. */
  readonly rect: readonly [number, number, number, number];
  /** How long it is shown, in seconds. */
  readonly duration: number;
}

/**
 * Draws every frame of chosen animations and facings into one picture: a row for each animation and facing, a column for each
 * frame.
 *
 * @throws MantleError `missing-picture`, `unknown-animation`, `unknown-facing`.
 * @example
 * const { image, table } = bakeSheet(look, images, { animations: ["idle", "walk"] })
 */
export function bakeSheet(look: Look, images: Images, options: BakeOptions = {}): BakedSheet {
  const { rig } = look;
  const animations = (options.animations ?? [...rig.animations.keys()]).map((id) =>
    named("animation", id, rig.animations),
  );
  const facings = (options.facings ?? [...rig.facings.keys()]).map((id) => named("facing", id, rig.facings));
  const { width, height } = rig.frame;
  const columns = Math.max(0, ...animations.map(({ frames }) => frames));
  const image = createImage(columns * width, animations.length * facings.length * height);
  const frames: BakedFrame[] = [];
  for (const [group, animation] of animations.entries()) {
    for (const [within, facing] of facings.entries()) {
      const y = (group * facings.length + within) * height;
      for (let frame = 0; frame < animation.frames; frame += 1) {
        composeInto(
          image,
          look,
          images,
          { animation: animation.id, facing: facing.id, time: frame / animation.fps },
          frame * width,
          y,
        );
        frames.push({
          animation: animation.id,
          facing: facing.id,
          frame,
          rect: [frame * width, y, width, height],
          duration: 1 / animation.fps,
        });
      }
    }
  }
  return { image, table: { mantle: "frames/1", origin: [rig.origin.x, rig.origin.y], frames } };
}
