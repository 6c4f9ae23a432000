import { requireKnown } from "../base/require-known.ts";
import type { Body, Rig } from "../catalog/model/catalog.ts";
import type { Image } from "../raster/image.ts";
import { DepthCanvas } from "./depth-canvas.ts";
import { cornerSize, placeCorners, type View } from "./place-corners.ts";
import type { Pose } from "./pose.ts";
import type { PreparedModel, PreparedPiece } from "./prepared-model.ts";

/** A moment in which something of a worn part is wrong. */
export interface WornMoment {
  readonly animation: string;
  /** Seconds. */
  readonly time: number;
  /** Degrees by which the figure is turned around. */
  readonly turn: number;
  /** How much of it is wrong there: a share of what is seen of the part, or how many times as long an edge is as at rest. */
  readonly amount: number;
  readonly image: Image;
}

/** What is found of a part that is worn in motion: its worst moments. */
export interface WornInMotion {
  /** Skin that lies under the part at rest is seen before it. */
  readonly pokes: WornMoment | undefined;
  /** An edge between two corners is torn long. */
  readonly tears: WornMoment | undefined;
  /** How far from the skin it is at rest, for the height of the frame: 0 where it touches it. */
  readonly gap: number;
}

/** Rows of the small pictures that are looked at. */
const rows = 112;
/** From where a figure is looked at, in degrees. */
const turns = [0, 90, 180, 270];
/** How far into each clip, as shares of it. */
const shares = [1 / 6, 1 / 2, 5 / 6];
/** How thick skin that pokes through is at most, for the height of the frame; what is farther before the part is a limb in front of it. */
const thin = 0.03;
/** How much longer than at rest a torn edge is, and how long it is at least, for the height of the frame. */
const torn = { times: 6, long: 0.12 };

/** A body in every clip of its rig, from four sides, to look at parts on it. */
export class BodyInMotion {
  readonly rig: Rig;
  readonly skin: readonly PreparedPiece[];
  readonly rest: SeenPose;
  /** Where the corners of the skin are at rest, seen from before. */
  readonly restCorners: readonly Float32Array[];
  readonly moments: readonly (SeenPose & { readonly animation: string; readonly time: number })[];

  /** @param body - the body alone. */
  constructor({ rig, skeleton, pieces }: PreparedModel) {
    this.rig = rig;
    this.skin = pieces.filter(({ joints }) => joints !== undefined);
    this.rest = this.#seenIn(skeleton.pose("", 0));
    this.restCorners = this.skin.map((piece) => placeCorners(piece, this.rest.pose, this.view(0)));
    this.moments = [...rig.animations.keys()].flatMap((animation) => {
      const clip = rig.model?.clips.get(animation) ?? animation;
      const duration = skeleton.durationOf(clip);
      return (duration > 0 ? shares : []).map((share) => {
        const time = Math.round(duration * share * 100) / 100;
        return { animation, time, ...this.#seenIn(skeleton.pose(clip, time)) };
      });
    });
  }

  /** How it is looked at, turned so far. */
  view(turn: number): View {
    const { frame, origin, model } = this.rig;
    const scale = rows / frame.height;
    return {
      turn: (turn * Math.PI) / 180,
      tilt: ((model?.tilt ?? 0) * Math.PI) / 180,
      size: (model?.scale ?? 1) * scale,
      x: origin.x * scale,
      y: origin.y * scale,
    };
  }

  canvas(): DepthCanvas {
    const { frame } = this.rig;
    return new DepthCanvas(Math.round((rows * frame.width) / frame.height), rows);
  }

  #seenIn(pose: Pose): SeenPose {
    const drawn = turns.map((turn) => {
      const canvas = this.canvas();
      for (const piece of this.skin) canvas.draw(piece, placeCorners(piece, pose, this.view(turn)));
      return [turn, canvas] as const;
    });
    return { pose, skins: new Map(drawn) };
  }
}

/** A pose, and the skin in it by turn. */
interface SeenPose {
  readonly pose: Pose;
  readonly skins: ReadonlyMap<number, DepthCanvas>;
}

/**
 * Looks at a part on a body in every clip: whether skin that lies under it at rest pokes through, and whether corners are torn from each other
 * since they follow joints that are far apart.
 *
 * @param part - the part alone, on the same skeleton. @param shown - the nodes of the body that it leaves.
 */
export function wornInMotion(body: BodyInMotion, part: PreparedModel, shown: ReadonlySet<string>): WornInMotion {
  return new Watch(body, part, shown).found();
}

/** The color of what is marked. */
const mark = [255, 0, 160, 255];

class Watch {
  readonly #body: BodyInMotion;
  readonly #part: PreparedModel;
  readonly #isShown: (piece: number) => boolean;
  /** By piece of the skin, the triangles that lie under the part at rest. */
  readonly #under: readonly Set<number>[];
  readonly #edges: readonly Float32Array[];
  /** Drawn on for each moment anew. */
  readonly #cloth: DepthCanvas;

  constructor(body: BodyInMotion, part: PreparedModel, shown: ReadonlySet<string>) {
    this.#body = body;
    this.#part = part;
    this.#cloth = body.canvas();
    const isShown = body.skin.map(({ node }) => shown.has(node));
    this.#isShown = (piece) => isShown[piece] === true;
    this.#under = body.skin.map(() => new Set<number>());
    const { pose, skins } = body.rest;
    for (const [turn, skin] of skins)
      skin.eachBefore(this.#clothIn(this.#placed(pose, turn)), -thin * rows, 0, (piece, triangle) =>
        this.#under[piece]?.add(triangle),
      );
    const placed = this.#placed(pose, 0);
    this.#edges = part.pieces.map((piece, at) => edgesOf(piece, placed[at] ?? new Float32Array()));
  }

