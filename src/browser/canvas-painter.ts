import type { Look, Moment } from "../core/look/look.ts";
import { frameAt } from "../core/look/moments.ts";
import { named } from "../core/look/named.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import type { Image, Images } from "../core/raster/image.ts";

/** Where a figure is painted. */
export interface Placement {
  /** Where its origin goes, in pixels of the canvas. */
  readonly x: number;
  readonly y: number;
  /** A whole number keeps pixels crisp. */
  readonly scale?: number;
}

/** Paints looks on canvases, keeping the frames it has drawn. */
export interface CanvasPainter {
  /** Paints a look at a moment with its origin at a place. Its pictures must be loaded. */
  paint(context: CanvasRenderingContext2D, look: Look, moment: Moment, placement: Placement): void;
  /** Lets every kept frame go. */
  dispose(): void;
}

export interface PainterOptions {
  /**
   * How many frames to keep; those not painted for longest go first.
   *
   * @defaultValue `512`
   */
  readonly frames?: number;
}

/**
 * Opens a painter.
 *
 * @param images - the pictures of every look that will be painted; may grow later.
 */
export function canvasPainter(images: Images, { frames: limit = 512 }: PainterOptions = {}): CanvasPainter {
  const kept = new Map<string, HTMLCanvasElement>();
  const frameFor = (look: Look, moment: Moment): HTMLCanvasElement => {
    const animation = named("animation", moment.animation, look.rig.animations);
    const number = frameAt(animation, moment.time);
    const key = `${look.key}\n${moment.animation}/${moment.facing}/${number}`;
    const drawn = kept.get(key) ?? canvasOf(composeFrame(look, images, { ...moment, time: number / animation.fps }));
    kept.delete(key);
    kept.set(key, drawn);
    const oldest = kept.size > limit ? kept.keys().next().value : undefined;
    if (oldest !== undefined) kept.delete(oldest);
    return drawn;
  };
  return {
    paint(context, look, moment, { x, y, scale = 1 }) {
      const { origin, frame } = look.rig;
      context.imageSmoothingEnabled = false;
      context.drawImage(
        frameFor(look, moment),
        x - origin.x * scale,
        y - origin.y * scale,
        frame.width * scale,
        frame.height * scale,
      );
    },
    dispose: () => kept.clear(),
  };
}

/** A canvas that shows a picture, pixel for pixel. */
export function canvasOf(image: Image): HTMLCanvasElement {
  const canvas = document.createElement("canvas");
  canvas.width = image.width;
  canvas.height = image.height;
  canvas.getContext("2d")?.putImageData(new ImageData(image.data, image.width, image.height), 0, 0);
  return canvas;
}
