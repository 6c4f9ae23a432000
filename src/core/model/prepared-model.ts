import type { Rig } from "../catalog/model/catalog.ts";
import type { Look } from "../look/look.ts";
import type { Image } from "../raster/image.ts";
import type { Matrix } from "./matrix.ts";
import type { Skeleton } from "./pose.ts";
import type { Shading } from "./shading.ts";

/** A figure of a look, ready to be drawn at any moment. */
export interface PreparedModel {
  readonly rig: Rig;
  /** What the form shows in place of an animation. */
  readonly animations: Look["animations"];
  /** How large it is, 1 as usual. */
  readonly scale: number;
  readonly skeleton: Skeleton;
  readonly pieces: readonly PreparedPiece[];
}

/** Triangles of one material. */
export interface PreparedPiece {
  /** The part it belongs to; `undefined` for the body. */
  readonly part: string | undefined;
  /** The name of the node that shows it. */
  readonly node: string;
  /** x, y and z of each corner, at rest. */
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  /** Three corners a triangle. */
  readonly triangles: Uint32Array;
  /** Four joints a corner, by their numbers in the skeleton, and how much it follows each; none for what hangs. */
  readonly joints: Uint16Array | undefined;
  readonly weights: Float32Array | undefined;
  /** For each joint it follows, what brings a corner from its rest to the joint. */
  readonly binds: ReadonlyMap<number, Matrix>;
  /** The joint it hangs on, and where on it; `undefined` joint for what stands by itself. */
  readonly hang: { readonly joint: number | undefined; readonly at: Matrix };
  /** How open each corner lies, from 0 in a fold to 1; `undefined` where all do. */
  readonly openness: Float32Array | undefined;
  /** Whether it is seen from behind, too. */
  readonly isDoubleSided: boolean;
  /** Whether its file mirrors it, so that its triangles turn the other way. */
  readonly isMirrored: boolean;
  readonly shading: Shading;
  /** The channel that colors it; `""` for what has colors of its own. */
  readonly channel: string;
  /** What is painted on it; its tones multiply that. */
  readonly texture: PieceTexture | undefined;
  /** What its tones are multiplied by at each corner: three shares, with the curve of sRGB, where colors are multiplied as light is, nearly. */
  readonly tint: Float32Array | undefined;
  /** How opaque its texture has to be where it is seen; `undefined` for all of it. */
  readonly cutoff: number | undefined;
}

/** A picture on a piece. */
export interface PieceTexture {
  readonly image: Image;
  /** Where in the picture each corner lies, 0 to 1 from its upper left, two numbers a corner. */
  readonly coordinates: Float32Array;
  /** What is beyond the picture across, and down. */
  readonly beyond: readonly [across: Beyond, down: Beyond];
}

/** Beyond a picture it begins again, or turned around, or its last pixel goes on. */
export type Beyond = "again" | "mirrored" | "edge";
