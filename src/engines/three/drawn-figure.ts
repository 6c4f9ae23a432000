import {
  type Camera,
  type Intersection,
  Matrix4,
  Object3D,
  type Object3DEventMap,
  Quaternion,
  type Raycaster,
  Vector3,
} from "three";
import type { Point } from "../../core/catalog/model/catalog.ts";
import type { FrameEvent } from "../../core/play/figure.ts";
import type { HitResult } from "../../core/raster/hit-test.ts";
import type { Atlas, AtlasFrame } from "../../core/raster/open-atlas.ts";
import { Drawn, type DrawnFigureOptions, type PictureLoader } from "../shared/drawn.ts";
import { definePose, type Pose } from "../shared/pose.ts";

declare module "three/src/core/Raycaster.js" {
  interface Intersection {
    /** Where a drawn figure was hit, in its pixels from the origin, y downwards. */
    pixel?: Point;
  }
}

export interface PlaneFigureOptions extends DrawnFigureOptions {
  /** Whether it stands as its object is turned, or is turned about its own upright axis so that the camera sees all of it. @defaultValue `"as-placed"` */
  readonly turned?: "as-placed" | "to-camera";
}

/** What a figure shares with the others of its scene. */
interface Shared {
  readonly atlas: Atlas;
  readonly loader: PictureLoader;
  /** What a pixel is in the scene. */
  readonly unit: number;
  /** Is called when the figure is closed. */
  readonly leave: (figure: DrawnFigure) => void;
}

interface DrawnFigureEvents extends Object3DEventMap {
  "frame-event": FrameEvent;
}

/**
 * Somebody in a scene: a plane that stands on its object's origin, between its feet. Made by `figures.add`.
 *
 * Where its frames have events, it dispatches `"frame-event"` with a `FrameEvent`. Only what is drawn of it is hit by a ray.
 */
export class DrawnFigure extends Object3D<DrawnFigureEvents> implements Pose {
  // Defined once for all engines, below.
  declare look: Pose["look"];
  declare animation: string;
  declare facing: string;
  declare time: number;
  declare readonly moment: Pose["moment"];
  /** Whether it turns to the camera. */
  turned: "as-placed" | "to-camera";
  readonly #shared: Shared;
  readonly #drawn: Drawn;
  readonly #attached = new Map<Object3D, string>();

  static {
    definePose(DrawnFigure.prototype, (figure) => figure.#drawn.figure);
  }

  /** @internal */
  constructor(shared: Shared, { turned = "as-placed", ...options }: PlaneFigureOptions) {
    super();
    this.turned = turned;
    this.#shared = shared;
    this.#drawn = new Drawn(shared.atlas, shared.loader, options);
    this.#drawn.figure.on("event", (event) => this.dispatchEvent({ type: "frame-event", ...event }));
  }

  /** The frame it shows. @internal */
  get frame(): AtlasFrame | undefined {
    return this.#drawn.frame;
  }

  /** Lets something follow a named point, such as a hand, as a child; while that is not seen, neither is what follows it. */
  attachTo<Thing extends Object3D>(point: string, thing: Thing): Thing {
    this.#attached.set(thing, point);
    this.add(thing);
    this.#place(thing, point);
    return thing;
  }

  /** Ends following, and takes it out of the figure. */
  detach(thing: Object3D): void {
    if (!this.#attached.delete(thing)) return;
    this.remove(thing);
    thing.visible = true;
  }

  /** What of the figure is in front at a place in pixels from its origin, y downwards; `undefined` where there is nothing. */
  hitTest({ x, y }: Point): HitResult | undefined {
    return this.#drawn.hitTest(x, y);
  }

  /** Moves it on; called for all figures by `update`. @internal */
  update(seconds: number, camera?: Camera): void {
    if (this.turned === "to-camera" && camera !== undefined) this.#turnTo(camera);
    this.updateWorldMatrix(true, false);
    if (!this.#drawn.advance(seconds, this.visible)) return;
    for (const [thing, point] of this.#attached) this.#place(thing, point);
  }

  /** Whether a ray hits what is drawn; `point` and `pixel`, from the origin, are where. */
  override raycast({ ray, near, far }: Raycaster, intersects: Intersection[]): void {
    const { unit } = this.#shared;
    const own = ray.clone().applyMatrix4(inverse.copy(this.matrixWorld).invert());
    const along = -own.origin.z / own.direction.z;
    if (!(along >= 0)) return;
    const at = own.at(along, new Vector3());
    const pixel = { x: at.x / unit, y: -at.y / unit };
    if (!this.#drawn.isAt(pixel.x, pixel.y)) return;
    const point = at.applyMatrix4(this.matrixWorld);
    const distance = point.distanceTo(ray.origin);
    if (distance >= near && distance <= far) intersects.push({ distance, point, object: this, pixel });
  }

  /** Takes it out of its scene, and ends following its seat. */
  close(): void {
    this.#drawn.figure.close();
    this.#shared.leave(this);
    this.#attached.clear();
    this.removeFromParent();
  }

  /** Turns about the upright axis, until across the figure is across the camera's picture. */
  #turnTo(camera: Camera): void {
    across.setFromMatrixColumn(camera.matrixWorld, 0);
    this.quaternion.setFromAxisAngle(upright, Math.atan2(-across.z, across.x));
    if (this.parent !== null) this.quaternion.premultiply(this.parent.getWorldQuaternion(outer).invert());
  }

  #place(thing: Object3D, point: string): void {
    if (thing.parent !== this) {
      this.#attached.delete(thing);
      return;
    }
    const at = this.#drawn.frame?.points.get(point);
    thing.visible = at !== undefined;
    const { unit } = this.#shared;
    if (at !== undefined) thing.position.set(at.x * unit, -at.y * unit, 0);
  }
}

// Used within one call each.
const inverse = new Matrix4();
const across = new Vector3();
const outer = new Quaternion();
const upright = new Vector3(0, 1, 0);
