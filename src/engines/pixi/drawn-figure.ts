import { Container, type DestroyOptions, type PointData, Sprite, Texture } from "pixi.js";
import type { HitResult } from "../../core/raster/hit-test.ts";
import type { Atlas } from "../../core/raster/open-atlas.ts";
import { Drawn, type DrawnFigureOptions, type PictureLoader } from "../shared/drawn.ts";
import { definePose, type Pose } from "../shared/pose.ts";
import type { FrameTextures } from "./frame-textures.ts";

/** What a figure shares with the others of its scene. */
interface Shared {
  readonly atlas: Atlas;
  readonly loader: PictureLoader;
  readonly textures: FrameTextures;
  /** Is called when the figure is destroyed. */
  readonly leave: (figure: DrawnFigure) => void;
}

/**
 * Somebody in a scene: a container whose origin is that of the figure, between its feet. Made by `figures.add`.
 *
 * Where its frames have events, it emits `"frame-event"` with a `FrameEvent`. Only what is drawn of it is hit by a pointer.
 */
export class DrawnFigure extends Container implements Pose {
  // Defined once for all engines, below.
  declare look: Pose["look"];
  declare animation: string;
  declare facing: string;
  declare time: number;
  declare readonly moment: Pose["moment"];
  readonly #shared: Shared;
  readonly #drawn: Drawn;
  readonly #sprite = new Sprite();
  /** What is attached to points, and to which. */
  readonly #attached = new Map<Container, string>();

  static {
    definePose(DrawnFigure.prototype, (figure) => figure.#drawn.figure);
  }

  /** @internal */
  constructor(shared: Shared, options: DrawnFigureOptions) {
    super();
    this.#shared = shared;
    this.#drawn = new Drawn(shared.atlas, shared.loader, options);
    this.addChild(this.#sprite);
    this.hitArea = { contains: (x, y) => this.#drawn.isAt(x, y) };
    this.#drawn.figure.on("event", (event) => this.emit("frame-event", event));
  }

  /** Lets something follow a named point, such as a hand; while that is not seen, neither is what follows it. */
  attachTo<Thing extends Container>(point: string, thing: Thing): Thing {
    this.#attached.set(thing, point);
    this.addChild(thing);
    this.#place(thing, point);
    return thing;
  }

  /** Ends following, and takes it out of the figure. */
  detach(thing: Container): void {
    if (!this.#attached.delete(thing)) return;
    this.removeChild(thing);
    thing.visible = true;
  }

  /** What of the figure is in front at a place in its own coordinates, as `event.getLocalPosition(figure)` gives them; `undefined` where there is nothing. */
  hitTest({ x, y }: PointData): HitResult | undefined {
    return this.#drawn.hitTest(x, y);
  }

  /** Moves it on; called for all figures by `update`. @internal */
  advance(seconds: number): void {
    if (!this.#drawn.advance(seconds, this.visible)) return;
    const { frame } = this.#drawn;
    this.#sprite.texture = frame === undefined ? Texture.EMPTY : this.#shared.textures.of(frame);
    this.#sprite.position.set(frame?.left ?? 0, frame?.top ?? 0);
    for (const [thing, point] of this.#attached) this.#place(thing, point);
  }

  override destroy(options?: DestroyOptions): void {
    this.#drawn.figure.close();
    this.#shared.leave(this);
    this.#attached.clear();
    if (!this.#sprite.destroyed) this.#sprite.destroy();
    super.destroy(options);
  }

  #place(thing: Container, point: string): void {
    if (thing.destroyed || thing.parent !== this) {
      this.#attached.delete(thing);
      return;
    }
    const at = this.#drawn.frame?.points.get(point);
    thing.visible = at !== undefined;
    if (at !== undefined) thing.position.set(at.x, at.y);
  }
}
