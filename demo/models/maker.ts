import type { Art, Sculpted } from "../art/art.ts";
import { type Field, union } from "../art/field.ts";
import { type Build, builds, type Figure, restFigure } from "../art/figure.ts";
import type { Piece } from "../art/render.ts";
import { contour } from "./contour.ts";
import { type FaceStamp, faceStamps, mouthStamp, stampSurfaces } from "./faces.ts";
import { type WrittenMaterial, type WrittenNode, writeMeshes, writeSkeleton, writtenMaterial } from "./glb.ts";
import { type MeshedPiece, meshPieces } from "./mesh-pieces.ts";
import { regionAt, skinFollow, skinPieces } from "./regions.ts";
import { clipsOf, joints, type LocalPlace, localPlaces } from "./rig.ts";
import { sculpted3d } from "./sculptures.ts";
import { keepFinished, middleOf } from "./surface.ts";
import { cellOf, detailOf, reachOf, type Tailoring, tailoringOf } from "./tailoring.ts";
import { type Bone, bonesOf } from "./weights.ts";

/** A mesh that was made, as a catalog names it. */
export interface MadeMesh {
  /** The art it was made of, `body` for the skin. */
  readonly id: string;
  /** The file, and how the catalog calls it: with `{body}` where each build has its own. */
  readonly path: string;
  readonly file: string;
  readonly node: string;
  readonly group?: string;
  readonly attach?: string;
  /** The channels by the names of materials. */
  readonly channels: Readonly<Record<string, string>>;
  /** What of the body and of other parts nobody sees under it. */
  readonly hides: readonly string[];
  readonly triangles: number;
}

export interface MakerOptions {
  /** The slot of each part, by the id of its art. */
  readonly slots: ReadonlyMap<string, string>;
  /** The default ramp of each channel. */
  readonly ramps: ReadonlyMap<string, readonly number[]>;
  readonly write: (path: string, bytes: Uint8Array) => Promise<void>;
}

/** What there is of a build at rest. */
interface Rest {
  readonly figure: Figure;
  readonly bones: ReadonlyMap<string, Bone>;
  readonly places: ReadonlyMap<string, LocalPlace>;
  readonly skin: readonly Piece[];
}

const order = joints.map(({ name }) => name);

/** Makes models of sculptures, and remembers what it made. */
export class Maker {
  readonly made: MadeMesh[] = [];
  readonly #options: MakerOptions;
  readonly #rests = new Map<string, Rest>();
  readonly #samples = new Map<string, ReadonlyMap<string, readonly (readonly number[])[]>>();

  constructor(options: MakerOptions) {
    this.#options = options;
  }

