import { mkdir, writeFile } from "node:fs/promises";
import {
  AnimationGroup,
  Animation as BabylonAnimation,
  Mesh as BabylonMesh,
  Scene as BabylonScene,
  Skeleton as BabylonSkeleton,
  Bone,
  Color3,
  Material,
  Matrix,
  NullEngine,
  PBRMaterial,
  TransformNode,
  VertexData,
} from "@babylonjs/core";
import { GLTF2Export } from "@babylonjs/serializers/glTF/index.js";
import * as three from "three";
import { GLTFExporter } from "three/examples/jsm/exporters/GLTFExporter.js";

/**
 * Writes the figures that tests take apart, with the exporters of two engines: a courier of boxes, with a coat, boots and hair that bend with
 * its skeleton, and a lantern that hangs on its hand. Nothing of it is meant to be looked at.
 */

interface Joint {
  readonly name: string;
  readonly parent: string | undefined;
  readonly at: readonly [number, number, number];
}

const joints: readonly Joint[] = [
  { name: "hips", parent: undefined, at: [0, 0.9, 0] },
  { name: "chest", parent: "hips", at: [0, 0.3, 0] },
  { name: "head", parent: "chest", at: [0, 0.35, 0] },
  { name: "arm.L", parent: "chest", at: [0.25, 0.2, 0] },
  { name: "hand.L", parent: "arm.L", at: [0.35, -0.1, 0] },
  { name: "arm.R", parent: "chest", at: [-0.25, 0.2, 0] },
  { name: "hand.R", parent: "arm.R", at: [-0.35, -0.1, 0] },
  { name: "leg.L", parent: "hips", at: [0.12, -0.1, 0] },
  { name: "foot.L", parent: "leg.L", at: [0, -0.7, 0] },
  { name: "leg.R", parent: "hips", at: [-0.12, -0.1, 0] },
  { name: "foot.R", parent: "leg.R", at: [0, -0.7, 0] },
];

/** Where a joint is at rest. */
function placeOf(name: string): readonly [number, number, number] {
  const joint = joints.find((each) => each.name === name);
  if (joint === undefined) return [0, 0, 0];
  const [x, y, z] = placeOf(joint.parent ?? "");
  return [x + joint.at[0], y + joint.at[1], z + joint.at[2]];
}

interface Shape {
  readonly name: string;
  readonly material: string;
  readonly color: number;
  /** A box between two joints, so thick; its corners follow the nearer one, and the middle both. */
  readonly limbs: readonly (readonly [from: string, to: string, thick: number])[];
}

const shapes: readonly Shape[] = [
  {
    name: "Body Torso",
    material: "Skin",
    color: 0xd9a07a,
    limbs: [
      ["hips", "chest", 0.16],
      ["chest", "head", 0.15],
    ],
  },
  { name: "Body Head", material: "Skin", color: 0xd9a07a, limbs: [["head", "head", 0.17]] },
  {
    name: "Body Arms",
    material: "Skin",
    color: 0xd9a07a,
    limbs: [
      ["arm.L", "hand.L", 0.07],
      ["arm.R", "hand.R", 0.07],
    ],
  },
  {
    name: "Body Legs",
    material: "Skin",
    color: 0xd9a07a,
    limbs: [
      ["leg.L", "foot.L", 0.09],
      ["leg.R", "foot.R", 0.09],
    ],
  },
  {
    name: "Coat",
    material: "Oilcloth",
    color: 0xc9972f,
    limbs: [
      ["hips", "chest", 0.2],
      ["chest", "head", 0.19],
      ["arm.L", "hand.L", 0.1],
      ["arm.R", "hand.R", 0.1],
    ],
  },
  {
    name: "Boots",
    material: "Leather",
    color: 0x5a3a24,
    limbs: [
      ["foot.L", "foot.L", 0.13],
      ["foot.R", "foot.R", 0.13],
    ],
  },
  { name: "Hair", material: "Hair", color: 0x3a2418, limbs: [["head", "head", 0.2]] },
];

interface Corners {
  readonly positions: number[];
  readonly normals: number[];
  readonly indices: number[];
  readonly joints: number[];
  readonly weights: number[];
}

