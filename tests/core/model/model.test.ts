import { readFile } from "node:fs/promises";
import { type Accessor, type Document, NodeIO } from "@gltf-transform/core";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import validator from "gltf-validator";
import { Matrix4, Vector3 } from "three";
import { type Catalog, createCharacter, readCatalog, resolveLook } from "zealous-mantle";
import {
  assembleModel,
  drawModel,
  externalFiles,
  fitSkeleton,
  type ModelFile,
  type ModelPlan,
  planModel,
  prepareModel,
  readModel,
} from "zealous-mantle/model";
import { described } from "../../in-words.ts";
import { cornersAt } from "../../oracles/skinned-corners.ts";
import { paintedFigure } from "../../painted-figure.ts";
import { runs } from "../../runs.ts";

const source = {
  mantle: "catalog/1",
  id: "figures",
  version: "1",
  slots: {
    coat: { kind: "gear" },
    boots: { kind: "gear" },
    hair: { kind: "appearance" },
    "hand-left": { kind: "gear" },
    "hand-right": { kind: "gear" },
  },
  ramps: { sea: ["#102030", "#204060", "#4080a0", "#80c0e0"], moss: ["#102010", "#204020", "#408040", "#80c080"] },
  channels: { oilcloth: { ramps: ["sea", "moss"], default: "sea", key: ["#101010", "#505050", "#909090", "#d0d0d0"] } },
};

function catalogOf(more: object = {}): Catalog {
  const { catalog, problems } = readCatalog({ ...source, ...more });
  if (catalog === undefined || problems.length > 0) throw new Error(problems.map(described).join("\n"));
  return catalog;
}

const bytesOf = async (name: string) => new Uint8Array(await readFile(`tests/models/${name}.glb`));
const figures = { three: await bytesOf("three"), babylon: await bytesOf("babylon") };

async function modelOf(bytes: Uint8Array, name = "courier.glb"): Promise<ModelFile> {
  const { model, problems } = await readModel(name, bytes);
  if (model === undefined) throw new Error(problems.map(described).join("\n"));
  return model;
}

/** What is in a file, as the library reads it that tests use. */
const documentOf = (bytes: Uint8Array): Promise<Document> => new NodeIO().readBinary(bytes);

const planOf = async (bytes: Uint8Array, options: Parameters<typeof planModel>[2] = {}): Promise<ModelPlan> =>
  planModel(catalogOf(), await modelOf(bytes), options);

const whole = { coat: "coat", boots: "boots", hair: "hair", "hand-left": "lantern" };

function looksOf({ fragment }: ModelPlan, loadout: Readonly<Record<string, string>> = whole, colors = {}) {
  const catalog = catalogOf(fragment);
  return resolveLook(catalog, { ...createCharacter(catalog, { body: "courier" }), loadout, colors });
}

/** A figure in which something was changed in its JSON or its numbers. */
async function changed(change: (document: Document) => void, bytes = figures.three): Promise<Uint8Array> {
  const document = await new NodeIO().readBinary(bytes);
  change(document);
  return new NodeIO().writeBinary(document);
}

function shownBy(document: Document, name: string) {
  const nodes = document.getRoot().listNodes();
  return nodes.find((each) => each.getName() === name)?.getMesh();
}

/** All numbers of each primitive of a mesh, by what they are; but not what corners follow, which is mended. */
async function numbersIn(bytes: Uint8Array, name: string): Promise<readonly object[]> {
  const mesh = shownBy(await documentOf(bytes), name);
  return (mesh?.listPrimitives() ?? []).map((primitive) => ({
    indices: primitive.getIndices()?.getArray(),
    ...Object.fromEntries(
      [primitive, ...primitive.listTargets()].flatMap((each, at) =>
        each
          .listSemantics()
          .filter((semantic) => !/^(JOINTS|WEIGHTS)_/.test(semantic))
          .map((semantic) => [`${at} ${semantic}`, each.getAttribute(semantic)?.getArray()]),
      ),
    ),
  }));
}

