import { Document, Logger, type Node, WebIO } from "@gltf-transform/core";
import { type Catalog, createCharacter, type Look, readCatalog, resolveLook } from "zealous-mantle";
import { assembleModel, type ModelFile, type ModelPlan, planModel, readModel } from "zealous-mantle/model";
import { ModelCache, openModelFigure } from "zealous-mantle/three";
import { agree, type Row, sideBySide } from "../measure.ts";

const io = new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT));

/** A figure of 24 meshes, 120,000 triangles in all, on 40 joints, with four clips. */
async function largeFigure(): Promise<Uint8Array> {
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT));
  const buffer = document.createBuffer();
  const scene = document.createScene();
  const skin = document.createSkin("skin");
  const joints: Node[] = [];
  for (let number = 0; number < 40; number += 1) {
    const joint = document.createNode(`joint-${number}`).setTranslation([0, number === 0 ? 0 : 0.05, 0]);
    (joints[number - 1] ?? scene).addChild(joint);
    skin.addJoint(joint);
    joints.push(joint);
  }
  const binds = joints.flatMap((_, number) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -0.05 * number, 0, 1]);
  skin.setInverseBindMatrices(
    document.createAccessor().setType("MAT4").setArray(new Float32Array(binds)).setBuffer(buffer),
  );
  const corners = 2_600;
  for (let mesh = 0; mesh < 24; mesh += 1) {
    const data = (size: number, value: (corner: number, at: number) => number) =>
      Array.from({ length: corners * size }, (_, at) => value(Math.floor(at / size), at % size));
    const accessor = (type: "VEC3" | "VEC4", array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>) =>
      document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
    const indices = Uint16Array.from({ length: 5_000 * 3 }, (_, at) => (at * 7 + mesh) % corners);
    const primitive = document
      .createPrimitive()
      .setIndices(document.createAccessor().setArray(indices).setBuffer(buffer))
      .setAttribute(
        "POSITION",
        accessor("VEC3", new Float32Array(data(3, (corner, at) => Math.sin(corner + at + mesh)))),
      )
      .setAttribute("NORMAL", accessor("VEC3", new Float32Array(data(3, (corner, at) => (at === corner % 3 ? 1 : 0)))))
      .setAttribute(
        "JOINTS_0",
        accessor("VEC4", new Uint16Array(data(4, (corner, at) => (at < 2 ? (corner + at) % 40 : 0)))),
      )
      .setAttribute("WEIGHTS_0", accessor("VEC4", new Float32Array(data(4, (_, at) => (at < 2 ? 0.5 : 0)))))
      .setMaterial(document.createMaterial(`material-${mesh}`));
    const name = mesh < 4 ? `body ${mesh}` : `piece-${mesh}`;
    scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)).setSkin(skin));
  }
  for (let clip = 0; clip < 4; clip += 1) {
    const animation = document.createAnimation(`clip-${clip}`);
    const times = document
      .createAccessor()
      .setArray(Float32Array.from({ length: 30 }, (_, at) => at / 30))
      .setBuffer(buffer);
    for (const joint of joints) {
      const turns = Float32Array.from({ length: 120 }, (_, at) => (at % 4 === 3 ? 1 : 0));
      const sampler = document
        .createAnimationSampler()
        .setInput(times)
        .setOutput(document.createAccessor().setType("VEC4").setArray(turns).setBuffer(buffer));
      animation.addSampler(sampler);
      animation.addChannel(
        document.createAnimationChannel().setTargetNode(joint).setTargetPath("rotation").setSampler(sampler),
      );
    }
  }
  return io.writeBinary(document);
}

interface Large {
  readonly bytes: Uint8Array;
  readonly catalog: Catalog;
  readonly plan: ModelPlan;
  readonly look: Look;
}

async function large(): Promise<Large> {
  const bytes = await largeFigure();
  const slots = Object.fromEntries(Array.from({ length: 20 }, (_, at) => [`piece-${at + 4}`, { kind: "gear" }]));
  const source = { mantle: "catalog/1", id: "large", version: "1", slots };
  const catalog = read(source);
  const plan = await planModel(catalog, await open(bytes));
  const worn = read({ ...source, ...plan.fragment });
  const loadout = Object.fromEntries(Object.keys(slots).map((slot) => [slot, slot]));
  const look = resolveLook(worn, { ...createCharacter(worn, { body: "figure" }), loadout });
  return { bytes, catalog, plan, look };
}

function read(source: object): Catalog {
  const { catalog } = readCatalog(source);
  if (catalog === undefined) throw new Error("the catalog cannot be read");
  return catalog;
}

async function open(bytes: Uint8Array): Promise<ModelFile> {
  const { model } = await readModel("figure.glb", bytes);
  if (model === undefined) throw new Error("the figure cannot be read");
  return model;
}

const trianglesIn = async (files: Iterable<Uint8Array>) => {
  let sum = 0;
  for (const bytes of files)
    for (const mesh of (await io.readBinary(bytes)).getRoot().listMeshes())
      for (const primitive of mesh.listPrimitives()) sum += (primitive.getIndices()?.getCount() ?? 0) / 3;
  return sum;
};

const plain = { against: "reading and writing the same file with @gltf-transform/core alone", unit: "ms" };

/** A figure taken apart, into a body and twenty parts. */
export const split: Row = {
  ...plain,
  name: "split",
  work: "readModel and planModel of a figure of 24 meshes and 120,000 triangles",
  goal: { atMost: 1.5 },
  async measure() {
    const { bytes, catalog, plan } = await large();
    agree((await trianglesIn(plan.files.values())) === (await trianglesIn([bytes])), "triangles are lost");
    const ours = async () => planModel(catalog, await open(bytes));
    const theirs = async () => io.writeBinary(await io.readBinary(bytes));
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 }, 9);
  },
};

/** The same figure put together again. */
export const assemble: Row = {
  ...plain,
  name: "assemble",
  work: "assembleModel of a body and twenty parts, 120,000 triangles",
  goal: { atMost: 1.5 },
  async measure() {
    const { bytes, plan, look } = await large();
    const { bytes: made } = await assembleModel(look, plan.files);
    agree((await trianglesIn([made])) === (await trianglesIn([bytes])), "triangles are lost");
    const ours = () => assembleModel(look, plan.files);
    const theirs = async () => io.writeBinary(await io.readBinary(made));
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 }, 9);
  },
};

/** Another part on a figure that moves. */
export const swap3d: Row = {
  name: "swap-3d",
  work: "show another look of 21 files on a playing figure",
  against: "opening the figure anew",
  unit: "ms",
  goal: { atLeast: 20 },
  async measure() {
    const { plan, look } = await large();
    const load = async (file: string) => plan.files.get(file) ?? new Uint8Array();
    const shelf = new ModelCache(load);
    const figure = await openModelFigure(shelf, look);
    figure.play("clip-1");
    const other = { ...look, meshes: look.meshes.slice(0, -1) };
    const count = (each: Look) => each.meshes.length;
    agree(count(look) === count(other) + 1, "the looks are the same");
    let next = [other, look];
    const ours = async () => {
      next = next.toReversed();
      await figure.show(next[0] ?? look);
    };
    const theirs = async () => (await openModelFigure(new ModelCache(load), look)).close();
    return sideBySide({ run: ours, times: 20 }, { run: theirs, times: 1 }, 9);
  },
};