  /** The skeleton of a build with its clips, and its skin, region by region. */
  async body(build: Build): Promise<void> {
    const rest = this.#rest(build);
    const { figure, places, bones } = rest;
    await this.#options.write(`models/${build.id}/skeleton.glb`, await writeSkeleton(places, clipsOf(build)));
    const measures = { cell: cellOf("body"), detail: detailOf("body"), reach: 0.9 };
    const meshed = await meshPieces(rest.skin, {
      figure,
      bones,
      joints: order,
      around: [],
      measures,
      follow: skinFollow,
    });
    const regions = new Map<string, MeshedPiece[]>();
    for (const [number, { material, surface }] of meshed.entries()) {
      const piece = rest.skin[number] as Piece;
      const regionsOf = Array.from({ length: surface.triangles.length / 3 }, (_, triangle) =>
        regionAt(piece, skinFollow(piece), bones, middleOf(surface, triangle)),
      );
      for (const region of new Set(regionsOf)) {
        const own = keepFinished(surface, (triangle) => regionsOf[triangle] === region);
        regions.set(region, [...(regions.get(region) ?? []), { material, surface: own }]);
      }
    }
    const nodes = [...regions].map(([name, pieces]) => this.#node(`skin-${name}`, pieces));
    await this.#write("body", `models/${build.id}/body.glb`, "models/{body}/body.glb", nodes, rest, (node) => ({
      group: node.slice("skin-".length),
    }));
    if (build === builds[0]) await this.#stamp(mouthStamp, "body");
  }

  /** The meshes of a part: one file, or one for each build that bends otherwise. */
  async part(art: Art): Promise<void> {
    const stamp = faceStamps.find(({ id }) => id === art.id);
    if (stamp !== undefined) return this.#stamp(stamp, stamp.id);
    if (art.kind === "stamped") return;
    const slot = this.#options.slots.get(art.id) ?? "";
    const tailoring = tailoringOf(art, slot);
    const wearers = builds.filter(({ id }) => art.builds?.includes(id) !== false);
    const shared = tailoring.attach !== undefined;
    for (const build of shared ? wearers.slice(0, 1) : wearers) await this.#sculpt(art, slot, tailoring, build);
  }

  async #stamp(stamp: FaceStamp, id: string): Promise<void> {
    const rest = this.#rest(builds[0] as Build);
    const { head } = rest.figure;
    const primitives = stampSurfaces(stamp, rest.figure).flatMap((surface, at) => {
      const ink = stamp.inks[at];
      return surface === undefined || ink === undefined ? [] : [{ surface, material: this.#inkMaterial(ink) }];
    });
    const path = `models/heads/${stamp.id}.glb`;
    const node = { name: stamp.id, primitives, from: [head.x, head.y, head.z] as const };
    await this.#write(id, path, path, [node], rest, () => ({ attach: "crown" }));
  }

  #inkMaterial(ink: FaceStamp["inks"][0]): WrittenMaterial {
    if (typeof ink === "number") return { name: ink.toString(16), ramp: [ink], tone: 0 };
    return { name: ink.channel, ramp: this.#options.ramps.get(ink.channel) ?? [], tone: ink.tone };
  }

  async #sculpt(art: Sculpted, slot: string, tailoring: Tailoring, build: Build): Promise<void> {
    const rest = this.#rest(build);
    const { figure, bones, skin } = rest;
    const pieces = sculpted3d(art, figure);
    const measures = { cell: cellOf(slot), detail: detailOf(slot), reach: reachOf(slot) };
    const { splitAt, attach } = tailoring;
    const around = skin.map(({ field }) => field);
    const follow = attach === undefined ? (piece: Piece) => tailoring.follow(piece, figure) : undefined;
    const meshed = await meshPieces(pieces, { figure, bones, joints: order, around, measures, follow });
    const from = attach === undefined ? ([0, 0, 0] as const) : this.#pointAt(attach, rest);
    const isSplit = (y: number) => splitAt?.isIn(figure, y) ?? false;
    const nodes = [
      this.#node(
        art.id,
        halves(meshed, (y) => !isSplit(y)),
        from,
      ),
      this.#node(`${art.id}-${splitAt?.group}`, halves(meshed, isSplit), from),
    ];
    const file =
      attach === undefined
        ? `models/{body}/${art.id}.glb`
        : `models/${attach === "crown" ? "heads" : "held"}/${art.id}.glb`;
    const hides = attach === undefined ? [...this.#covered(pieces, build), ...(tailoring.hides ?? [])] : [];
    await this.#write(art.id, file.replace("{body}", build.id), file, nodes, rest, (node) => ({
      ...(attach !== undefined && { attach }),
      ...(node !== art.id && splitAt !== undefined && { group: splitAt.group }),
      hides,
    }));
  }

  #pointAt(point: string, { figure }: Rest): readonly [number, number, number] {
    const joint = joints.find(({ name }) => name === jointOf(point));
    const { x, y, z } = joint?.place(figure, figure).at ?? figure.head;
    return [x, y, z];
  }

  #node(name: string, pieces: readonly MeshedPiece[], from: WrittenNode["from"] = [0, 0, 0]): WrittenNode {
    const primitives = pieces.map(({ material, surface }) => ({
      material: writtenMaterial(material, this.#options.ramps),
      surface,
    }));
    return { name, primitives, from };
  }

  async #write(
    id: string,
    path: string,
    file: string,
    all: readonly WrittenNode[],
    { places }: Rest,
    more: (node: string) => Partial<MadeMesh>,
  ): Promise<void> {
    const nodes = all.filter(({ primitives }) => primitives.length > 0);
    await this.#options.write(path, await writeMeshes(nodes, places));
    for (const { name, primitives } of nodes) {
      const named = primitives
        .map(({ material }) => material)
        .filter((material) => this.#options.ramps.has(material.name));
      const channels = Object.fromEntries(
        named.map(({ name: channel, tone }) => [tone === undefined ? channel : `${channel} ${tone}`, channel]),
      );
      const triangles = primitives.reduce((sum, { surface }) => sum + surface.triangles.length / 3, 0);
      this.made.push({ id, path, file, node: name, channels, hides: [], triangles, ...more(name) });
    }
  }

  #rest(build: Build): Rest {
    const known = this.#rests.get(build.id);
    if (known !== undefined) return known;
    const figure = restFigure(build);
    const made = { figure, bones: bonesOf(figure), places: localPlaces(figure, figure), skin: skinPieces(figure) };
    this.#rests.set(build.id, made);
    return made;
  }

  /** The regions of the skin that lie under pieces altogether. */
  #covered(pieces: readonly Piece[], build: Build): readonly string[] {
    const cover: Field = union(...pieces.map(({ field }) => field));
    const isUnder = ([x = 0, y = 0, z = 0]: readonly number[]) => cover(x, y, z) < -0.15;
    const hidden = [...this.#skinSamples(build)].filter(
      ([, places]) => places.filter(isUnder).length >= places.length * 0.97,
    );
    return hidden.map(([region]) => `body/${region}`);
  }

  /** Places of the skin, by region. */
  #skinSamples(build: Build): ReadonlyMap<string, readonly (readonly number[])[]> {
    const known = this.#samples.get(build.id);
    if (known !== undefined) return known;
    const { skin, bones } = this.#rest(build);
    const samples = new Map<string, (readonly number[])[]>();
    for (const piece of skin) {
      const { positions } = contour(piece.field, 1.6);
      const others = union(...skin.filter((other) => other !== piece).map(({ field }) => field));
      for (let at = 0; at < positions.length; at += 3) {
        const place = [...positions.subarray(at, at + 3)] as [number, number, number];
        // Where limbs meet, one lies in the other, and nobody sees it.
        if (others(...place) < -0.3) continue;
        const region = regionAt(piece, skinFollow(piece), bones, place);
        samples.set(region, [...(samples.get(region) ?? []), place]);
      }
    }
    this.#samples.set(build.id, samples);
    return samples;
  }
}

/** The joint of a point of the rig. */
export function jointOf(point: string): string {
  const [name = "", side] = point.split("-");
  if (side === undefined) return "head";
  return `${name === "hand" ? "hold" : name}.${side === "left" ? "L" : "R"}`;
}

/** What of pieces lies at such heights, triangle by triangle, so that both halves meet without a seam. */
function halves(pieces: readonly MeshedPiece[], isIn: (y: number) => boolean): readonly MeshedPiece[] {
  return pieces
    .map(({ material, surface }) => ({
      material,
      surface: keepFinished(surface, (triangle) => isIn(middleOf(surface, triangle)[1])),
    }))
    .filter(({ surface }) => surface.triangles.length > 0);
}