describe.each(Object.entries(figures))("a figure that %s wrote", (_name, bytes) => {
  test("is a body, its skeleton and its clips, and a part for each other mesh; what was a prop hangs on its joint", async () => {
    const plan = await planOf(bytes);
    expect(
      plan.meshes.map(({ name, triangles, joints, hangsOn, choice }) => [
        name,
        triangles,
        joints,
        hangsOn,
        choice?.kind,
      ]),
    ).toEqual([
      ["Lantern", 12, 0, "hand.L", "part"],
      ["Body Torso", 40, 3, undefined, "region"],
      ["Body Head", 20, 1, undefined, "region"],
      ["Body Arms", 40, 4, undefined, "region"],
      ["Body Legs", 40, 4, undefined, "region"],
      ["Coat", 80, 7, undefined, "part"],
      ["Boots", 40, 2, undefined, "part"],
      ["Hair", 20, 1, undefined, "part"],
    ]);
    expect(plan.clips).toEqual([
      { animation: "idle", name: "Idle", duration: 0.5 },
      { animation: "walk", name: "Walk", duration: 1 },
    ]);
    expect(plan.problems.map(({ code }) => code)).toEqual(["prop-on-joint"]);
    const { parts } = plan.fragment ?? {};
    expect(parts?.["lantern"]).toEqual({
      title: "Lantern",
      slot: "hand-left",
      meshes: [{ file: "models/courier/lantern.glb", attach: "hand-l" }],
    });
  });

  test("comes together again: every corner of every mesh is where it was, at every moment of every clip", async () => {
    const plan = await planOf(bytes);
    const { bytes: assembled } = await assembleModel(looksOf(plan), plan.files);
    for (const clip of ["Idle", "Walk"])
      for (const time of [0, 0.1, 0.33, 0.5, 0.9]) {
        const [before, after] = [await cornersAt(bytes, clip, time), await cornersAt(assembled, clip, time)];
        expect([...after.keys()].sort()).toEqual([...before.keys()].sort());
        for (const [mesh, corners] of before) {
          const there = after.get(mesh) ?? [];
          expect(there.length).toBe(corners.length);
          const off = Math.max(...corners.map((value, at) => Math.abs(value - (there[at] ?? Number.NaN))));
          expect([mesh, off < 1e-5]).toEqual([mesh, true]);
        }
      }
  });

  test("has only what is worn, on one skeleton, and the same bytes for the same look", async () => {
    const plan = await planOf(bytes);
    const bare = await documentOf((await assembleModel(looksOf(plan, {}), plan.files)).bytes);
    const shown = bare
      .getRoot()
      .listNodes()
      .filter((node) => node.getMesh() !== null);
    expect(shown.map((node) => node.getName())).toEqual(["Body Torso", "Body Head", "Body Arms", "Body Legs"]);
    const first = await assembleModel(looksOf(plan), plan.files);
    const again = await assembleModel(looksOf(plan), plan.files, {});
    expect([first.name, Buffer.compare(first.bytes, again.bytes)]).toEqual([again.name, 0]);
    const full = await documentOf(first.bytes);
    const skins = full.getRoot().listSkins();
    const names = skins.flatMap((skin) => skin.listJoints());
    expect(new Set(names).size).toBe(11);
    const still = await assembleModel(looksOf(plan), plan.files, { animations: ["idle"] });
    expect(
      (await documentOf(still.bytes))
        .getRoot()
        .listAnimations()
        .map((clip) => clip.getName()),
    ).toEqual(["Idle"]);
    expect(still.bytes.length).toBeLessThan(first.bytes.length);
  });

  test("textures are files of their own, which parts share; in the assembled file each is once, and all is drawn", async () => {
    const plan = await planOf(await paintedFigure(bytes));
    const textures = [...plan.files.keys()].filter((path) => !path.endsWith(".glb"));
    expect(textures).toEqual([
      expect.stringMatching(/^models\/textures\/coat-cloth-[0-9a-f]{16}\.jpg$/),
      expect.stringMatching(/^models\/textures\/strands-[0-9a-f]{16}\.png$/),
    ]);
    const uris = ["coat", "boots", "hair"].map((part) =>
      externalFiles(plan.files.get(`models/courier/${part}.glb`) ?? new Uint8Array()),
    );
    expect(uris).toEqual([0, 0, 1].map((at) => [textures[at]?.replace("models", "..")]));
    const look = looksOf(plan);
    const { bytes: assembled } = await assembleModel(look, plan.files);
    expect((await documentOf(assembled)).getRoot().listTextures().length).toBe(2);
    expect((await validator.validateBytes(assembled)).issues.numErrors).toBe(0);
    const [jpeg = ""] = textures;
    const without = new Map([...plan.files].filter(([path]) => path !== jpeg));
    await expect(assembleModel(look, without)).rejects.toThrow(`The file ${jpeg} was not handed in. models/courier/`);
    const damaged = new Map([...plan.files, [jpeg, (plan.files.get(jpeg) ?? new Uint8Array()).slice(0, 200)]]);
    await expect(prepareModel(look, damaged)).rejects.toThrow("no JPEG that can be read");
    const drawn = async (loadout: Readonly<Record<string, string>>) => {
      const model = await prepareModel(looksOf(plan, loadout), plan.files);
      const { data } = drawModel(model, { animation: "idle", facing: "south", time: 0 }, { samples: 1, ink: 0 });
      const pixels = Array.from({ length: data.length / 4 }, (_, at) => [...data.slice(at * 4, at * 4 + 4)]);
      const count = (isSo: (red: number, green: number, blue: number, alpha: number) => boolean) =>
        pixels.filter(([red = 0, green = 0, blue = 0, alpha = 0]) => isSo(red, green, blue, alpha)).length;
      return {
        red: count((red, green, blue) => red > 30 && green < 30 && blue < 30),
        green: count((red, green, blue) => green > 90 && red < 30 && blue < 30),
        blue: count((red, green, blue) => blue > 90 && red < 30 && green < 30),
        all: count((_red, _green, _blue, alpha) => alpha > 0),
      };
    };
    const [bare, haired, clothed] = [await drawn({}), await drawn({ hair: "hair" }), await drawn({ coat: "coat" })];
    expect([bare.red, bare.blue]).toEqual([0, 0]);
    expect(bare.green).toBeGreaterThan(300);
    // Of the hair one half is holes: the head is seen there.
    expect([haired.red, haired.blue > 100, haired.green > 100]).toEqual([0, true, true]);
    expect([clothed.red > 500, clothed.blue > 500]).toEqual([true, true]);
    expect((await drawn(whole)).all).toBeGreaterThan(clothed.all);
  });

  test("numbers of every kind are in the part as they were: odd counts, three bytes, a shape that differs in few corners", async () => {
    const odd = await changed((document) => {
      const [buffer = null] = document.getRoot().listBuffers();
      const numbers = (
        type: "SCALAR" | "VEC3",
        array: Uint16Array<ArrayBuffer> | Uint8Array<ArrayBuffer> | Float32Array<ArrayBuffer>,
      ) => document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
      const mesh = shownBy(document, "Coat");
      const [first] = mesh?.listPrimitives() ?? [];
      const count = first?.getAttribute("POSITION")?.getCount() ?? 0;
      first?.setAttribute(
        "COLOR_0",
        numbers(
          "VEC3",
          Uint8Array.from({ length: count * 3 }, (_, at) => at % 256),
        ).setNormalized(true),
      );
      const moved = Float32Array.from({ length: count * 3 }, (_, at) => (at === 7 ? 0.25 : 0));
      first?.addTarget(
        document.createPrimitiveTarget("wide").setAttribute("POSITION", numbers("VEC3", moved).setSparse(true)),
      );
      for (const corner of [0, 1, 2])
        mesh?.addPrimitive(
          first?.clone().setIndices(numbers("SCALAR", Uint16Array.of(corner, corner + 1, corner + 2))) as never,
        );
    }, bytes);
    const plan = await planOf(odd);
    const cut = plan.files.get("models/courier/coat.glb") ?? new Uint8Array();
    const { issues } = await validator.validateBytes(cut);
    expect(issues.messages.filter(({ severity }) => severity < 2)).toEqual([]);
    const [before, after] = [await numbersIn(odd, "Coat"), await numbersIn(cut, "Coat")];
    expect(before.length).toBe(4);
    expect(after).toEqual(before);
    const { bytes: assembled } = await assembleModel(looksOf(plan), plan.files);
    expect(await numbersIn(assembled, "Coat")).toEqual(before);
  });

  test("every file that is written is clean under the validator of the standard", async () => {
    const plan = await planOf(bytes);
    const { bytes: assembled } = await assembleModel(looksOf(plan), plan.files);
    expect(plan.files.size).toBe(6);
    for (const [path, content] of [...plan.files, ["assembled", assembled] as const]) {
      const { issues } = await validator.validateBytes(content);
      expect([path, issues.numErrors, issues.numWarnings]).toEqual([path, 0, 0]);
    }
  });
});

