import { type Camera, Group } from "three";
import { type Atlas, type AtlasOptions, openAtlas } from "../../core/raster/open-atlas.ts";
import type { PictureLoader } from "../shared/drawn.ts";
import { DrawnFigure, type PlaneFigureOptions } from "./drawn-figure.ts";
import { PageMeshes } from "./page-meshes.ts";

export interface FiguresOptions {
  /** Fetches the pictures of looks. */
  readonly loader: PictureLoader;
  /** The size of a pixel of a figure, in units of the scene. @defaultValue `1 / 32` */
  readonly unitSize?: number;
  /** How the atlas is made that all figures share. */
  readonly atlas?: Omit<AtlasOptions, "alpha">;
}

/** Drawn figures of a scene in three dimensions, which share their pixels. */
export interface Figures {
  /** What a scene holds: all figures, which the game may also place under others of its objects. */
  readonly object: Group;
  /** The pixels they share. */
  readonly atlas: Atlas;
  /** Makes a figure in `object`. */
  add(options?: PlaneFigureOptions): DrawnFigure;
  /**
   * Moves all figures on, and lays them where they stand by now: to be called last before a scene is rendered.
   *
   * @param seconds - since the last call.
   * @param camera - to which those are turned that are to be.
   */
  update(seconds: number, camera?: Camera): void;
  /** Takes all figures away, and gives back all that was made for them. */
  close(): void;
}

/**
 * Opens what drawn figures share in three: each is a plane that stands where its object does, and all that lie on one page of the
 * atlas are one draw call.
 *
 * @example
 * const figures = openFigures({ loader });
 * scene.add(figures.object);
 * const wren = figures.add({ look, animation: "walk", turned: "to-camera" });
 * wren.position.set(2, 0, -1);
 * figures.update(seconds, camera);
 */
export function openFigures({ loader, unitSize = 1 / 32, atlas: options }: FiguresOptions): Figures {
  const atlas = openAtlas(loader.images, { ...options, alpha: "straight" });
  const object = new Group();
  const meshes = new PageMeshes(atlas, object, unitSize);
  const all = new Set<DrawnFigure>();
  const leave = (figure: DrawnFigure) => void all.delete(figure);
  return {
    object,
    atlas,
    add(given = {}) {
      const figure = new DrawnFigure({ atlas, loader, unit: unitSize, leave }, given);
      all.add(figure);
      object.add(figure);
      return figure;
    },
    update(seconds, camera) {
      camera?.updateWorldMatrix(true, false);
      meshes.begin();
      for (const figure of all) {
        figure.update(seconds, camera);
        if (figure.frame !== undefined && isShown(figure)) meshes.lay(figure.frame, figure.matrixWorld);
      }
      meshes.upload();
    },
    close() {
      for (const figure of [...all]) figure.close();
      atlas.close();
      object.removeFromParent();
    },
  };
}

/** Whether it is in a scene, and neither it nor what it is part of is hidden. */
function isShown(figure: DrawnFigure): boolean {
  let each: DrawnFigure["parent"] = figure;
  while (each !== null) {
    if (!each.visible) return false;
    each = each.parent;
  }
  return figure.parent !== null;
}
