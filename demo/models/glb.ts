import {
  type Accessor,
  type Material as Coat,
  Document,
  type Node,
  type TypedArray,
  WebIO,
} from "@gltf-transform/core";
import { formatColor, toLinear } from "../../src/core/base/color/color.ts";
import type { Material } from "../art/material.ts";
import * as materials from "../art/material.ts";
import { type Clip, joints, type LocalPlace, unit } from "./rig.ts";
import type { FinishedSurface } from "./surface.ts";

/** Triangles of a material that ends up in a file. */
export interface Primitive {
  readonly material: WrittenMaterial;
  readonly surface: FinishedSurface;
}

/** A material as a file has it. */
export interface WrittenMaterial {
  readonly name: string;
  readonly ramp: readonly number[];
  readonly cuts?: readonly number[];
  /** The one color of the ramp it has. */
  readonly tone?: number;
  readonly glows?: boolean;
}

/** A node of a file, and what it shows. */
export interface WrittenNode {
  readonly name: string;
  readonly primitives: readonly Primitive[];
  /** Where it begins, in pixels: meshes that hang are written from there. */
  readonly from: readonly [number, number, number];
}

/** What a material of the sculptures is in a file. @param ramps - the default ramp of each channel. */
export function writtenMaterial(material: Material, ramps: ReadonlyMap<string, readonly number[]>): WrittenMaterial {
  const { channel, tones } = material;
  const name = channel ?? Object.entries(materials).find(([, each]) => each === material)?.[0] ?? "plain";
  return {
    name,
    ramp: ramps.get(channel ?? "") ?? tones,
    // Faces stay lit.
    ...(channel === "skin" && { cuts: [0.27, 0.5, 0.93] }),
    ...(name === "flame" && { glows: true }),
  };
}

/** Writes nodes into one binary file, on as much of the skeleton as they follow. */
export async function writeMeshes(
  nodes: readonly WrittenNode[],
  rest: ReadonlyMap<string, LocalPlace>,
): Promise<Uint8Array> {
  const file = new ModelWriter();
  file.addNodes(nodes, rest);
  return file.bytes();
}

/** Writes the skeleton with its clips. */
export async function writeSkeleton(
  rest: ReadonlyMap<string, LocalPlace>,
  clips: readonly Clip[],
): Promise<Uint8Array> {
  const file = new ModelWriter();
  const nodes = file.addSkeleton(rest, new Set(rest.keys()));
  for (const clip of clips) file.addClip(clip, nodes);
  return file.bytes();
}

class ModelWriter {
  readonly #document = new Document();
  readonly #buffer = this.#document.createBuffer();
  readonly #scene = this.#document.createScene();
  readonly #materials = new Map<string, Coat>();

