import { readFile } from "node:fs/promises";
import { describe, expect, test } from "@jest/globals";
import {
  type BufferGeometry,
  Group,
  type Material,
  type Mesh,
  type MeshStandardMaterial,
  type Object3D,
  type SkinnedMesh,
  Vector3,
} from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { type Catalog, createCharacter, type Look, type LookOptions, readCatalog, resolveLook } from "zealous-mantle";
import { assembleModel, planModel, readModel } from "zealous-mantle/model";
import { applyLook, ModelCache, openModelFigure } from "zealous-mantle/three";
import { described } from "../in-words.ts";
import { cornersOf } from "../oracles/skinned-corners.ts";

const source = {
  mantle: "catalog/1",
  id: "worn",
  version: "1",
  slots: Object.fromEntries(["coat", "boots", "hair", "hand-left"].map((id) => [id, { kind: "gear" }])),
  ramps: { sea: ["#102030", "#204060", "#4080a0", "#80c0e0"], moss: ["#102010", "#204020", "#408040", "#80c080"] },
  channels: { oilcloth: { ramps: ["sea", "moss"], default: "sea", key: ["#101010", "#505050", "#909090", "#d0d0d0"] } },
};

const bytes = new Uint8Array(await readFile("tests/models/three.glb"));
const { model } = await readModel("courier.glb", bytes);
const { catalog: bare } = readCatalog(source);
if (model === undefined || bare === undefined) throw new Error("The figure cannot be read.");
const plan = await planModel(bare, model);
const { catalog: read, problems } = readCatalog({
  ...source,
  ...plan.fragment,
  forms: { weary: { when: { signal: "stamina", atMost: 2 }, animations: { walk: "idle" } } },
});
if (read === undefined) throw new Error(problems.map(described).join("\n"));
const catalog: Catalog = read;

const all: Readonly<Record<string, string>> = { coat: "coat", boots: "boots", hair: "hair", "hand-left": "lantern" };
const lookOf = (loadout: Readonly<Record<string, string>> = {}, ramp = "sea", options: LookOptions = {}): Look =>
  resolveLook(
    catalog,
    { ...createCharacter(catalog, { body: "courier" }), loadout, colors: { oilcloth: ramp } },
    options,
  );

const openShelf = (loads: string[] = []) =>
  new ModelCache(async (file) => {
    loads.push(file);
    const found = plan.files.get(file);
    if (found === undefined) throw new Error(`There is no ${file}`);
    return found;
  });

function meshesIn(object: Object3D): readonly Mesh[] {
  const found: Mesh[] = [];
  object.traverse((each) => {
    if ("isMesh" in each) found.push(each as Mesh);
  });
  return found;
}

/** The matrices of all joints, and of nothing that is worn. */
function jointsIn(object: Object3D): readonly number[] {
  object.updateMatrixWorld(true);
  const found: number[] = [];
  object.traverse((each) => {
    if (!("isMesh" in each)) found.push(...each.matrixWorld.elements);
  });
  return found;
}