/** Boxes along limbs, cut across the middle so that they bend. */
function cornersOf({ limbs }: Shape): Corners {
  const all: Corners = { positions: [], normals: [], indices: [], joints: [], weights: [] };
  for (const [first, last, thick] of limbs) {
    // From its lower end up, so that no box is turned inside out.
    const [from, to] = placeOf(first)[1] > placeOf(last)[1] ? [last, first] : [first, last];
    const [a, b] = [placeOf(from), placeOf(to)];
    const geometry = new three.BoxGeometry(1, 1, 1, 1, 2, 1);
    const start = all.positions.length / 3;
    const position = geometry.getAttribute("position");
    const normal = geometry.getAttribute("normal");
    const [one, other] = [from, to].map((name) => joints.findIndex((joint) => joint.name === name));
    for (let corner = 0; corner < position.count; corner += 1) {
      const along = position.getY(corner) + 0.5;
      const center = a.map((value, axis) => value + ((b[axis] ?? 0) - value) * along);
      const off = [
        position.getX(corner) * 2 * thick,
        from === to ? (along - 0.5) * 2 * thick : 0,
        position.getZ(corner) * 2 * thick,
      ];
      all.positions.push(...center.map((value, axis) => value + (off[axis] ?? 0)));
      all.normals.push(normal.getX(corner), normal.getY(corner), normal.getZ(corner));
      all.joints.push(one ?? 0, other ?? 0, 0, 0);
      all.weights.push(...(from === to ? [1, 0, 0, 0] : [1 - along, along, 0, 0]));
    }
    for (const index of geometry.getIndex()?.array ?? []) all.indices.push(start + Number(index));
  }
  return all;
}

/** How joints turn around an axis in a clip: angles at equal times. */
const clips: Readonly<Record<string, Readonly<Record<string, readonly [axis: "x" | "z", ...number[]]>>>> = {
  Idle: { chest: ["x", 0, 0.05, 0], head: ["x", 0, -0.04, 0] },
  Walk: {
    "leg.L": ["x", 0.5, 0, -0.5, 0, 0.5],
    "leg.R": ["x", -0.5, 0, 0.5, 0, -0.5],
    "arm.L": ["z", -0.3, 0, 0.3, 0, -0.3],
    "arm.R": ["z", 0.3, 0, -0.3, 0, 0.3],
    "foot.L": ["x", 0, 0.4, 0, 0, 0],
  },
};

const step = 0.25;

async function byThree(): Promise<Uint8Array> {
  // The exporter reads blobs in the way of browsers.
  Object.assign(globalThis, { FileReader: BlobReader });
  const bones = joints.map(({ name, at }) => {
    const bone = new three.Bone();
    bone.name = name;
    bone.position.set(...at);
    return bone;
  });
  for (const [number, { parent }] of joints.entries()) {
    const above = joints.findIndex((joint) => joint.name === parent);
    if (above >= 0) bones[above]?.add(bones[number] as three.Bone);
  }
  const figure = new three.Group();
  figure.name = "Figure";
  const [root] = bones;
  if (root !== undefined) figure.add(root);
  figure.updateMatrixWorld(true);
  const skeleton = new three.Skeleton(bones);
  const materials = new Map<string, three.Material>();
  for (const shape of shapes) {
    const { positions, normals, indices, joints: follows, weights } = cornersOf(shape);
    const geometry = new three.BufferGeometry();
    geometry.setAttribute("position", new three.Float32BufferAttribute(positions, 3));
    geometry.setAttribute("normal", new three.Float32BufferAttribute(normals, 3));
    geometry.setAttribute("skinIndex", new three.Uint16BufferAttribute(follows, 4));
    geometry.setAttribute("skinWeight", new three.Float32BufferAttribute(weights, 4));
    geometry.setIndex(indices);
    const material =
      materials.get(shape.material) ?? new three.MeshStandardMaterial({ color: shape.color, name: shape.material });
    materials.set(shape.material, material);
    const mesh = new three.SkinnedMesh(geometry, material);
    mesh.name = shape.name;
    figure.add(mesh);
    mesh.bind(skeleton);
  }
  const lantern = new three.Mesh(
    new three.BoxGeometry(0.14, 0.2, 0.14),
    new three.MeshStandardMaterial({ color: 0xe8b040, name: "Brass" }),
  );
  lantern.name = "Lantern";
  lantern.position.set(0.02, -0.18, 0.03);
  lantern.rotation.set(0.2, 0.4, 0);
  bones.find(({ name }) => name === "hand.L")?.add(lantern);
  const animations = Object.entries(clips).map(([name, tracks]) => {
    const made = Object.entries(tracks).map(([joint, [axis, ...angles]]) => {
      const turns = angles.flatMap((angle) => {
        const euler = new three.Euler(axis === "x" ? angle : 0, 0, axis === "z" ? angle : 0);
        return new three.Quaternion().setFromEuler(euler).toArray();
      });
      const bone = bones.find((each) => each.name === joint);
      return new three.QuaternionKeyframeTrack(
        `${bone?.uuid}.quaternion`,
        angles.map((_, at) => at * step),
        turns,
      );
    });
    return new three.AnimationClip(name, -1, made);
  });
  const written = await new GLTFExporter().parseAsync(figure, { binary: true, animations, onlyVisible: false });
  return new Uint8Array(written as ArrayBuffer);
}