describe("the look of a modeled body", () => {
  test("a channel colors a material by its ramp, and each wearer has colors of its own", async () => {
    const plan = await planOf(figures.three);
    const colorIn = async (ramp: string) => {
      const { bytes } = await assembleModel(looksOf(plan, whole, { oilcloth: ramp }), plan.files);
      const found = (await documentOf(bytes))
        .getRoot()
        .listMaterials()
        .find((each) => each.getName() === "Oilcloth");
      return [found?.getBaseColorFactor().map((value) => Math.round(value * 255)), found?.getExtras()];
    };
    // #4080a0 and #408040, as light.
    expect(await colorIn("sea")).toEqual([[13, 55, 90, 255], { channel: "oilcloth", ramp: source.ramps.sea }]);
    expect(await colorIn("moss")).toEqual([[13, 55, 13, 255], { channel: "oilcloth", ramp: source.ramps.moss }]);
  });

  test("what a part hides of the body is not there, and a mesh for another hand is not shown", async () => {
    const plan = await planOf(figures.three);
    const parts = {
      ...plan.fragment?.parts,
      coat: { ...plan.fragment?.parts["coat"], hides: ["body/body-torso", "body/body-arms"] },
    };
    const fragment = { ...plan.fragment, parts } as NonNullable<ModelPlan["fragment"]>;
    const look = looksOf({ ...plan, fragment });
    expect(look.meshes.flatMap(({ node }) => node ?? [])).toEqual(["Body Head", "Body Legs"]);
    const bare = looksOf({ ...plan, fragment }, {});
    expect(bare.meshes.length).toBe(4);
    expect(bare.key).not.toBe(look.key);
  });

  test("what a catalog says wrongly of models is named at its place", () => {
    const rig = {
      frame: { width: 8, height: 8 },
      origin: [4, 8],
      facings: ["south"],
      animations: { idle: { frames: 1, fps: 1 } },
    };
    const model = { file: "skeleton.glb", clips: { idel: "Idle" }, points: { hand: "hand.L" } };
    const mesh = { file: "coat.glb", attach: "hnad", channels: { Cloth: "oilclot" } };
    const { problems } = readCatalog({
      ...source,
      rigs: { flat: rig, deep: { ...rig, model } },
      bodies: { one: { rig: "flat", model: [{ file: "one.glb" }] }, two: { rig: "deep", model: [mesh] } },
      parts: { coat: { slot: "coat", meshes: [{ file: "coat.glb", in: "boots" }] } },
    });
    expect(problems.map(({ code, place }) => [code, place.pointer])).toEqual([
      ["unknown-animation", "/rigs/deep/model/clips/idel"],
      ["rig-without-model", "/bodies/one/model/0"],
      ["unknown-channel", "/bodies/two/model/0/channels/Cloth"],
      ["unknown-point", "/bodies/two/model/0/attach"],
      ["layer-elsewhere", "/parts/coat/meshes/0/in"],
    ]);
  });
});

