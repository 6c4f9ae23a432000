import { requireKnown } from "../base/require-known.ts";
import type { Facing } from "../catalog/model/catalog.ts";
import type { Moment } from "../look/look.ts";
import { createImage, type Image } from "../raster/image.ts";
import { swapRedAndBlue } from "../raster/sheet.ts";
import { identity, type Matrix, multiply } from "./matrix.ts";
import type { Pose } from "./pose.ts";
import type { PreparedModel, PreparedPiece } from "./prepare-model.ts";

export interface DrawModelOptions {
  /** Pixels of the picture for each of the rig's frame, on a side. @defaultValue 1 */
  readonly scale?: number;
  /** How many samples a pixel has on a side; 1 leaves every pixel all there or not at all. @defaultValue 1 where the rig is crisp, else 3 */
  readonly samples?: number;
  /** How wide lines of ink are, in pixels of the rig's frame; 0 for none. @defaultValue 1 */
  readonly ink?: number;
}

/** Where light comes from: from the upper left, before the figure, wherever it faces. */
const light = [-0.58, 0.65, 0.49].map((value) => value / Math.hypot(0.58, 0.65, 0.49));

/** How light a place has to be for each further tone. */
const cuts = [0.38, 0.58, 0.86];

/** How dark ink is mixed, toward this color. */
const darkest = 0x241410;

/**
 * Draws a figure at a moment, without a graphics card: its corners follow the joints, what is nearest is seen, and light steps through the tones
 * of each ramp. The picture is the rig's frame, as the layers of a drawn figure fill it.
 *
 * What is nearest is found by a depth for each sample (E. Catmull, 1974). Ink is drawn where the figure ends, and where one piece stands well
 * before another.
 *
 * @throws MantleError `unknown-animation`, `unknown-facing`.
 * @example
 * drawModel(await prepareModel(look, models), { animation: "walk", facing: "west", time: 0.3 })
 */
export function drawModel(model: PreparedModel, moment: Moment, options: DrawModelOptions = {}): Image {
  const { rig } = model;
  const { scale = 1, samples = rig.crisp ? 1 : 3, ink = 1 } = options;
  const facing = requireKnown("facing", moment.facing, rig.facings);
  const asked = requireKnown("animation", moment.animation, rig.animations);
  const shown = model.animations.get(asked.id) ?? asked.id;
  const clip = rig.model?.clips.get(shown) ?? shown;
  const length = model.skeleton.durationOf(clip);
  const time = asked.loop && length > 0 ? moment.time % length : moment.time;
  const pose = model.skeleton.pose(clip, time);
  const density = scale * samples;
  const canvas = new DepthCanvas(rig.frame.width * density, rig.frame.height * density);
  const view = { ...cameraOf(model, facing), density, x: rig.origin.x * density, y: rig.origin.y * density };
  for (const [number, piece] of model.pieces.entries()) canvas.draw(piece, number, pose, view);
  const drawn = canvas.picture(model.pieces, Math.round(ink * density), view.units * 0.02 * density);
  return samples === 1 ? drawn : averaged(drawn, samples);
}

/** How a figure is looked at. */
interface View {
  /** Radians by which it is turned around, to face where it does. */
  readonly turn: number;
  /** Radians by which one looks down on it. */
  readonly tilt: number;
  /** Pixels of the rig's frame for a unit of the model. */
  readonly units: number;
  readonly density: number;
  /** Where it stands, in samples. */
  readonly x: number;
  readonly y: number;
}

function cameraOf({ rig }: PreparedModel, { id, drawnAs }: Facing): Pick<View, "turn" | "tilt" | "units"> {
  const { turns, tilt = 0, scale = 1 } = rig.model ?? {};
  // What is drawn as the mirror image of another is turned the other way: a figure in three dimensions needs no mirror.
  const turn = turns?.get(id) ?? -(turns?.get(drawnAs) ?? 0);
  return { turn: (turn * Math.PI) / 180, tilt: (tilt * Math.PI) / 180, units: scale };
}

/** A canvas that knows how near each of its samples is. */
class DepthCanvas {
  readonly #width: number;
  readonly #height: number;
  readonly #depths: Float32Array;
  /** The piece that is seen, and its tone; -1 for none. */
  readonly #pieces: Int16Array;
  readonly #tones: Uint8Array;

