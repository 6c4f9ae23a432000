import { celsAt } from "../core/look/cels-at.ts";
import type { Cel, Moment } from "../core/look/look.ts";
import type { Painter } from "../core/look/painter.ts";
import { type Representative, Representatives } from "../core/look/representatives.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import { cropImage, type Image, type Images } from "../core/raster/image.ts";
import { visibleBounds } from "../core/raster/visible-bounds.ts";

/** Paints looks on canvases, keeping the frames it has drawn. */
export interface CanvasPainter extends Painter<CanvasRenderingContext2D> {
  /** How many bytes the kept frames take. */
  readonly bytes: number;
  /** Drops every cached frame. */
  clear(): void;
}

export interface PainterOptions {
  /**
   * How many bytes of frames to keep; those not painted for longest go first.
   *
   * @defaultValue 64 MiB
   */
  readonly bytes?: number;
}

/** A frame that was drawn, and where its visible part lies. */
interface Kept {
  readonly owner: Representative;
  readonly picture: CanvasImageSource | undefined;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Opens a painter.
 *
 * Each frame is composed once, in the figure's colors, and only its visible part is kept, as a picture outside any canvas: when
 * the context of a canvas is lost, nothing here is, and the next paint goes on where it was. Canvases keep colors multiplied by
 * alpha, in 8 bits: opaque pixels are exact, translucent ones may come out a step apart from the composed frame.
 *
 * @param images - the pictures of every look that will be painted; may grow later.
 */
export function canvasPainter(images: Images, { bytes: limit = 64 * 2 ** 20 }: PainterOptions = {}): CanvasPainter {
  // By the cels of a frame, which are the same array every time; the one painted longest ago comes first.
  const kept = new Map<readonly Cel[], Kept>();
  const none = () => new Representatives<Representative>((look) => ({ look, frames: 0 }));
  let looks = none();
  let bytes = 0;

  const drop = (cels: readonly Cel[], { owner, width, height }: Kept) => {
    kept.delete(cels);
    bytes -= width * height * 4;
    looks.drop(owner);
  };
  const draw = (owner: Representative, cels: readonly Cel[], moment: Moment): Kept => {
    const frame = composeFrame(owner.look, images, moment);
    const bounds = visibleBounds(frame);
    const { x, y, width, height } = bounds ?? { x: 0, y: 0, width: 0, height: 0 };
    const drawn = { owner, picture: bounds && pictureOf(cropImage(frame, bounds)), x, y, width, height };
    kept.set(cels, drawn);
    looks.keep(owner);
    bytes += width * height * 4;
    for (const [oldest, each] of kept) {
      if (bytes <= limit || each === drawn) break;
      drop(oldest, each);
    }
    return drawn;
  };
  return {
    paint(context, look, moment, { x, y, scale = 1 }) {
      const owner = looks.of(look);
      const cels = celsAt(owner.look, moment);
      const frame = kept.get(cels) ?? draw(owner, cels, moment);
      kept.delete(cels);
      kept.set(cels, frame);
      if (frame.picture === undefined) return;
      const { origin } = look.rig;
      context.imageSmoothingEnabled = false;
      context.drawImage(
        frame.picture,
        Math.round(x - origin.x * scale) + frame.x * scale,
        Math.round(y - origin.y * scale) + frame.y * scale,
        frame.width * scale,
        frame.height * scale,
      );
    },
    get bytes() {
      return bytes;
    },
    clear() {
      kept.clear();
      looks = none();
      bytes = 0;
    },
  };
}

/** A picture as a canvas takes it. */
function imageDataOf({ data, width, height }: Image): ImageData {
  const own = new ImageData(width, height);
  own.data.set(data);
  return own;
}

function pictureOf(image: Image): CanvasImageSource {
  const canvas = new OffscreenCanvas(image.width, image.height);
  canvas.getContext("2d")?.putImageData(imageDataOf(image), 0, 0);
  return canvas.transferToImageBitmap();
}

/** A canvas that shows a picture, pixel for pixel. */
export function canvasOf(image: Image): HTMLCanvasElement {
  const canvas = document.createElement("canvas");
  canvas.width = image.width;
  canvas.height = image.height;
  canvas.getContext("2d")?.putImageData(imageDataOf(image), 0, 0);
  return canvas;
}