  bytes(): Promise<Uint8Array> {
    this.#document.getRoot().getAsset().generator = "saltmarsh";
    this.#document.getRoot().setDefaultScene(this.#scene);
    return new WebIO().writeBinary(this.#document);
  }

  addSkeleton(rest: ReadonlyMap<string, LocalPlace>, wanted: ReadonlySet<string>): ReadonlyMap<string, Node> {
    const nodes = new Map<string, Node>();
    for (const { name, parent } of joints) {
      const place = rest.get(name);
      if (place === undefined || !wanted.has(name)) continue;
      const node = this.#document
        .createNode(name)
        .setTranslation([...place.translation])
        .setRotation([...place.rotation]);
      nodes.set(name, node);
      const above = nodes.get(parent ?? "");
      if (above === undefined) this.#scene.addChild(node);
      else above.addChild(node);
    }
    return nodes;
  }

  addNodes(nodes: readonly WrittenNode[], rest: ReadonlyMap<string, LocalPlace>): void {
    const followed = new Set(
      nodes.flatMap(({ primitives }) => primitives.flatMap(({ surface }) => [...jointsIn(surface)])),
    );
    const skeleton = this.addSkeleton(rest, withParents(followed));
    const skin = followed.size === 0 ? null : this.#skin(skeleton);
    for (const { name, primitives, from } of nodes) {
      const mesh = this.#document.createMesh(name);
      const node = this.#document.createNode(name).setMesh(mesh);
      this.#scene.addChild(node);
      if (skin !== null) node.setSkin(skin);
      for (const [material, surfaces] of byMaterial(primitives))
        mesh.addPrimitive(this.#primitive(material, joined(surfaces), from, [...skeleton.keys()]));
    }
  }

  addClip({ name, times, poses }: Clip, nodes: ReadonlyMap<string, Node>): void {
    const animation = this.#document.createAnimation(name);
    const input = this.#accessor("SCALAR", Float32Array.from(times));
    for (const [joint, node] of nodes)
      for (const path of ["translation", "rotation"] as const) {
        const values = poses.map((pose) => pose.get(joint)?.[path] ?? []);
        if (
          values.every((value) => value.every((each, at) => Math.abs(each - (values[0]?.[at] ?? 0)) < 1e-6)) &&
          isRest(values[0], node, path)
        )
          continue;
        const output = this.#accessor(path === "rotation" ? "VEC4" : "VEC3", Float32Array.from(values.flat()));
        const sampler = this.#document.createAnimationSampler().setInput(input).setOutput(output);
        animation
          .addSampler(sampler)
          .addChannel(
            this.#document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler),
          );
      }
  }

  #skin(skeleton: ReadonlyMap<string, Node>) {
    const skin = this.#document.createSkin();
    const matrices: number[] = [];
    for (const node of skeleton.values()) {
      skin.addJoint(node);
      const [x, y, z] = node.getWorldTranslation();
      // At rest no joint is turned.
      matrices.push(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -x, -y, -z, 1);
    }
    return skin.setInverseBindMatrices(this.#accessor("MAT4", Float32Array.from(matrices)));
  }

  #primitive(material: WrittenMaterial, surface: FinishedSurface, from: WrittenNode["from"], order: readonly string[]) {
    const positions = surface.positions.map((value, at) => (value - (from[at % 3] ?? 0)) * unit);
    const colors = new Uint8Array(surface.openness.length * 4);
    for (const [corner, open] of surface.openness.entries()) colors.set([open, open, open, 255], corner * 4);
    const made = this.#document
      .createPrimitive()
      .setMaterial(this.#material(material))
      .setAttribute("POSITION", this.#accessor("VEC3", positions))
      .setAttribute("NORMAL", this.#accessor("VEC3", surface.normals))
      .setAttribute("COLOR_0", this.#accessor("VEC4", colors).setNormalized(true))
      .setIndices(
        this.#accessor(
          "SCALAR",
          surface.positions.length / 3 > 65535 ? surface.triangles : Uint16Array.from(surface.triangles),
        ),
      );
    if (surface.joints !== undefined && surface.weights !== undefined) {
      const numbers = surface.joints.map((joint, at) =>
        surface.weights?.[at] === 0 ? 0 : order.indexOf(joints[joint]?.name ?? ""),
      );
      made.setAttribute("JOINTS_0", this.#accessor("VEC4", numbers));
      made.setAttribute("WEIGHTS_0", this.#accessor("VEC4", surface.weights).setNormalized(true));
    }
    return made;
  }

  #material({ name, ramp, cuts, tone, glows = false }: WrittenMaterial): Coat {
    const key = `${name} ${tone ?? ""}`;
    const known = this.#materials.get(key);
    if (known !== undefined) return known;
    const color = toLinear(ramp[tone ?? Math.floor(ramp.length * 0.6)] ?? 0);
    const made = this.#document
      .createMaterial(tone === undefined ? name : `${name} ${tone}`)
      .setBaseColorFactor([...color, 1])
      .setMetallicFactor(0)
      .setRoughnessFactor(0.9)
      .setExtras({
        ramp: ramp.map(formatColor),
        ...(cuts && { cuts: [...cuts] }),
        ...(tone !== undefined && { tone }),
      });
    if (glows) made.setEmissiveFactor([...color]);
    this.#materials.set(key, made);
    return made;
  }

  #accessor(type: "SCALAR" | "VEC3" | "VEC4" | "MAT4", array: TypedArray): Accessor {
    return this.#document.createAccessor().setType(type).setArray(array).setBuffer(this.#buffer);
  }
}

function isRest(value: readonly number[] | undefined, node: Node, path: "translation" | "rotation"): boolean {
  const rest: readonly number[] = path === "translation" ? node.getTranslation() : node.getRotation();
  return value?.every((each, at) => Math.abs(each - (rest[at] ?? 0)) < 1e-6) ?? true;
}

function jointsIn({ joints: numbers, weights }: FinishedSurface): ReadonlySet<string> {
  const used = new Set<string>();
  for (const [at, number] of (numbers ?? []).entries())
    if ((weights?.[at] ?? 0) > 0) used.add(joints[number]?.name ?? "");
  return used;
}

function withParents(names: ReadonlySet<string>): ReadonlySet<string> {
  const all = new Set(names);
  for (const { name, parent } of joints.toReversed()) if (all.has(name) && parent !== undefined) all.add(parent);
  return all;
}

function byMaterial(primitives: readonly Primitive[]): ReadonlyMap<WrittenMaterial, readonly FinishedSurface[]> {
  const found = new Map<string, { material: WrittenMaterial; surfaces: FinishedSurface[] }>();
  for (const { material, surface } of primitives) {
    const key = `${material.name} ${material.tone ?? ""}`;
    const group = found.get(key) ?? { material, surfaces: [] };
    found.set(key, group);
    group.surfaces.push(surface);
  }
  return new Map([...found.values()].map(({ material, surfaces }) => [material, surfaces]));
}

/** Surfaces of one material as one. */
function joined(surfaces: readonly FinishedSurface[]): FinishedSurface {
  const [first, ...others] = surfaces;
  if (first === undefined || others.length === 0) return first as FinishedSurface;
  const triangles: number[] = [];
  let corners = 0;
  for (const surface of surfaces) {
    for (const corner of surface.triangles) triangles.push(corner + corners);
    corners += surface.positions.length / 3;
  }
  const bytes = (key: "joints" | "weights"): Uint8Array | undefined =>
    first[key] && Uint8Array.from(surfaces.flatMap((surface) => [...(surface[key] ?? [])]));
  return {
    positions: Float32Array.from(surfaces.flatMap(({ positions }) => [...positions])),
    normals: Float32Array.from(surfaces.flatMap(({ normals }) => [...normals])),
    openness: Uint8Array.from(surfaces.flatMap(({ openness }) => [...openness])),
    triangles: Uint32Array.from(triangles),
    joints: bytes("joints"),
    weights: bytes("weights"),
  };
}
