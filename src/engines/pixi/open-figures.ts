import { type Ticker, UPDATE_PRIORITY } from "pixi.js";
import { type Atlas, type AtlasOptions, openAtlas } from "../../core/raster/open-atlas.ts";
import type { DrawnFigureOptions, PictureLoader } from "../shared/drawn.ts";
import { DrawnFigure } from "./drawn-figure.ts";
import { FrameTextures } from "./frame-textures.ts";

export interface FiguresOptions {
  /** Fetches the pictures of looks. */
  readonly loader: PictureLoader;
  /** Moves all figures on, by its own time; without it, the game calls `update`. */
  readonly ticker?: Ticker;
  /** How the atlas is made that all figures share. */
  readonly atlas?: Omit<AtlasOptions, "alpha">;
}

/** All figures of a scene, or of a whole game, which share their pixels. */
export interface Figures {
  /** The pixels they share. */
  readonly atlas: Atlas;
  /** Makes a figure, to be added to a scene. It leaves when it is destroyed. */
  add(options?: DrawnFigureOptions): DrawnFigure;
  /** Moves all figures on, and hands over what was drawn. @param seconds - since the last call. */
  update(seconds: number): void;
  /** Destroys all figures, and all that was made for them. */
  close(): void;
}

/**
 * Opens what figures share in Pixi: an atlas that is filled as frames are shown, of which only what changed goes to the graphics
 * card, once a tick.
 *
 * @example
 * const figures = openFigures({ loader: imageLoader((path) => `saltmarsh/${path}`), ticker: app.ticker });
 * const wren = figures.add({ look: resolveLook(catalog, character), animation: "walk" });
 * app.stage.addChild(wren);
 */
export function openFigures({ loader, ticker, atlas: options }: FiguresOptions): Figures {
  const atlas = openAtlas(loader.images, { ...options, alpha: "multiplied" });
  const textures = new FrameTextures(atlas);
  const all = new Set<DrawnFigure>();
  const update = (seconds: number) => {
    for (const figure of all) figure.advance(seconds);
    textures.upload();
  };
  const tick = ({ deltaMS }: Ticker) => update(deltaMS / 1000);
  // After the game has moved everything, and before it is rendered.
  ticker?.add(tick, undefined, UPDATE_PRIORITY.LOW + 1);
  return {
    atlas,
    add(given = {}) {
      const figure = new DrawnFigure({ atlas, loader, textures, leave: (left) => all.delete(left) }, given);
      all.add(figure);
      return figure;
    },
    update,
    close() {
      ticker?.remove(tick);
      for (const figure of [...all]) figure.destroy({ children: true });
      atlas.close();
    },
  };
}