describe("a figure in a scene", () => {
  test("shows what the assembled file shows, corner by corner, wherever it stands", async () => {
    const figure = await openModelFigure(openShelf(), lookOf(all));
    figure.play("walk", 0);
    figure.update(0.3);
    const parent = new Group();
    parent.add(figure.object);
    const here = cornersOf(figure.object);
    parent.position.set(3, 0, -2);
    const there = cornersOf(parent);
    const { scene, animations } = await new GLTFLoader().parseAsync(
      (await assembleModel(lookOf(all), plan.files)).bytes.slice().buffer,
      "",
    );
    const assembled = cornersOf(
      scene,
      animations.find(({ name }) => name === "Walk"),
      0.3,
    );
    const plainNames = (corners: ReadonlyMap<string, readonly number[]>) =>
      new Map([...corners].map(([name, list]) => [name.replaceAll("_", " "), list]));
    const [expected, shown] = [plainNames(assembled), plainNames(here)];
    expect([...shown.keys()].sort()).toEqual([...expected.keys()].sort());
    for (const [name, corners] of shown) {
      const off = Math.max(...corners.map((value, at) => Math.abs(value - (expected.get(name)?.[at] ?? Number.NaN))));
      expect([name, off < 1e-5]).toEqual([name, true]);
      const moved = corners.map(
        (value, at) => value + ([3, 0, -2][at % 3] ?? 0) - (plainNames(there).get(name)?.[at] ?? Number.NaN),
      );
      expect([name, Math.max(...moved.map(Math.abs)) < 1e-5]).toEqual([name, true]);
    }
    figure.close();
  });

  test("exchanging any part during any clip moves no joint, and the clip goes on", async () => {
    const figure = await openModelFigure(openShelf(), lookOf(all));
    const alone = await openModelFigure(openShelf(), lookOf());
    for (const animation of ["idle", "walk"])
      for (const slot of Object.keys(all))
        for (const step of [0.1, 0.23, 0.4]) {
          for (const each of [figure, alone]) {
            each.play(animation, 0);
            each.update(step);
          }
          const before = jointsIn(figure.object);
          const { [slot]: _off, ...others } = all;
          await figure.show(lookOf(others, "moss"));
          const after = jointsIn(figure.object);
          expect(Math.max(...before.map((value, at) => Math.abs(value - (after[at] ?? Number.NaN))))).toBeLessThan(
            1e-6,
          );
          await figure.show(lookOf(all));
          for (const each of [figure, alone]) each.update(0.05);
          // As one that never changed.
          const [one, other] = [jointsIn(figure.object), jointsIn(alone.object)];
          expect(Math.max(...one.map((value, at) => Math.abs(value - (other[at] ?? Number.NaN))))).toBeLessThan(1e-6);
        }
  });

  test("a thousand exchanges leave nothing behind: no mesh, no material, no file, and nothing is loaded twice", async () => {
    const loads: string[] = [];
    const shelf = openShelf(loads);
    const figure = await openModelFigure(shelf, lookOf(all));
    figure.play("walk");
    await figure.show(lookOf(all, "moss"));
    const state = () => [shelf.size, meshesIn(figure.object).length, loads.length, jointsIn(figure.object).length];
    await figure.show(lookOf(all));
    const before = state();
    for (let turn = 0; turn < 500; turn += 1) {
      await figure.show(lookOf(turn % 3 === 0 ? {} : { coat: "coat" }, "moss"));
      await figure.show(lookOf(all, turn % 2 === 0 ? "sea" : "moss"));
      figure.update(0.01);
    }
    await figure.show(lookOf(all));
    expect(state()).toEqual(before);
    expect(loads.length).toBe(new Set(loads).size);
    const disposed: string[] = [];
    for (const { geometry, material, name } of meshesIn(figure.object))
      for (const each of [geometry as BufferGeometry, material as Material])
        each.addEventListener("dispose", () => void disposed.push(name));
    await shelf.trim();
    expect(disposed).toEqual([]);
    figure.close();
    await shelf.trim();
    expect(shelf.size).toEqual({ files: 0, materials: 0 });
    expect(disposed.length).toBeGreaterThanOrEqual(2 * 8);
  });

  test("figures share geometry and materials, and have colors of their own", async () => {
    const shelf = openShelf();
    const [one, other, third] = [
      await openModelFigure(shelf, lookOf(all)),
      await openModelFigure(shelf, lookOf(all)),
      await openModelFigure(shelf, lookOf(all, "moss")),
    ];
    const coat = ({ object }: { readonly object: Object3D }) =>
      meshesIn(object).find(({ name }) => name === "Coat") as SkinnedMesh;
    expect(coat(one).geometry).toBe(coat(third).geometry);
    expect(coat(one).material).toBe(coat(other).material);
    expect(coat(one).material).not.toBe(coat(third).material);
    const color = ({ material }: SkinnedMesh) => (material as MeshStandardMaterial).color.getHexString();
    expect([color(coat(one)), color(coat(third))]).toEqual(["4080a0", "408040"]);
    expect(coat(one).skeleton).not.toBe(coat(other).skeleton);
    const hair = meshesIn(one.object).find(({ name }) => name === "Hair") as SkinnedMesh;
    expect(hair.skeleton).toBe(coat(one).skeleton);
  });

  test("another form plays another clip at the same part of its way; points move with their joints", async () => {
    const figure = await openModelFigure(openShelf(), lookOf(all));
    figure.play("walk", 0);
    figure.update(0.5);
    const hand = figure.point("hand-l");
    figure.object.updateMatrixWorld(true);
    const raised = hand.getWorldPosition(new Vector3());
    expect(figure.point("hand-l")).toBe(hand);
    await figure.show(lookOf(all, "sea", { signals: { stamina: 1 } }));
    expect(figure.animation).toBe("walk");
    figure.update(0.2);
    figure.object.updateMatrixWorld(true);
    expect(hand.getWorldPosition(new Vector3()).distanceTo(raised)).toBeGreaterThan(0.001);
    // Asked for by its own name, the clip that is shown goes on.
    const there = () => {
      figure.object.updateMatrixWorld(true);
      return hand.getWorldPosition(new Vector3());
    };
    const before = there();
    figure.play("idle");
    figure.update(0);
    expect(there().distanceTo(before)).toBeLessThan(1e-6);
    expect(() => figure.play("swim")).toThrow(/swim/);
    expect(() => figure.point("tail")).toThrow(/tail/);
  });

  test("looks are shown in the order of the calls, and one that cannot be shown leaves what was shown", async () => {
    const shelf = openShelf();
    const figure = await openModelFigure(shelf, lookOf());
    const names = () =>
      meshesIn(figure.object)
        .map(({ name }) => name)
        .filter((name) => !name.startsWith("Body"));
    await Promise.all([
      figure.show(lookOf(all)),
      figure.show(lookOf({ hair: "hair" })),
      figure.show(lookOf({ boots: "boots" })),
    ]);
    expect(names()).toEqual(["Boots"]);
    const [mesh] = lookOf({ coat: "coat" }).meshes.slice(-1);
    const lost = { ...lookOf(), meshes: [{ ...mesh, file: "lost.glb" }] } as Look;
    await expect(figure.show(lost)).rejects.toThrow(/lost\.glb/);
    const nameless = { ...lookOf(), meshes: [{ ...mesh, node: "Tail" }] } as Look;
    await expect(figure.show(nameless)).rejects.toMatchObject({ code: "missing-model" });
    expect(names()).toEqual(["Boots"]);
    await figure.show(lookOf({ coat: "coat" }));
    expect(names()).toEqual(["Coat"]);
  });
});

describe("looks on a figure that is somebody else's", () => {
  test("only meshes of its own come and go; a skeleton without its joints is refused", async () => {
    const shelf = openShelf();
    const { scene } = await new GLTFLoader().parseAsync(
      (plan.files.get("models/courier/skeleton.glb") as Uint8Array).slice().buffer,
      "",
    );
    const theirs = new Group();
    theirs.name = "theirs";
    scene.add(theirs);
    const before: Object3D[] = [];
    scene.traverse((each) => void before.push(each));
    const dressed = applyLook(shelf, scene);
    await dressed.show(lookOf(all));
    expect(meshesIn(scene).length).toBe(8);
    const others: Object3D[] = [];
    scene.traverse((each) => void ("isMesh" in each || others.push(each)));
    expect(others).toEqual(before);
    dressed.close();
    const after: Object3D[] = [];
    scene.traverse((each) => void after.push(each));
    expect(after).toEqual(before);
    const stone = new Group();
    await expect(applyLook(shelf, stone).show(lookOf(all))).rejects.toMatchObject({ code: "other-skeleton" });
    expect(stone.children).toEqual([]);
    await shelf.trim();
    expect(shelf.size.files).toBe(0);
  });
});