/** As much of the readers of browsers as the exporter uses. */
class BlobReader {
  result: ArrayBuffer | string | null = null;
  onloadend: (() => void) | undefined;

  async readAsArrayBuffer(blob: Blob): Promise<void> {
    this.result = await blob.arrayBuffer();
    this.onloadend?.();
  }

  async readAsDataURL(blob: Blob): Promise<void> {
    this.result = `data:${blob.type};base64,${Buffer.from(await blob.arrayBuffer()).toString("base64")}`;
    this.onloadend?.();
  }
}

async function byBabylon(): Promise<Uint8Array> {
  const engine = new NullEngine();
  const scene = new BabylonScene(engine);
  // As glTF has it, so that nothing is turned over.
  scene.useRightHandedSystem = true;
  const skeleton = new BabylonSkeleton("Figure", "figure", scene);
  const nodes: TransformNode[] = [];
  for (const { name, parent, at } of joints) {
    const above = joints.findIndex((joint) => joint.name === parent);
    const bone = new Bone(name, skeleton, skeleton.bones[above] ?? null, Matrix.Translation(...at));
    const node = new TransformNode(name, scene);
    node.position.set(...at);
    node.parent = nodes[above] ?? null;
    bone.linkTransformNode(node);
    nodes.push(node);
  }
  const materials = new Map<string, PBRMaterial>();
  const materialOf = (name: string, color: number) => {
    const material = materials.get(name) ?? new PBRMaterial(name, scene);
    material.albedoColor = Color3.FromInts(color >> 16, (color >> 8) & 255, color & 255).toLinearSpace();
    material.metallic = 0;
    materials.set(name, material);
    return material;
  };
  for (const shape of shapes) {
    const { positions, normals, indices, joints: follows, weights } = cornersOf(shape);
    const mesh = new BabylonMesh(shape.name, scene);
    const data = new VertexData();
    Object.assign(data, { positions, normals, indices, matricesIndices: follows, matricesWeights: weights });
    data.applyToMesh(mesh);
    mesh.skeleton = skeleton;
    mesh.sideOrientation = Material.CounterClockWiseSideOrientation;
    mesh.material = materialOf(shape.material, shape.color);
  }
  const lantern = new BabylonMesh("Lantern", scene);
  const box = new three.BoxGeometry(0.14, 0.2, 0.14);
  const data = new VertexData();
  Object.assign(data, {
    positions: [...box.getAttribute("position").array],
    normals: [...box.getAttribute("normal").array],
    indices: [...(box.getIndex()?.array ?? [])],
  });
  data.applyToMesh(lantern);
  lantern.sideOrientation = Material.CounterClockWiseSideOrientation;
  lantern.material = materialOf("Brass", 0xe8b040);
  lantern.position.set(0.02, -0.18, 0.03);
  lantern.parent = nodes[joints.findIndex(({ name }) => name === "hand.L")] ?? null;
  for (const [name, tracks] of Object.entries(clips)) {
    const group = new AnimationGroup(name, scene);
    for (const [joint, [axis, ...angles]] of Object.entries(tracks)) {
      const made = new BabylonAnimation(
        `${name} ${joint}`,
        `rotation.${axis}`,
        4,
        BabylonAnimation.ANIMATIONTYPE_FLOAT,
      );
      made.setKeys(angles.map((value, frame) => ({ frame, value })));
      group.addTargetedAnimation(made, nodes[joints.findIndex((each) => each.name === joint)]);
    }
    group.normalize();
  }
  const { files } = await GLTF2Export.GLBAsync(scene, "figure");
  const [file] = Object.values(files);
  engine.dispose();
  if (!(file instanceof Blob)) throw new TypeError("No file was written.");
  return new Uint8Array(await file.arrayBuffer());
}

const folder = new URL("../tests/models/", import.meta.url);
await mkdir(folder, { recursive: true });
for (const [name, make] of Object.entries({ three: byThree, babylon: byBabylon })) {
  const bytes = await make();
  await writeFile(new URL(`${name}.glb`, folder), bytes);
  console.log(`Written: tests/models/${name}.glb, ${bytes.length} bytes`);
}
process.exit(0);
