import { Core, type Game, Plugins, type Scene, type Types } from "phaser";
import type { Look } from "../../core/look/look.ts";
import { type Atlas, type AtlasOptions, openAtlas } from "../../core/raster/open-atlas.ts";
import type { DrawnFigureOptions, PictureLoader } from "../shared/drawn.ts";
import { DrawnFigure } from "./drawn-figure.ts";
import { FrameTextures } from "./frame-textures.ts";
import { PictureFile } from "./picture-file.ts";

export interface FiguresOptions {
  /** Fetches the pictures of looks. */
  readonly loader: PictureLoader;
  /** What scenes call it. @defaultValue `"figures"`: `this.figures` in a scene */
  readonly key?: string;
  /** How the atlas is made that all figures of the game share. */
  readonly atlas?: Omit<AtlasOptions, "alpha">;
}

/** What a scene has of the plugin. */
export interface Figures {
  /** The pixels that all figures of the game share. */
  readonly atlas: Atlas;
  /** Has the scene's loader fetch the pictures of looks, so that its progress counts them; to be called in `preload`. */
  preload(...looks: readonly Look[]): void;
  /** Adds a figure to the scene, its origin at a place. It leaves when it is destroyed, with its scene at the latest. */
  add(x: number, y: number, options?: DrawnFigureOptions): DrawnFigure;
}

declare global {
  namespace Phaser {
    interface Scene {
      /** The figures of the scene, where the game has the plugin, and its `key` is not another. */
      readonly figures: Figures;
    }
  }
}

/** What a game has of the plugin. */
interface Shared {
  readonly atlas: Atlas;
  readonly textures: FrameTextures;
  readonly all: Set<DrawnFigure>;
}

/**
 * Makes the plugin for the configuration of a game: each of its scenes has the figures by name, and all of them share an atlas, of
 * which only what changed goes to the graphics card, once a step of the game.
 *
 * @example
 * new Game({ scene: Pier, plugins: { scene: [figuresPlugin({ loader })] } });
 * // in the scene
 * const wren = this.figures.add(160, 90, { look });
 * wren.play("walk");
 */
export function figuresPlugin({
  loader,
  key = "figures",
  atlas: options,
}: FiguresOptions): Types.Core.PluginObjectItem {
  const games = new WeakMap<Game, Shared>();
  const sharedBy = (game: Game): Shared => {
    const known = games.get(game);
    if (known !== undefined) return known;
    const made = share(game, openAtlas(loader.images, { ...options, alpha: "straight" }), key);
    games.set(game, made);
    return made;
  };
  class FiguresOfScene extends Plugins.ScenePlugin implements Figures {
    get #shared(): Shared {
      return sharedBy((this.systems as Scene["sys"]).game);
    }

    get atlas(): Atlas {
      return this.#shared.atlas;
    }

    preload(...looks: readonly Look[]): void {
      const { load } = this.scene as Scene;
      for (const look of looks) load.addFile(new PictureFile(load, loader, look));
    }

    add(x: number, y: number, given: DrawnFigureOptions = {}): DrawnFigure {
      const { atlas, textures, all } = this.#shared;
      const scene = this.scene as Scene;
      const figure = new DrawnFigure(
        scene,
        x,
        y,
        { atlas, loader, textures, leave: (left) => all.delete(left) },
        given,
      );
      all.add(figure);
      return scene.add.existing(figure);
    }
  }
  return { key, plugin: FiguresOfScene, mapping: key };
}

function share(game: Game, atlas: Atlas, key: string): Shared {
  const textures = new FrameTextures(atlas, game, key);
  const all = new Set<DrawnFigure>();
  // After all scenes have moved everything, and before any of them is rendered.
  game.events.on(Core.Events.POST_STEP, () => {
    for (const figure of all) figure.follow();
    textures.upload();
  });
  game.events.once(Core.Events.DESTROY, () => {
    all.clear();
    textures.close();
    atlas.close();
  });
  return { atlas, textures, all };
}
