import { OrthographicCamera, Scene, Vector3, WebGLRenderer } from "three";
import { requireKnown } from "../../core/base/require-known.ts";
import type { Rectangle, Rig } from "../../core/catalog/model/catalog.ts";
import type { Look } from "../../core/look/look.ts";
import type { ModelCache } from "./model-cache.ts";
import { type ModelFigure, openModelFigure } from "./model-figure.ts";

export interface ModelRendererOptions {
  /** Width and height of the picture, in pixels. */
  readonly width: number;
  readonly height: number;
  /** What of the rig's frame is seen, in its pixels, or the name of a crop; all that fits is seen around it. @defaultValue the frame */
  readonly window?: Rectangle | string;
  /** @defaultValue the rig's first */
  readonly animation?: string;
  /** @defaultValue the rig's first */
  readonly facing?: string;
  /** Seconds into the animation. @defaultValue 0 */
  readonly time?: number;
}

/** Pictures of looks, drawn by the graphics card: portraits, cards of options, tokens on a map. */
export interface ModelRenderer {
  /**
   * Draws a look as its rig says that it is looked at. Looks are drawn one after the other, in the order of the calls.
   *
   * @throws MantleError `unknown-crop`, `unknown-animation`, `unknown-facing`, `no-model`.
   */
  render(look: Look, options: ModelRendererOptions): Promise<HTMLCanvasElement>;
  /** Gives back the graphics card. */
  close(): void;
}

/**
 * Opens what draws pictures of looks.
 *
 * @example
 * const snapshots = openModelRenderer(shelf);
 * document.body.append(await snapshots.render(look, { window: "portrait", width: 96, height: 108 }));
 */
export function openModelRenderer(shelf: ModelCache): ModelRenderer {
  return new Studio(shelf);
}

class Studio implements ModelRenderer {
  readonly #shelf: ModelCache;
  readonly #renderer = new WebGLRenderer({ antialias: true, alpha: true, preserveDrawingBuffer: true });
  readonly #scene = new Scene();
  /** One figure for each skeleton, which changes from look to look. */
  readonly #figures = new Map<string, ModelFigure>();
  #last: Promise<unknown> = Promise.resolve();

  constructor(shelf: ModelCache) {
    this.#shelf = shelf;
  }

  render(look: Look, options: ModelRendererOptions): Promise<HTMLCanvasElement> {
    const taking = this.#last.then(() => this.#draw(look, options));
    this.#last = taking.catch(() => {});
    return taking;
  }

  close(): void {
    for (const figure of this.#figures.values()) figure.close();
    this.#figures.clear();
    this.#renderer.dispose();
  }

  async #draw(
    look: Look,
    { width, height, window, animation, facing, time = 0 }: ModelRendererOptions,
  ): Promise<HTMLCanvasElement> {
    const { rig } = look;
    const crop = typeof window === "string" ? requireKnown("crop", window, rig.crops) : undefined;
    const figure = await this.#figureOf(look);
    figure.object.rotation.y = turnOf(rig, facing ?? crop?.facing ?? firstOf(rig.facings));
    figure.play(animation ?? crop?.animation ?? firstOf(rig.animations), 0);
    figure.seek(time);
    const seen =
      typeof window === "object"
        ? window
        : ((crop && aroundPoint(figure, crop.rectangle, crop.point)) ?? { x: 0, y: 0, ...rig.frame });
    this.#renderer.setSize(width, height, false);
    this.#scene.add(figure.object);
    this.#renderer.render(this.#scene, cameraOn(rig, seen, width / height));
    figure.object.removeFromParent();
    const picture = document.createElement("canvas");
    Object.assign(picture, { width, height });
    picture.getContext("2d")?.drawImage(this.#renderer.domElement, 0, 0);
    return picture;
  }

  async #figureOf(look: Look): Promise<ModelFigure> {
    const known = this.#figures.get(look.skeleton ?? "");
    if (known !== undefined) {
      await known.show(look);
      return known;
    }
    const made = await openModelFigure(this.#shelf, look);
    this.#figures.set(look.skeleton ?? "", made);
    return made;
  }
}

function firstOf(ids: ReadonlyMap<string, unknown>): string {
  return ids.keys().next().value ?? "";
}

/** Radians by which a figure is turned to face somewhere. */
export function turnOf({ facings, model }: Rig, facing: string): number {
  const { id, drawnAs } = requireKnown("facing", facing, facings);
  return ((model?.turns.get(id) ?? -(model?.turns.get(drawnAs) ?? 0)) * Math.PI) / 180;
}

/** A rectangle around a point of a figure, in pixels of its frame. */
function aroundPoint(figure: ModelFigure, rectangle: Rectangle, point: string | undefined): Rectangle {
  const { origin, model } = figure.look.rig;
  if (point === undefined || model === undefined) return rectangle;
  const place = figure.point(point);
  // It moved with the clip, and nothing was drawn since.
  place.updateWorldMatrix(true, false);
  const { x, y, z } = new Vector3().setFromMatrixPosition(place.matrixWorld);
  const tilt = (model.tilt * Math.PI) / 180;
  return {
    ...rectangle,
    x: rectangle.x + origin.x + x * model.scale,
    y: rectangle.y + origin.y - (y * Math.cos(tilt) - z * Math.sin(tilt)) * model.scale,
  };
}

/** Looks at what is in a rectangle of the frame, and at what fits around it. @param shape - width to height of the picture. */
function cameraOn({ origin, model }: Rig, { x, y, width, height }: Rectangle, shape: number): OrthographicCamera {
  const { scale = 1, tilt = 0 } = model ?? {};
  const [across, down] = [Math.max(width, height * shape), Math.max(height, width / shape)];
  const [left, top] = [x + width / 2 - across / 2 - origin.x, origin.y - y - height / 2 + down / 2];
  const camera = new OrthographicCamera(
    left / scale,
    (left + across) / scale,
    top / scale,
    (top - down) / scale,
    -far,
    far,
  );
  camera.rotation.x = (-tilt * Math.PI) / 180;
  return camera;
}

/** How far around a figure its camera sees, in units of the model. */
const far = 100;