  constructor(width: number, height: number) {
    this.#width = Math.round(width);
    this.#height = Math.round(height);
    const count = this.#width * this.#height;
    this.#depths = new Float32Array(count).fill(Number.NEGATIVE_INFINITY);
    this.#pieces = new Int16Array(count).fill(-1);
    this.#tones = new Uint8Array(count);
  }

  draw(piece: PreparedPiece, number: number, pose: Pose, view: View): void {
    const corners = placed(piece, pose, view);
    const { triangles } = piece;
    for (let at = 0; at < triangles.length; at += 3)
      this.#fill(
        corners,
        [triangles[at] as number, triangles[at + 1] as number, triangles[at + 2] as number],
        number,
        piece.tones.length,
      );
  }

  /** Fills a triangle, sample by sample: those whose middle lies in it, as its edges say (J. Pineda, 1988). */
  #fill(
    corners: Float32Array,
    [one, two, three]: readonly [number, number, number],
    piece: number,
    tones: number,
  ): void {
    const [a, b, c] = [one * 4, two * 4, three * 4];
    const [ax, ay, bx, by] = [
      corners[a] as number,
      corners[a + 1] as number,
      corners[b] as number,
      corners[b + 1] as number,
    ];
    const [cx, cy] = [corners[c] as number, corners[c + 1] as number];
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (area === 0) return;
    const left = Math.max(0, Math.floor(Math.min(ax, bx, cx) - 0.5));
    const right = Math.min(this.#width - 1, Math.ceil(Math.max(ax, bx, cx) - 0.5));
    const top = Math.max(0, Math.floor(Math.min(ay, by, cy) - 0.5));
    const bottom = Math.min(this.#height - 1, Math.ceil(Math.max(ay, by, cy) - 0.5));
    for (let y = top; y <= bottom; y += 1)
      for (let x = left; x <= right; x += 1) {
        const [px, py] = [x + 0.5, y + 0.5];
        const u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area;
        const v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area;
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const depth = u * (corners[a + 2] as number) + v * (corners[b + 2] as number) + w * (corners[c + 2] as number);
        const at = y * this.#width + x;
        if (depth <= (this.#depths[at] as number)) continue;
        this.#depths[at] = depth;
        this.#pieces[at] = piece;
        const lit = u * (corners[a + 3] as number) + v * (corners[b + 3] as number) + w * (corners[c + 3] as number);
        this.#tones[at] = toneOf(lit, tones);
      }
  }

  /** @param ink - how wide lines are, in samples. @param step - how much nearer a piece has to be for a line before it. */
  picture(pieces: readonly PreparedPiece[], ink: number, step: number): Image {
    const image = createImage(this.#width, this.#height);
    const pixels = new Uint32Array(image.data.buffer);
    const colors = pieces.map(({ tones }) => tones.map(packed));
    const inks = pieces.map(({ tones: [dark = 0] }) => packed(mixed(dark, darkest, 0.35)));
    for (let at = 0; at < pixels.length; at += 1) {
      const piece = this.#pieces[at] as number;
      if (piece < 0) continue;
      pixels[at] = (this.#isEdge(at, ink, step) ? inks[piece] : colors[piece]?.[this.#tones[at] as number]) ?? 0;
    }
    return image;
  }

  /** Whether a sample lies at the end of the figure, or of a piece that stands before another. */
  #isEdge(at: number, ink: number, step: number): boolean {
    const [x, y] = [at % this.#width, Math.floor(at / this.#width)];
    const [piece, depth] = [this.#pieces[at], this.#depths[at] as number];
    for (let dy = -ink; dy <= ink; dy += 1)
      for (let dx = -ink; dx <= ink; dx += 1) {
        if (dx * dx + dy * dy > ink * ink || (dx === 0 && dy === 0)) continue;
        const [column, row] = [x + dx, y + dy];
        if (column < 0 || row < 0 || column >= this.#width || row >= this.#height) continue;
        const other = row * this.#width + column;
        const beside = this.#pieces[other] as number;
        if (beside < 0) return true;
        // Within a figure lines are half as wide.
        const isNear = dx * dx + dy * dy <= Math.max(1, (ink * ink) / 4);
        if (isNear && beside !== piece && depth > (this.#depths[other] as number) + step) return true;
      }
    return false;
  }
}

/** Corners as they are seen: x and y in samples, how near, and how light, four numbers each. */
function placed(piece: PreparedPiece, pose: Pose, view: View): Float32Array {
  const { positions, normals, joints, weights, binds, hang } = piece;
  const followed = new Map([...binds].map(([joint, bind]) => [joint, multiply(pose[joint] ?? bind, bind)]));
  const still = multiply((hang.joint === undefined ? undefined : pose[hang.joint]) ?? identity, hang.at);
  const [sin, cos] = [Math.sin(view.turn), Math.cos(view.turn)];
  const [down, level] = [Math.sin(view.tilt), Math.cos(view.tilt)];
  const count = positions.length / 3;
  const corners = new Float32Array(count * 4);
  const size = view.units * view.density;
  const blend = new Array<number>(16);
  for (let corner = 0; corner < count; corner += 1) {
    const matrix =
      joints === undefined || weights === undefined ? still : blended(followed, joints, weights, corner, blend);
    const [px, py, pz] = [
      positions[corner * 3] as number,
      positions[corner * 3 + 1] as number,
      positions[corner * 3 + 2] as number,
    ];
    const [nx, ny, nz] = [
      normals[corner * 3] as number,
      normals[corner * 3 + 1] as number,
      normals[corner * 3 + 2] as number,
    ];
    const along = (row: number, x: number, y: number, z: number) =>
      (matrix[row] as number) * x + (matrix[row + 4] as number) * y + (matrix[row + 8] as number) * z;
    const seen = (x: number, y: number, z: number) => {
      const [across, near] = [x * cos + z * sin, z * cos - x * sin];
      return [across, y * level - near * down, y * down + near * level] as const;
    };
    const [x, y, z] = seen(
      along(0, px, py, pz) + (matrix[12] as number),
      along(1, px, py, pz) + (matrix[13] as number),
      along(2, px, py, pz) + (matrix[14] as number),
    );
    const [lx, ly, lz] = seen(along(0, nx, ny, nz), along(1, nx, ny, nz), along(2, nx, ny, nz));
    const length = Math.hypot(lx, ly, lz) || 1;
    corners[corner * 4] = view.x + x * size;
    corners[corner * 4 + 1] = view.y - y * size;
    corners[corner * 4 + 2] = z * size;
    corners[corner * 4 + 3] =
      0.5 + (0.5 * (lx * (light[0] as number) + ly * (light[1] as number) + lz * (light[2] as number))) / length;
  }
  return corners;
}

/** The matrices of the joints that a corner follows, each as much as it does. */
function blended(
  matrices: ReadonlyMap<number, Matrix>,
  joints: Uint16Array,
  weights: Float32Array,
  corner: number,
  into: number[],
): Matrix {
  into.fill(0);
  for (let each = corner * 4; each < corner * 4 + 4; each += 1) {
    const weight = weights[each] as number;
    const matrix = weight === 0 ? undefined : matrices.get(joints[each] as number);
    if (matrix === undefined) continue;
    for (let at = 0; at < 16; at += 1) into[at] = (into[at] as number) + (matrix[at] as number) * weight;
  }
  return into;
}

/** Which of so many tones a place has that is so light. */
function toneOf(lit: number, tones: number): number {
  const step = cuts.filter((cut) => lit >= cut).length;
  return Math.round((step / cuts.length) * (tones - 1));
}

function packed(color: number): number {
  return (0xff000000 | swapRedAndBlue(color)) >>> 0;
}

function mixed(one: number, other: number, share: number): number {
  return [16, 8, 0].reduce((sum, shift) => {
    const [from, to] = [(one >> shift) & 255, (other >> shift) & 255];
    return sum + (Math.round(from + (to - from) * share) << shift);
  }, 0);
}

/** The mean of samples, in which what is not there has no color. */
function averaged(image: Image, samples: number): Image {
  const small = createImage(image.width / samples, image.height / samples);
  for (let y = 0; y < small.height; y += 1)
    for (let x = 0; x < small.width; x += 1) {
      const sum = [0, 0, 0, 0];
      for (let each = 0; each < samples * samples; each += 1) {
        const at = ((y * samples + Math.floor(each / samples)) * image.width + x * samples + (each % samples)) * 4;
        const alpha = image.data[at + 3] as number;
        for (let channel = 0; channel < 3; channel += 1)
          sum[channel] = (sum[channel] as number) + (image.data[at + channel] as number) * alpha;
        sum[3] = (sum[3] as number) + alpha;
      }
      const alpha = sum[3] as number;
      if (alpha === 0) continue;
      const color = sum.slice(0, 3).map((value) => value / alpha);
      small.data.set([...color, alpha / (samples * samples)], (y * small.width + x) * 4);
    }
  return small;
}