  found(): WornInMotion {
    let [pokes, tears]: [WornMoment | undefined, WornMoment | undefined] = [undefined, undefined];
    for (const { animation, time, pose, skins } of this.#body.moments)
      for (const [turn, skin] of skins) {
        const placed = this.#placed(pose, turn);
        const tear = turn === 0 ? this.#tear(placed) : 0;
        if (tear > (tears?.amount ?? torn.times))
          tears = { animation, time, turn, amount: tear, image: this.#picture(pose, turn, []) };
        const poke = this.#poke(skin, this.#clothIn(placed));
        if (poke.share > (pokes?.amount ?? 0))
          pokes = { animation, time, turn, amount: poke.share, image: this.#picture(pose, turn, poke.at) };
      }
    return { pokes, tears, gap: this.#gap() };
  }

  #placed(pose: Pose, turn: number): readonly Float32Array[] {
    const view = this.#body.view(turn);
    return this.#part.pieces.map((piece) => placeCorners(piece, pose, view));
  }

  #clothIn(placed: readonly Float32Array[]): DepthCanvas {
    this.#cloth.clear();
    for (const [at, corners] of placed.entries()) this.#cloth.draw(this.#part.pieces[at] as PreparedPiece, corners);
    return this.#cloth;
  }

  /**
   * Where skin is seen before the part that lies under it at rest, with the part all around it; and how much that is of the part. Skin that goes on
   * beyond the part has come out of it, and is left alone.
   */
  #poke(skin: DepthCanvas, cloth: DepthCanvas): { readonly at: readonly number[]; readonly share: number } {
    const under = new Set<number>();
    skin.eachBefore(cloth, 0, thin * rows, (piece, triangle, sample) => {
      if (this.#isShown(piece) && this.#under[piece]?.has(triangle)) under.add(sample);
    });
    if (under.size === 0) return { at: [], share: 0 };
    const at = skin.islandsOf(under, cloth, this.#isShown);
    return { at, share: at.length / Math.max(1, cloth.count) };
  }

  /** From the corners of the part to the nearest of the skin, at rest. */
  #gap(): number {
    let nearest = Number.POSITIVE_INFINITY;
    const corners = this.#placed(this.#body.rest.pose, 0);
    for (const part of corners)
      for (const skin of this.#body.restCorners)
        for (let one = 0; one < part.length; one += cornerSize)
          for (let other = 0; other < skin.length; other += cornerSize) {
            const x = (part[one] as number) - (skin[other] as number);
            const y = (part[one + 1] as number) - (skin[other + 1] as number);
            const z = (part[one + 2] as number) - (skin[other + 2] as number);
            nearest = Math.min(nearest, x * x + y * y + z * z);
          }
    return Math.sqrt(nearest) / rows;
  }

  /** How many times as long as at rest the longest of the edges is that are long enough to be seen. */
  #tear(placed: readonly Float32Array[]): number {
    let most = 0;
    for (const [number, corners] of placed.entries()) {
      const edges = edgesOf(this.#part.pieces[number] as PreparedPiece, corners);
      for (const [at, length] of edges.entries())
        if (length > torn.long * rows)
          most = Math.max(most, length / Math.max(0.5, this.#edges[number]?.[at] ?? length));
    }
    return most;
  }

  /** @param marked - samples that are painted in a color that nothing else has. */
  #picture(pose: Pose, turn: number, marked: readonly number[]): Image {
    const canvas = this.#body.canvas();
    const view = this.#body.view(turn);
    const skin = this.#body.skin.filter((_, at) => this.#isShown(at));
    for (const piece of [...skin, ...this.#part.pieces]) canvas.draw(piece, placeCorners(piece, pose, view));
    const image = canvas.picture({ width: 0, step: 1 });
    for (const at of marked) image.data.set(mark, at * 4);
    return image;
  }
}

/** How long the edges of each triangle are, in samples, three numbers a triangle. */
function edgesOf({ triangles }: PreparedPiece, corners: Float32Array): Float32Array {
  const edges = new Float32Array(triangles.length);
  for (let first = 0; first < triangles.length; first += 3)
    for (let each = 0; each < 3; each += 1) {
      const a = (triangles[first + each] as number) * cornerSize;
      const b = (triangles[first + ((each + 1) % 3)] as number) * cornerSize;
      const x = (corners[a] as number) - (corners[b] as number);
      const y = (corners[a + 1] as number) - (corners[b + 1] as number);
      const z = (corners[a + 2] as number) - (corners[b + 2] as number);
      edges[first + each] = Math.sqrt(x * x + y * y + z * z);
    }
  return edges;
}

/** The facing that is nearest to a turn, for words. */
export function facingNear({ rig }: Pick<Body, "rig">, turn: number): string {
  const turned = (id: string) =>
    rig.model?.turns.get(id) ?? -(rig.model?.turns.get(requireKnown("facing", id, rig.facings).drawnAs) ?? 0);
  const away = (id: string) => Math.abs(((((turned(id) - turn) % 360) + 540) % 360) - 180);
  return [...rig.facings.keys()].toSorted((one, other) => away(one) - away(other))[0] ?? "";
}
