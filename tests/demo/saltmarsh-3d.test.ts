import { mkdir, mkdtemp, readdir, readFile, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { type Document, NodeIO } from "@gltf-transform/core";
import { describe, expect, test } from "@jest/globals";
import validator from "gltf-validator";
import { Color, type Object3D } from "three";
import {
  type Catalog,
  createFromPreset,
  memoryStore,
  openSession,
  readCatalog,
  resolveLook,
  type Session,
} from "zealous-mantle";
import {
  assembleModel,
  channelsOf,
  drawModel,
  drawModelCrop,
  drawModelIcon,
  prepareModel,
  withKeyColors,
} from "zealous-mantle/model";
import { loadCatalog, loadModels, surveyWorn } from "zealous-mantle/node";
import { decodePng } from "zealous-mantle/raster";
import { rollCharacter } from "zealous-mantle/solver";
import { ModelCache, openModelFigure, openSeatFigure } from "zealous-mantle/three";
import { demo } from "../demo-catalog.ts";
import { cornersAt } from "../oracles/skinned-corners.ts";
import { mantle, mantleProcess } from "../run-mantle.ts";
import { isLong } from "../runs.ts";

const folder = "demo/saltmarsh-3d";
const catalog: Catalog = await loadCatalog(folder);
const files = (await readdir(folder, { recursive: true })).filter((file) => file.endsWith(".glb"));
const models = new Map(
  await Promise.all(files.map(async (file) => [file, new Uint8Array(await readFile(join(folder, file)))] as const)),
);
const openShelf = () =>
  new ModelCache(async (file) => models.get(file) ?? Promise.reject(new Error(`There is no ${file}`)), {
    shading: "ramps",
  });

describe("the couriers in three dimensions", () => {
  test("are those of the pictures: the same ids, rules, outfits, steps and cues", async () => {
    const json = async (root: string, file: string) => JSON.parse(await readFile(join(root, file), "utf8"));
    for (const file of ["catalog.json", "creation.json", "cues.json"]) {
      const [drawn, modeled] = [await json("demo/saltmarsh", file), await json(folder, file)];
      const same = Object.keys(drawn).filter((key) => !["title", "rigs", "bodies", "forms"].includes(key));
      expect(same.length).toBeGreaterThan(1);
      for (const key of same) expect([key, modeled[key]]).toEqual([key, drawn[key]]);
    }
    for (const kind of ["bodies", "slots", "parts", "forms", "outfits", "presets"] as const)
      expect([...catalog[kind].keys()].sort()).toEqual([...demo[kind].keys()].sort());
    expect([...catalog.parts.values()].filter(({ meshes }) => meshes.length > 0).length).toBe(
      [...demo.parts.values()].filter(({ layers }) => layers.length > 0).length,
    );
  });

  test("have nothing wrong with them, for `check` and for the validator of the standard", async () => {
    // All that is worn in motion takes ten seconds.
    const quick = isLong ? [] : ["--quick"];
    expect(mantleProcess(["check", folder, ...quick]).stdout).toMatch(/Nothing is wrong\.\n$/);
    expect(files.length).toBeGreaterThan(150);
    for (const [file, bytes] of models) {
      const { issues } = await validator.validateBytes(bytes);
      expect([file, issues.numErrors, issues.numWarnings]).toEqual([file, 0, 0]);
    }
  });

  test("anybody who is rolled is shown in both, and put together in one file", async () => {
    for (const seed of [1, 2]) {
      const character = rollCharacter(demo, { seed });
      const [drawn, modeled] = [resolveLook(demo, character), resolveLook(catalog, character)];
      const seen = (parts: readonly { readonly part: string | undefined }[]) =>
        [...new Set(parts.map(({ part }) => part))].sort();
      expect(seen(modeled.meshes)).toEqual(seen(drawn.layers));
      const { bytes } = await assembleModel(modeled, models);
      expect((await validator.validateBytes(bytes)).issues.numErrors).toBe(0);
    }
  });

  test("portraits, tokens and icons show what they are about, in the colors of the ramps", async () => {
    const look = resolveLook(catalog, createFromPreset(catalog, "first-watch"));
    const model = await prepareModel(look, await loadModels(folder, [look]));
    const portrait = drawModelCrop(model, "portrait", { scale: 4, samples: 1 });
    expect([portrait.width, portrait.height]).toEqual([128, 144]);
    // The crown is in its middle, and shows a yellow hat; the corner above it nothing.
    const at = (image: typeof portrait, x: number, y: number) => [
      ...image.data.slice((y * image.width + x) * 4, (y * image.width + x) * 4 + 4),
    ];
    const mustard = demo.ramps
      .get("mustard")
      ?.colors.map((color) => [color >> 16, (color >> 8) & 255, color & 255, 255]);
    expect(mustard).toContainEqual(at(portrait, 64, 56));
    expect(at(portrait, 2, 2)[3]).toBe(0);
    const token = drawModelCrop(model, "token", { scale: 2 });
    expect(at(token, 30, 0).slice(0, 3)).toEqual([0x16, 0x32, 0x3a]);
    expect(at(token, 0, 0)[3]).toBe(0);
    const icon = drawModelIcon(model, "storm-hat", { size: 40 });
    const lines = Array.from({ length: 40 }, (_, y) => y);
    const seen = lines.filter((x) => lines.some((y) => (at(icon, x, y)[3] ?? 0) > 128));
    // A tenth is left free on either side of its brim.
    expect([icon.width, icon.height, seen[0], seen.at(-1)]).toEqual([40, 40, 4, 35]);
    expect(() => drawModelIcon(model, "kilt")).toThrow(/kilt/);
    expect(() => drawModelCrop(model, "postcard")).toThrow(/postcard/);
    // Light steps through four tones, and the darkest draws the lines.
    const hat = new Set<number>();
    const { data } = drawModel(
      model,
      { animation: "idle", facing: "south", time: 0 },
      { samples: 1, ink: 0, scale: 4 },
    );
    for (let pixel = 0; pixel < data.length; pixel += 4)
      if (data[pixel + 3] === 255)
        hat.add((data[pixel] ?? 0) * 65536 + (data[pixel + 1] ?? 0) * 256 + (data[pixel + 2] ?? 0));
    expect([0x7e5110, 0xb9811f, 0xe3b23c, 0xfadf84].every((tone) => hat.has(tone))).toBe(true);
    expect(hat.has(0x2e1c08)).toBe(false);
  });
});

test("a figure is joined into one mesh of one material, which moves and is colored as before", async () => {
  const look = resolveLook(catalog, createFromPreset(catalog, "old-hand"));
  const [{ bytes: apart }, { bytes: joined }] = [
    await assembleModel(look, models),
    await assembleModel(look, models, { joined: true }),
  ];
  expect((await validator.validateBytes(joined)).issues).toMatchObject({ numErrors: 0, numWarnings: 0 });
  const document = await new NodeIO().readBinary(joined);
  const [mesh, ...others] = document.getRoot().listMeshes();
  expect([
    mesh?.listPrimitives().length,
    others.length,
    document.getRoot().listMaterials().length,
    document.getRoot().listSkins().length,
  ]).toEqual([1, 0, 1, 1]);
  const places = (corners: ReadonlyMap<string, readonly number[]>) => {
    const all = [...corners.values()].flat().map((value) => value.toFixed(3).replace("-0.000", "0.000"));
    return Array.from({ length: all.length / 3 }, (_, at) => all.slice(at * 3, at * 3 + 3).join()).sort();
  };
  const plain = await new NodeIO().readBinary(joined);
  for (const texture of plain.getRoot().listTextures()) texture.dispose();
  const bare = await new NodeIO().writeBinary(plain);
  const [one, other] = [places(await cornersAt(apart, "row", 0.4)), places(await cornersAt(bare, "row", 0.4))];
  expect(other.length).toBe(one.length);
  // Rounded to a thousandth, few differ by the last digit.
  const known = new Set(one);
  expect(other.filter((place) => !known.has(place)).length).toBeLessThan(one.length * 0.02);
  // Each corner has the color of its material: the same colors, as often.
  const primitive = mesh?.listPrimitives()[0];
  const picture = decodePng(primitive?.getMaterial()?.getBaseColorTexture()?.getImage() ?? new Uint8Array());
  const found = new Map<number, number>();
  const coordinates = primitive?.getAttribute("TEXCOORD_0");
  for (let corner = 0; corner < (coordinates?.getCount() ?? 0); corner += 1) {
    const [u = 0, v = 0] = coordinates?.getElement(corner, []) ?? [];
    const at = (Math.floor(v * picture.height) * picture.width + Math.floor(u * picture.width)) * 4;
    const color = ((picture.data[at] ?? 0) << 16) | ((picture.data[at + 1] ?? 0) << 8) | (picture.data[at + 2] ?? 0);
    found.set(color, (found.get(color) ?? 0) + 1);
  }
  const wanted = new Map<number, number>();
  for (const each of (await new NodeIO().readBinary(apart)).getRoot().listMeshes())
    for (const own of each.listPrimitives()) {
      const color = new Color().fromArray(own.getMaterial()?.getBaseColorFactor() ?? []).getHex();
      wanted.set(color, (wanted.get(color) ?? 0) + (own.getAttribute("POSITION")?.getCount() ?? 0));
    }
  expect(found).toEqual(wanted);
});

test("a model is baked in key colors, a picture a channel, which any ramps color afterwards", async () => {
  const wren = createFromPreset(catalog, "first-watch");
  const look = resolveLook(catalog, wren);
  const painted = resolveLook(catalog, {
    ...wren,
    colors: { ...wren.colors, oilcloth: "moss", skin: "umber", leather: "tar" },
  });
  const keyed = await prepareModel(withKeyColors(look), models);
  expect(channelsOf(keyed)).toEqual(["", "accent", "cloth", "eyes", "hair", "leather", "oilcloth", "skin"]);
  const moment = { animation: "walk", facing: "west", time: 0.2 };
  const options = { samples: 1, scale: 3, ink: 0 };
  const pictures = channelsOf(keyed).map(
    (channel) => [channel, drawModel(keyed, moment, { ...options, only: channel })] as const,
  );
  const { data: direct } = drawModel(await prepareModel(painted, models), moment, options);
  const recolors = new Map(
    painted.meshes.flatMap(({ recolors: own }) =>
      [...own.values()].map((recolor) => [recolor.channel, recolor] as const),
    ),
  );
  let [seen, wrong] = [0, 0];
  for (let at = 0; at < direct.length; at += 4) {
    const there = pictures.filter(([, { data }]) => data[at + 3] === 255);
    if (direct[at + 3] === 255) seen += 1;
    if (there.length !== (direct[at + 3] === 255 ? 1 : 0)) wrong += 1;
    for (const [channel, { data }] of there) {
      const color = ((data[at] ?? 0) << 16) | ((data[at + 1] ?? 0) << 8) | (data[at + 2] ?? 0);
      const { key = [], colors = [] } = recolors.get(channel) ?? {};
      const wanted = channel === "" ? color : colors[key.indexOf(color)];
      if (wanted !== (((direct[at] ?? 0) << 16) | ((direct[at + 1] ?? 0) << 8) | (direct[at + 2] ?? 0))) wrong += 1;
    }
  }
  expect([seen > 8000, wrong]).toEqual([true, 0]);
  const folderOut = await mkdtemp(join(tmpdir(), "mantle-"));
  const file = join(folderOut, "wren.json");
  await writeFile(file, JSON.stringify(wren));
  const { status, stdout } = await mantle(
    "bake",
    folder,
    file,
    "--channels",
    "--animations",
    "idle",
    "--facings",
    "west",
    "--out",
    folderOut,
    "--json",
  );
  expect(status).toBe(0);
  const { layers } = JSON.parse(stdout);
  expect(layers.map(({ channel }: { readonly channel?: string }) => channel ?? "")).toEqual(channelsOf(keyed));
  const { width, height } = decodePng(await readFile(join(folderOut, "oilcloth.png")));
  expect([width, height]).toEqual([4 * 64, 80]);
  expect((await mantle("bake", "demo/saltmarsh", file, "--channels", "--out", folderOut)).stderr).toMatch(
    /has a model/,
  );
});

describe("what is worn in motion", () => {
  const raw = async (file: string) => JSON.parse(await readFile(join(folder, file), "utf8"));
  /** The shirt alone, on one body, after something was done to it. */
  const shirtReport = async (change: (shirt: Document) => void = () => {}, rules: readonly object[] = []) => {
    const [main, clothes] = [await raw("catalog.json"), await raw("parts/clothes.json")];
    const { "linen-shirt": shirt } = clothes.parts;
    const { reed } = main.bodies;
    const { catalog: small } = readCatalog({
      mantle: "catalog/1",
      id: "small",
      version: "1",
      ...{ rigs: main.rigs, ramps: main.ramps, channels: main.channels, bodies: { reed: { ...reed, stats: {} } } },
      slots: { shirt: { kind: "gear" }, belt: { kind: "gear" } },
      rules,
      parts: { shirt: { ...shirt, gives: {}, hides: [] } },
    });
    if (small === undefined) throw new Error("The catalog cannot be read.");
    const document = await new NodeIO().readBinary(models.get("models/reed/linen-shirt.glb") ?? new Uint8Array());
    change(document);
    const changed = new Map(models).set("models/reed/linen-shirt.glb", await new NodeIO().writeBinary(document));
    const place = await mkdtemp(join(tmpdir(), "mantle-"));
    for (const file of ["reed/skeleton", "reed/body", "reed/linen-shirt", "heads/mouth"].map(
      (each) => `models/${each}.glb`,
    )) {
      await mkdir(dirname(join(place, file)), { recursive: true });
      await writeFile(join(place, file), changed.get(file) ?? "");
    }
    return surveyWorn(small, place);
  };
  const accessorIn = (document: Document, name: string) =>
    document.getRoot().listMeshes()[0]?.listPrimitives()[0]?.getAttribute(name) ?? undefined;

  test("a shirt over the whole skin has nothing wrong with it", async () => {
    expect((await shirtReport()).problems).toEqual([]);
  });

  test("skin that shows through it is found, with the moment and a picture", async () => {
    const { problems, pictures } = await shirtReport((shirt) => {
      // Its chest is drawn in, so that the chest under it comes out.
      const places = accessorIn(shirt, "POSITION");
      for (let corner = 0; corner < (places?.getCount() ?? 0); corner += 1) {
        const [x = 0, y = 0, z = 0] = places?.getElement(corner, []) ?? [];
        if (Math.abs(y - 0.82) < 0.05 && Math.abs(x) < 0.1) places?.setElement(corner, [x, y, z * 0.6]);
      }
    });
    expect(problems.map(({ code, place }) => [code, place.file])).toEqual([
      ["pokes-through", "models/reed/linen-shirt.glb"],
    ]);
    const { part, body, percent } = problems[0]?.params ?? {};
    expect([part, body, Number(percent) > 1]).toEqual(["shirt", "reed", true]);
    const marked = pictures.get("pokes-through-reed-shirt")?.data ?? [];
    const isMarked = (at: number) => marked[at] === 255 && marked[at + 1] === 0 && marked[at + 2] === 160;
    expect(Array.from({ length: marked.length / 4 }, (_, pixel) => pixel * 4).filter(isMarked).length).toBeGreaterThan(
      5,
    );
  });

  test("a part that floats beside the body is found, unless the rules let nobody wear it alone", async () => {
    const lift = (shirt: Document) => {
      const places = accessorIn(shirt, "POSITION");
      for (const mesh of shirt.getRoot().listMeshes())
        for (const primitive of mesh.listPrimitives()) {
          const own = primitive.getAttribute("POSITION") ?? places;
          for (let corner = 0; corner < (own?.getCount() ?? 0); corner += 1) {
            const [x = 0, y = 0, z = 0] = own?.getElement(corner, []) ?? [];
            own?.setElement(corner, [x, y, z + 0.7]);
          }
        }
    };
    expect((await shirtReport(lift)).problems.map(({ code }) => code)).toEqual(["mesh-floats"]);
    const rules = [{ if: "part:shirt", needs: "slot:belt" }];
    expect((await shirtReport(lift, rules)).problems).toEqual([]);
  });

  test("a corner that follows a joint far away is found", async () => {
    const { problems } = await shirtReport((shirt) => {
      const joints = shirt.getRoot().listSkins()[0]?.listJoints() ?? [];
      const hand = joints.findIndex((joint) => joint.getName() === "hand.R");
      const [numbers, weights, places] = ["JOINTS_0", "WEIGHTS_0", "POSITION"].map((name) => accessorIn(shirt, name));
      const corners = Array.from({ length: places?.getCount() ?? 0 }, (_, corner) => corner);
      const waist =
        corners.toSorted(
          (one, other) => (places?.getElement(one, [])[1] ?? 0) - (places?.getElement(other, [])[1] ?? 0),
        )[0] ?? 0;
      numbers?.setElement(waist, [hand, 0, 0, 0]);
      weights?.setElement(waist, [1, 0, 0, 0]);
    });
    expect(problems.map(({ code }) => code)).toContain("mesh-torn");
    expect(problems.find(({ code }) => code === "mesh-torn")?.params).toMatchObject({ part: "shirt", body: "reed" });
  });
});

/** The matrices of all joints, and of nothing that is worn. */
function jointsIn(object: Object3D): readonly number[] {
  object.updateMatrixWorld(true);
  const found: number[] = [];
  const look = (each: Object3D) => {
    if ("isMesh" in each) return;
    found.push(...each.matrixWorld.elements);
    for (const child of each.children) look(child);
  };
  look(object);
  return found;
}

describe("in a scene", () => {
  test("any part is exchanged during any clip at any time, and no joint moves", async () => {
    const shelf = openShelf();
    const bare = createFromPreset(catalog, "first-watch");
    const figure = await openModelFigure(shelf, resolveLook(catalog, bare));
    const looks = [...catalog.parts.values()]
      .filter(({ meshes, fits }) => meshes.length > 0 && fits?.has("reed") !== false)
      .map(({ id, slots }) => resolveLook(catalog, { ...bare, loadout: { ...bare.loadout, [slots[0] ?? ""]: id } }));
    expect(looks.length).toBeGreaterThan(60);
    for (const animation of catalog.rigs.get("courier")?.animations.keys() ?? [])
      for (const time of isLong ? [0, 0.2, 0.55] : [0.2]) {
        figure.play(animation, 0);
        figure.seek(time);
        const before = jointsIn(figure.object);
        for (const look of looks) {
          await figure.show(look);
          figure.update(0);
        }
        const after = jointsIn(figure.object);
        expect(after.length).toBe(before.length);
        expect(Math.max(...before.map((value, at) => Math.abs(value - (after[at] ?? Number.NaN))))).toBeLessThan(1e-6);
      }
  });

  test("a figure follows its seat: another coat on the same bones, and another body in the same place", async () => {
    const session: Session = await openSession({ catalog, store: memoryStore() });
    session.add(createFromPreset(catalog, "first-watch", { id: "wren", name: "Wren" }));
    session.add(createFromPreset(catalog, "old-hand", { id: "halric", name: "Halric" }));
    const shelf = openShelf();
    const player = openSeatFigure({ session, seat: 1, shelf, animation: "walk" });
    expect(player.figure).toBeUndefined();
    const shown = async (file: string) => {
      const isThere = () => player.figure?.look.meshes.some((mesh) => mesh.file === file) === true;
      for (let turn = 0; turn < 200 && !isThere(); turn += 1) await new Promise((resolve) => setTimeout(resolve, 5));
      expect(isThere()).toBe(true);
    };
    session.seat(1).take("wren");
    await shown("models/reed/oilskin.glb");
    const first = player.figure;
    player.update(0.3);
    session.edit("wren", { wear: "festival-coat" });
    await shown("models/reed/festival-coat.glb");
    expect(player.figure).toBe(first);
    player.object.position.x = 3;
    session.seat(1).leave();
    expect(player.figure).toBeUndefined();
    session.seat(1).take("halric");
    await shown("models/oak/waders.glb");
    expect(player.figure).not.toBe(first);
    expect([player.figure?.animation, player.object.position.x]).toEqual(["walk", 3]);
    expect(player.object.children.length).toBe(1);
    player.close();
    expect(player.figure).toBeUndefined();
    await shelf.trim();
    expect(shelf.size).toEqual({ files: 0, materials: 0 });
    const reed = await openModelFigure(shelf, resolveLook(catalog, createFromPreset(catalog, "first-watch")));
    const oak = resolveLook(catalog, createFromPreset(catalog, "old-hand"));
    await expect(reed.show(oak)).rejects.toMatchObject({ code: "other-skeleton" });
  });
});
