import type {
  Attachment,
  Capsule,
  CatalogIds,
  Channel,
  DrawnFrame,
  JointPoint,
  LayerArt,
  Point,
  PointTable,
  Rectangle,
  Rig,
} from "../catalog/model/catalog.ts";
import type { idsOf } from "../catalog/model/ids.ts";

/** Which animation, facing and time of a look is wanted. */
export interface Moment<Ids extends CatalogIds = CatalogIds> {
  readonly animation: Ids["animation"];
  readonly facing: Ids["facing"];
  /** Seconds since the animation began. */
  readonly time: number;
}

/**
 * The resolved appearance of a character: everything needed to draw it, and nothing that depends on the moment.
 *
 * Plain data; can be sent to a worker.
 */
export interface Look<Ids extends CatalogIds = CatalogIds> {
  /** For the compiler alone: the ids it knows. */
  readonly [idsOf]?: Ids;
  /** The same for characters that look the same under one catalog; different whenever a layer or a color differs. */
  readonly key: string;
  readonly rig: Rig;
  readonly layers: readonly LookLayer[];
  /** Path of the glTF file with its skeleton and clips; `undefined` on a rig that has no model. */
  readonly skeleton: string | undefined;
  /** What it shows in three dimensions. */
  readonly meshes: readonly LookMesh[];
  readonly points: PointTable;
  /** The active form; `undefined` when none stands. */
  readonly form: string | undefined;
  /** The forms that stand, the active one first: hand them in as `before` when the look is resolved again. */
  readonly activeForms: readonly string[];
  /** What the form shows in place of an animation, by the animation asked for. */
  readonly animations: ReadonlyMap<string, string>;
  /** In pixels, relative to the origin of the rig. */
  readonly collider: Rectangle | undefined;
  /** What it touches others with in three dimensions, in units of the model; it grows with the scale. */
  readonly capsule: Capsule | undefined;
  /** How large its model is, 1 as usual. */
  readonly scale: number;
  /** Words of the game's own for what the character can do now. */
  readonly abilities: readonly string[];
  /** Of the whole figure, 0 to 1. */
  readonly opacity: number;
}

export interface LookLayer {
  /** The part it belongs to; `undefined` for the body itself. */
  readonly part: string | undefined;
  /** Paths of its pictures inside the catalog folder: mostly one. */
  readonly images: readonly string[];
  /** How its frames lie in them. */
  readonly art: LayerArt;
  /** A color of its pictures that means nothing is there, `0xRRGGBB`. */
  readonly blank: number | undefined;
  readonly depth: number;
  readonly depthByFacing: ReadonlyMap<string, number>;
  readonly recolor: Recolor | undefined;
  /** 0 to 1. */
  readonly opacity: number;
  /** What to show for an animation that is not drawn, ahead of what the rig says; `false` shows nothing then. */
  readonly otherwise: ReadonlyMap<string, string> | false;
  /**
   * `drawn`: left out where the facing is mirrored, since there the part's layer for the other hand is shown; `mirrored`: that
   * other layer, which is shown only there.
   */
  readonly side: "both" | "drawn" | "mirrored";
  readonly attach: Attachment | undefined;
  /** Where it is moved to, in pixels of the frame; in a mirrored facing, mirrored with the picture. */
  readonly offset: Point;
  /** Pixels of the frame for each pixel of the picture. */
  readonly scale: number;
}

export interface LookMesh {
  /** The part it belongs to; `undefined` for the body itself. */
  readonly part: string | undefined;
  /** Path of the glTF file inside the catalog folder. */
  readonly file: string;
  /** The name of the node that shows it; all meshes of the file when `undefined`. */
  readonly node: string | undefined;
  /** The place it hangs on; `undefined` for one that bends with the skeleton. */
  readonly attach: JointPoint | undefined;
  /** Colors by the names of materials; those for all others under `""`. */
  readonly recolors: ReadonlyMap<string, Recolor>;
}

/** Key colors and the colors that take their place, each `0xRRGGBB`, in the same order. */
export interface Recolor {
  readonly channel: string;
  /** The id of the ramp, or the character's own color. */
  readonly ramp: string;
  readonly match: Channel["match"];
  readonly key: readonly number[];
  readonly colors: readonly number[];
}

/** One layer's picture at one moment. */
export interface Cel {
  readonly layer: LookLayer;
  /** Path of the picture inside the catalog folder. */
  readonly image: string;
  /** Where the cell lies in the picture, in pixels. */
  readonly source: Rectangle;
  /** Which of the layer's frames it is. */
  readonly frame: DrawnFrame;
  /** Where its upper left corner goes, in pixels from the figure's origin. */
  readonly x: number;
  readonly y: number;
  /** How large it is drawn, in pixels; another size than the source's when the layer is scaled. */
  readonly width: number;
  readonly height: number;
  /** Mirrored left to right. */
  readonly flip: boolean;
  /** Then rotated clockwise by so many radians, around the middle of the pixel `pivot` of the drawn rectangle. */
  readonly rotation: number;
  readonly pivot: Point;
}
