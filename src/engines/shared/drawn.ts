import type { Look } from "../../core/look/look.ts";
import type { PictureSource } from "../../core/look/painter.ts";
import { type Figure, type FigureOptions, openFigure } from "../../core/play/figure.ts";
import { type HitResult, hitTest } from "../../core/raster/hit-test.ts";
import type { Images } from "../../core/raster/image.ts";
import type { Atlas, AtlasFrame } from "../../core/raster/open-atlas.ts";

/** Where the pictures of looks come from: an `imageLoader`, or a game's own. */
export interface PictureLoader extends PictureSource {
  readonly images: Images;
}

/** Who is shown: somebody who sits in a seat of a session, or whatever look the game sets. */
export interface DrawnFigureOptions extends Omit<FigureOptions, "loader" | "at"> {
  /** The look it begins with, where it is not that of a seat. */
  readonly look?: Look;
}

/** How much of a pixel is covered where a figure can be touched, 0 to 255; less is a shadow. */
const tangible = 128;

/** A figure, and the frame of it that an engine shows. */
export class Drawn {
  readonly figure: Figure;
  /** The frame to show; `undefined` while nothing is there to be shown. */
  frame: AtlasFrame | undefined;
  readonly #atlas: Atlas;
  readonly #images: Images;

  constructor(atlas: Atlas, loader: PictureLoader, { look, ...options }: DrawnFigureOptions) {
    this.#atlas = atlas;
    this.#images = loader.images;
    this.figure = openFigure({ ...options, loader });
    if (look !== undefined) this.figure.look = look;
  }

  /**
   * Moves it on. Returns whether the frame to show differs from the one before.
   *
   * @param isSeen - whether it is on the screen; else nothing is drawn for it.
   */
  advance(seconds: number, isSeen: boolean): boolean {
    this.figure.advance(seconds);
    return this.show(isSeen);
  }

  /** Turns to the frame of this moment. Returns whether it differs from the one before. */
  show(isSeen: boolean): boolean {
    const { look, moment } = this.figure;
    const frame = look === undefined || !isSeen ? undefined : this.#atlas.frame(look, moment);
    if (frame === this.frame) return false;
    this.frame = frame;
    return true;
  }

  /** Whether something of it is at a place, in its pixels from its origin. */
  isAt(x: number, y: number): boolean {
    const { frame } = this;
    if (frame?.page === undefined) return false;
    const [across, down] = [Math.floor(x - frame.left), Math.floor(y - frame.top)];
    if (across < 0 || down < 0 || across >= frame.width || down >= frame.height) return false;
    const { data, size } = frame.page;
    return (data[((frame.y + down) * size + frame.x + across) * 4 + 3] ?? 0) >= tangible;
  }

  /** The front-most part at a point, in its pixels from its origin; `undefined` where there is nothing. */
  hitTest(x: number, y: number): HitResult | undefined {
    const { look, moment } = this.figure;
    if (look === undefined) return undefined;
    const { origin } = look.rig;
    return hitTest(look, this.#images, moment, x + origin.x, y + origin.y);
  }
}