describe("what is wrong with a figure", () => {
  const codes = async (bytes: Uint8Array, options = {}) => {
    const { model, problems } = await readModel("figure.glb", bytes);
    const plan = model === undefined ? undefined : await planModel(catalogOf(), model, options);
    return [...problems, ...(plan?.problems ?? [])].map(({ code }) => code).filter((code) => code !== "prop-on-joint");
  };
  const nodeIn = (document: Document, name: string) => {
    const node = document
      .getRoot()
      .listNodes()
      .find((each) => each.getName() === name);
    if (node === undefined) throw new Error(`There is no ${name}`);
    return node;
  };
  const numbersOf = (accessor: Accessor): readonly number[] => Array.from(accessor.getArray() ?? []);
  const attributeIn = (document: Document, name: string, semantic: string) => {
    const accessor = nodeIn(document, name).getMesh()?.listPrimitives()[0]?.getAttribute(semantic);
    if (accessor === undefined || accessor === null) throw new Error(`There is no ${semantic}`);
    return accessor;
  };

  test.each<[string, string, (document: Document) => void]>([
    [
      "a mesh on nothing",
      "mesh-on-nothing",
      (document) => {
        document.getRoot().listScenes()[0]?.addChild(nodeIn(document, "Lantern"));
      },
    ],
    [
      "a joint that nobody follows",
      "idle-joints",
      (document) => {
        const joint = document.createNode("tail");
        nodeIn(document, "hips").addChild(joint);
        document.getRoot().listSkins()[0]?.addJoint(joint).setInverseBindMatrices(null);
      },
    ],
    [
      "a mesh on another skeleton",
      "other-skeleton",
      (document) => {
        const joint = document.createNode("other");
        document.getRoot().listScenes()[0]?.addChild(joint);
        nodeIn(document, "Hair").setSkin(document.createSkin("other").addJoint(joint));
        attributeIn(document, "Hair", "JOINTS_0").setArray(
          new Uint16Array(attributeIn(document, "Hair", "JOINTS_0").getCount() * 4),
        );
      },
    ],
    ["a name that says no slot", "no-slot-for-mesh", (document) => void nodeIn(document, "Coat").setName("Thing")],
    [
      "two of one name",
      "ids-clash",
      (document) => {
        nodeIn(document, "Boots").setName("coat!");
      },
    ],
    [
      "weights that are not 1 together",
      "weights-mended",
      (document) => {
        const weights = attributeIn(document, "Coat", "WEIGHTS_0");
        weights.setArray(Float32Array.from(numbersOf(weights), (value) => value * 2));
      },
    ],
    [
      "numbers that are none",
      "not-numbers",
      (document) => {
        attributeIn(document, "Coat", "POSITION").setElement(0, [Number.NaN, 0, 0]);
      },
    ],
    ["a negative scale", "negative-scale", (document) => void nodeIn(document, "Lantern").setScale([-1, 1, 1])],
    [
      "a part that hangs in the air alone",
      "piece-alone",
      (document) => {
        const coat = attributeIn(document, "Coat", "POSITION");
        coat.setArray(Float32Array.from(numbersOf(coat), (value, at) => value + (at % 3 === 2 ? 5 : 0)));
        const boots = attributeIn(document, "Boots", "POSITION");
        boots.setArray(
          Float32Array.from(numbersOf(boots), (value, at) => value + (at % 3 === 2 ? 5 : at % 3 === 1 ? 1 : 0)),
        );
      },
    ],
  ])("%s is named", async (_name, code, change) => {
    expect(await codes(await changed(change))).toContain(code);
  });

  test("more than four weights become the strongest four, and make 1 together", async () => {
    const bytes = await changed((document) => {
      const primitive = nodeIn(document, "Hair").getMesh()?.listPrimitives()[0];
      const count = attributeIn(document, "Hair", "JOINTS_0").getCount();
      const buffer = document.getRoot().listBuffers()[0] ?? null;
      const fill = (list: readonly number[]) => Array.from({ length: count }, () => list).flat();
      const set = (semantic: string, array: Uint16Array | Float32Array) =>
        primitive?.setAttribute(
          semantic,
          document
            .createAccessor()
            .setType("VEC4")
            .setArray(array as Float32Array<ArrayBuffer>)
            .setBuffer(buffer),
        );
      set("JOINTS_0", new Uint16Array(fill([0, 1, 2, 3])));
      set("WEIGHTS_0", new Float32Array(fill([0.05, 0.1, 0.3, 0.2])));
      set("JOINTS_1", new Uint16Array(fill([4, 5, 0, 0])));
      set("WEIGHTS_1", new Float32Array(fill([0.25, 0.1, 0, 0])));
    });
    expect(await codes(bytes)).toContain("many-weights");
    const plan = await planOf(bytes);
    const document = await documentOf(plan.files.get("models/courier/hair.glb") ?? bytes);
    const kept = attributeIn(document, "Hair", "WEIGHTS_0").getElement(0, []);
    const joints = attributeIn(document, "Hair", "JOINTS_0").getElement(0, []);
    expect(joints).toEqual([2, 4, 3, 1]);
    expect(kept.map((weight) => Math.round(weight * 1000))).toEqual([353, 294, 235, 118]);
    expect(nodeIn(document, "Hair").getMesh()?.listPrimitives()[0]?.listSemantics()).not.toContain("JOINTS_1");
  });

  test("meshes named alike in one place are alternatives; what the file of choices says holds", async () => {
    const bytes = await changed((document) => {
      const hair = nodeIn(document, "Hair").setName("Hair 1");
      document
        .getRoot()
        .listScenes()[0]
        ?.addChild(document.createNode("Hair 2").setMesh(hair.getMesh()).setSkin(hair.getSkin()));
    });
    expect(await codes(bytes)).toEqual(["alternatives"]);
    const plan = await planOf(bytes, {
      choices: { "Hair 2": null, "Hair 1": { part: "bob", slot: "hair" }, Coat: { region: "hide" } },
    });
    expect(Object.keys(plan.fragment?.parts ?? {})).toEqual(["lantern", "boots", "bob"]);
    expect(plan.choices["Hair 2"]).toBeNull();
    expect(plan.choices["Coat"]).toEqual({ region: "hide" });
  });
});

describe("a skeleton", () => {
  const figure = async (change: (document: Document) => void = () => {}) => modelOf(await changed(change));
  const rename = (document: Document, name: (old: string) => string) => {
    for (const node of document.getRoot().listNodes()) node.setName(name(node.getName()));
  };

  test("fits where its joints are, by name or by what the name means, in the same pose", async () => {
    const model = await modelOf(figures.three);
    expect(fitSkeleton(await figure(), model).kind).toBe("subset");
    const renamed = await figure((document) =>
      rename(document, (old) => `Rig:${old.replace(/^(\w+)\.L$/, "Left_$1")}`),
    );
    const fit = fitSkeleton(renamed, model);
    expect(fit.kind === "renamed" && fit.names.get("Rig:Left_hand")).toBe("hand.L");
    expect(
      fitSkeleton(await figure((document) => rename(document, (old) => old.replace("foot", "hoof"))), model),
    ).toEqual({
      kind: "missing",
      joints: ["hoof.L", "hoof.R"],
    });
    const turned = await figure((document) => {
      const arm = document
        .getRoot()
        .listNodes()
        .find((node) => node.getName() === "arm.L");
      arm?.setRotation([0, 0, Math.sin(Math.PI / 12), Math.cos(Math.PI / 12)]);
    });
    const posed = fitSkeleton(turned, model);
    expect(posed.kind === "posed" && Math.round(posed.degrees)).toBe(30);
  });

  test("parts of one figure fit the body of another on the same rig, whatever its joints are called", async () => {
    const first = await planOf(figures.three);
    const catalog = catalogOf(first.fragment);
    const rig = catalog.rigs.get("courier");
    if (rig === undefined) throw new Error("There is no rig.");
    const other = await modelOf(
      await changed((document) => rename(document, (old) => (old.includes(".") ? `x:${old}` : old)), figures.babylon),
    );
    const model = await modelOf(first.files.get("models/courier/skeleton.glb") ?? new Uint8Array());
    const plan = await planModel(catalogOf(), other, { id: "oak", rig: { rig, model } });
    expect(plan.problems.map(({ code }) => code)).toEqual(["prop-on-joint", "skeleton-renamed"]);
    expect(plan.fragment?.rigs).toBeUndefined();
    const both = catalogOf({
      ...first.fragment,
      bodies: { ...first.fragment?.bodies, ...plan.fragment?.bodies },
    });
    const look = resolveLook(both, { ...createCharacter(both, { body: "oak" }), loadout: whole });
    const { bytes } = await assembleModel(look, new Map([...first.files, ...plan.files]));
    expect((await validator.validateBytes(bytes)).issues.numErrors).toBe(0);
    expect((await cornersAt(bytes, "Walk", 0.3)).size).toBe(8);
  });

  test("a figure that rests otherwise is bound to the pose of the rig when that is asked for, and moves as one that always was", async () => {
    const first = await planOf(figures.three);
    const rig = catalogOf(first.fragment).rigs.get("courier");
    if (rig === undefined) throw new Error("There is no rig.");
    const model = await modelOf(first.files.get("models/courier/skeleton.glb") ?? new Uint8Array());
    // The same figure, exported with its left arm and all that it moves turned by 40 degrees.
    const raised = await cornersAt(figures.three, "Walk", 0.3);
    // Planning changes nothing in a model: the same is planned three times.
    const turned = await modelOf(await changed(raiseArm));
    const refused = await planModel(catalogOf(), turned, { rig: { rig, model }, id: "oak" });
    expect(refused.problems.map(({ code, severity }) => [code, severity])).toContainEqual(["skeleton-posed", "error"]);
    const plan = await planModel(catalogOf(), turned, { rig: { rig, model }, id: "oak", rebind: true });
    expect(plan.problems.map(({ code }) => code)).toEqual(["prop-on-joint", "skeleton-rebound"]);
    const both = catalogOf({
      ...first.fragment,
      bodies: { ...first.fragment?.bodies, ...plan.fragment?.bodies },
      parts: plan.fragment?.parts,
    });
    const look = resolveLook(both, { ...createCharacter(both, { body: "oak" }), loadout: whole });
    const { bytes } = await assembleModel(look, new Map([...first.files, ...plan.files]));
    expect((await validator.validateBytes(bytes)).issues.numErrors).toBe(0);
    const again = await cornersAt(bytes, "Walk", 0.3);
    const away = [...raised].flatMap(([name, corners]) =>
      corners.map((value, at) => Math.abs(value - (again.get(name)?.[at] ?? 9))),
    );
    // Corners between two joints are bent there and back, which is nearly where they were.
    expect(Math.max(...away)).toBeLessThan(0.05);
    expect(away.filter((each) => each < 1e-4).length).toBeGreaterThan(away.length * 0.85);
    // A skeleton whose joints count their turns from other axes says nothing about where corners go.
    const other = await modelOf(await changed((document) => turnArm(document, [0, 0, 1, 0], true)));
    const twisted = await planModel(catalogOf(), turned, {
      rig: { rig, model: other },
      id: "oak",
      rebind: true,
    });
    expect(twisted.problems.map(({ code }) => code)).toContain("skeleton-twisted");
    expect(twisted.files.size).toBe(0);
  });
});

/** Turns the left arm at rest; the hand goes with it, or stays where it is. */
function turnArm(document: Document, turn: [number, number, number, number], keepsHand = false): void {
  const joint = (name: string) =>
    document
      .getRoot()
      .listNodes()
      .find((node) => node.getName() === name);
  const hand = joint("hand.L")?.getWorldMatrix();
  joint("arm.L")?.setRotation(turn);
  const arm = new Matrix4().fromArray(joint("arm.L")?.getWorldMatrix() ?? []);
  if (keepsHand && hand !== undefined)
    joint("hand.L")?.setMatrix(arm.invert().multiply(new Matrix4().fromArray(hand)).toArray());
}

/** The same figure as one that was made with its left arm raised: bones, corners and what binds them. */
function raiseArm(document: Document): void {
  const root = document.getRoot();
  const worlds = () => new Map(root.listNodes().map((node) => [node, new Matrix4().fromArray(node.getWorldMatrix())]));
  const before = worlds();
  turnArm(document, [0, 0, Math.sin(0.35), Math.cos(0.35)]);
  const after = worlds();
  const bound = new Set<unknown>();
  for (const node of root.listNodes()) {
    const [skin, mesh] = [node.getSkin(), node.getMesh()];
    if (skin === null || mesh === null) continue;
    const moves = skin
      .listJoints()
      .map((joint) => (after.get(joint) as Matrix4).clone().multiply((before.get(joint) as Matrix4).clone().invert()));
    for (const primitive of mesh.listPrimitives()) {
      const [places, joints, weights] = ["POSITION", "JOINTS_0", "WEIGHTS_0"].map((name) =>
        primitive.getAttribute(name),
      );
      for (let corner = 0; corner < (places?.getCount() ?? 0); corner += 1) {
        const [x = 0, y = 0, z = 0] = places?.getElement(corner, []) ?? [];
        const sum = new Vector3();
        for (const [at, share] of (weights?.getElement(corner, []) ?? []).entries()) {
          const move = moves[joints?.getElement(corner, [])[at] ?? 0];
          if (move !== undefined && share > 0) sum.addScaledVector(new Vector3(x, y, z).applyMatrix4(move), share);
        }
        places?.setElement(corner, sum.toArray());
      }
    }
    const binds = skin.getInverseBindMatrices();
    for (const [at, joint] of bound.has(binds) ? [] : skin.listJoints().entries())
      binds?.setElement(at, (after.get(joint) as Matrix4).clone().invert().toArray());
    bound.add(binds);
  }
}

describe("hostile files", () => {
  const jsonOf = (bytes: Uint8Array) => {
    const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
    return JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
  };
  const withJson = (bytes: Uint8Array, json: unknown) => {
    const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
    const text = Buffer.from(JSON.stringify(json).replaceAll('"1e999"', "1e999"));
    const padded = Buffer.concat([text, Buffer.alloc((4 - (text.length % 4)) % 4, 0x20)]);
    const head = Buffer.from(bytes.subarray(0, 20));
    head.writeUInt32LE(padded.length, 12);
    head.writeUInt32LE(bytes.length - length + padded.length, 8);
    return new Uint8Array(Buffer.concat([head, padded, bytes.subarray(20 + length)]));
  };
  const mesh = { primitives: [{ attributes: { POSITION: 999 } }] };

  test.each<[string, (json: ReturnType<typeof jsonOf>) => void, string, RegExp]>([
    ["a node under itself", ({ nodes }) => (nodes[1].children = [1]), "model-node-twice", /^\/nodes\/\d/],
    [
      "two nodes under one another",
      ({ nodes }) => nodes.push({ children: [nodes.length + 1] }, { children: [nodes.length] }),
      "model-node-twice",
      /^\/nodes\//,
    ],
    [
      "a skin of joints that are not there",
      ({ skins }) => (skins[0].joints = [9999]),
      "model-not-there",
      /^\/skins\/0\/joints\/0$/,
    ],
    [
      "a mesh of accessors that are not there",
      ({ meshes }) => meshes.push(mesh),
      "model-not-there",
      /^\/meshes\/\d+\/primitives\/0\/attributes\/POSITION$/,
    ],
    ["a huge count", ({ accessors }) => (accessors[0].count = 4e9), "model-beyond", /^\/accessors\/0$/],
    [
      "a view beyond its buffer",
      ({ bufferViews }) => (bufferViews[0].byteLength = 1e9),
      "model-beyond",
      /^\/bufferViews\/0$/,
    ],
    [
      "a buffer that is longer than its bytes",
      ({ buffers }) => (buffers[0].byteLength = 1e9),
      "model-cut-short",
      /^\/buffers\/0/,
    ],
    [
      "a place that is infinite",
      ({ nodes }) => (nodes[0].translation = ["1e999", 0, 0]),
      "model-value",
      /^\/nodes\/0\/translation$/,
    ],
    [
      "bytes in another file",
      ({ buffers }) => (buffers[0].uri = "../../etc/passwd"),
      "model-without-buffer",
      /^\/buffers\/0$/,
    ],
    [
      "a picture in another file",
      (json) => (json.images = [{ uri: "http://example.org/a.png" }]),
      "model-file-missing",
      /^$/,
    ],
    [
      "what it needs and nobody has",
      (json) => (json.extensionsRequired = ["EXT_packed"]),
      "model-needs-extension",
      /^$/,
    ],
    [
      "nodes that are nested without end",
      ({ nodes }) => {
        for (let more = 0; more < 5_000; more += 1) nodes.push({ children: more < 4_999 ? [nodes.length + 1] : [] });
      },
      "model-too-deep",
      /^\/nodes\/\d+$/,
    ],
    [
      "too many nodes",
      (json) => (json.nodes = Array.from({ length: 200_000 }, () => ({}))),
      "model-too-large",
      /^\/nodes$/,
    ],
    ["another version", (json) => (json.asset.version = "1.0"), "model-no-gltf", /^$/],
  ])("%s is a problem with a place", async (_name, change, code, pointer) => {
    const json = jsonOf(figures.three);
    change(json);
    const { model, problems } = await readModel("figure.glb", withJson(figures.three, json));
    expect(model).toBeUndefined();
    expect(problems[0]).toMatchObject({ code, severity: "error", place: { pointer: expect.stringMatching(pointer) } });
    expect(problems.map(described).join()).toMatch(/Export it again/);
  });

  test("whatever is cut off or changed in a file, it is read or refused, and nothing is thrown", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(), fc.nat(255)), { maxLength: 12 }),
        fc.nat(figures.three.length),
        fc.boolean(),
        async (changes, length, isCut) => {
          const bytes = Uint8Array.from(isCut ? figures.three.subarray(0, length) : figures.three);
          for (const [at, value] of changes) if (bytes.length > 0) bytes[at % bytes.length] = value;
          const { model, problems } = await readModel("figure.glb", bytes);
          expect(model !== undefined || problems.length > 0).toBe(true);
          if (model !== undefined) await planModel(catalogOf(), model);
        },
      ),
      runs(60),
    );
  });
});
