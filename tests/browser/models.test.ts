import { readdir, readFile } from "node:fs/promises";
import { expect, test } from "@jest/globals";
import { createCharacter, createFromPreset, readCatalog, resolveLook } from "zealous-mantle";
import {
  assembleModel,
  drawModel,
  drawModelCrop,
  type MeshChoices,
  type PreparedModel,
  planModel,
  prepareModel,
  readModel,
} from "zealous-mantle/model";
import { loadCatalog, loadModels } from "zealous-mantle/node";
import { paintedFigure } from "../painted-figure.ts";
import { isLong } from "../runs.ts";
import type { Kept, Portrait, Portrayed, Shot } from "./models-page.ts";
import { useSite } from "./site.ts";

const site = useSite();

const slots = Object.fromEntries(["coat", "boots", "hair", "hand-left"].map((id) => [id, { kind: "gear" }]));
const whole = { coat: "coat", boots: "boots", hair: "hair", "hand-left": "lantern" };

async function takeApart(
  bytes: Uint8Array,
  pieces: MeshChoices = {},
  worn: Readonly<Record<string, string>> = whole,
  ink = 1,
) {
  const ids = [...Object.keys(slots), ...Object.keys(worn)];
  const source = {
    mantle: "catalog/1",
    id: "shot",
    version: "1",
    slots: Object.fromEntries(ids.map((id) => [id, { kind: "gear" }])),
  };
  const { model } = await readModel("courier.glb", bytes);
  const { catalog: bare } = readCatalog(source);
  if (model === undefined || bare === undefined) throw new Error("The figure cannot be read.");
  const plan = await planModel(bare, model, { choices: pieces });
  const made = Object(plan.fragment?.rigs?.["courier"]);
  const rigs = { courier: { ...made, model: { ...made.model, scale: 140, tilt: 20, ink } } };
  const main = { ...source, ...plan.fragment, rigs };
  const { catalog } = readCatalog(main as object);
  if (catalog === undefined) throw new Error("The figure cannot be worn.");
  const character = { ...createCharacter(catalog, { body: "courier" }), loadout: worn };
  return { look: resolveLook(catalog, character), files: plan.files, main, character };
}

function asText(files: ReadonlyMap<string, Uint8Array>): Portrayed["models"] {
  return Object.fromEntries([...files].map(([file, each]) => [file, Buffer.from(each).toString("base64")]));
}

/** What an engine draws first, in a page of its own, pixel by pixel; and the files that it asked for. */
async function portray(given: Omit<Portrayed, "models">, files: ReadonlyMap<string, Uint8Array>) {
  const { page, errors } = await site.run("models");
  const all: Portrayed = { ...given, models: asText(files) };
  const { pixels, asked }: Portrait = await page.evaluate(
    (portrayed) => Reflect.get(window, "portray")(portrayed),
    all,
  );
  expect(errors).toEqual([]);
  return { data: Buffer.from(pixels, "base64"), asked };
}

/** What to draw: in our words, and in the engine's. */
type Drawn = readonly [animation: string, facing: string, shot: Shot];

/** Draws two files in an engine, and one of them by the library; the engine has to draw the same twice, and the library its outline. */
async function expectSameTwice(
  before: Uint8Array,
  after: Uint8Array,
  prepared: PreparedModel,
  drawn: readonly Drawn[],
) {
  const { page, errors } = await site.run("models");
  const shoot = async (glb: Uint8Array, shot: Shot): Promise<Buffer> => {
    const given = [Buffer.from(glb).toString("base64"), shot] as const;
    const text: string = await page.evaluate(([glb64, asked]) => Reflect.get(window, "shoot")(glb64, asked), given);
    const pixels = Buffer.from(text, "base64");
    // Its rows come from below.
    const rows = Array.from({ length: 320 }, (_, row) => pixels.subarray(row * 1024, row * 1024 + 1024));
    return Buffer.concat(rows.toReversed());
  };
  for (const [animation, facing, shot] of drawn) {
    const [one, other] = [await shoot(before, shot), await shoot(after, shot)];
    const isSeen = (pixels: ArrayLike<number>, at: number) => (pixels[at * 4 + 3] ?? 0) > 0;
    const count = one.length / 4;
    const all = Array.from({ length: count }, (_, at) => at);
    const seen = all.filter((at) => isSeen(one, at));
    expect(seen.length).toBeGreaterThan(9_000);
    const others = all.filter((at) =>
      [0, 1, 2, 3].some((channel) => one[at * 4 + channel] !== other[at * 4 + channel]),
    );
    expect(others.length).toBeLessThan(count * 0.005);
    const ours = drawModel(prepared, { animation, facing, time: shot.time }, { samples: 1, ink: 0 }).data;
    const edge = seen.filter((at) => [1, -1, 256, -256].some((by) => !isSeen(one, at + by))).length;
    expect(all.filter((at) => isSeen(one, at) !== isSeen(ours, at)).length).toBeLessThanOrEqual(edge * 0.002);
  }
  expect(errors).toEqual([]);
}

test.each(["three", "babylon"])(
  "what %s wrote, taken apart and put together, gives the same picture in an engine, and ours has its outline",
  async (name) => {
    const bytes = new Uint8Array(await readFile(`tests/models/${name}.glb`));
    const { look, files } = await takeApart(bytes);
    const { bytes: assembled } = await assembleModel(look, files);
    await expectSameTwice(bytes, assembled, await prepareModel(look, files), [
      ["idle", "south", { clip: "Idle", time: 0.1, turn: 0, tilt: 20 }],
      ["walk", "west", { clip: "Walk", time: 0.3, turn: -90, tilt: 20 }],
      ["walk", "north", { clip: "Walk", time: 0.7, turn: 180, tilt: 20 }],
    ]);
  },
);

test("so does a courier of the demo, put together, taken apart and put together again", async () => {
  const demo = await loadCatalog("demo/saltmarsh-3d");
  const dressed = resolveLook(demo, createFromPreset(demo, "first-watch"));
  const { bytes } = await assembleModel(dressed, await loadModels("demo/saltmarsh-3d", [dressed]));
  const worn = Object.fromEntries(
    dressed.meshes.flatMap(({ part, node }) => (part && node && !node.endsWith("-top") ? [[part, node]] : [])),
  );
  const pieces = Object.fromEntries(Object.entries(worn).map(([part, node]) => [node, { part, slot: part }]));
  const loadout = Object.fromEntries(Object.keys(worn).map((part) => [part, part]));
  const { look, files } = await takeApart(bytes, { ...pieces, mouth: { region: "mouth" } }, loadout);
  expect(look.meshes.length).toBe(dressed.meshes.length);
  const { bytes: again } = await assembleModel(look, files);
  await expectSameTwice(bytes, again, await prepareModel(look, files), [
    ["idle", "south", { clip: "idle", time: 0.1, turn: 0, tilt: 20 }],
    ["walk", "west", { clip: "walk", time: 0.3, turn: -90, tilt: 20 }],
    ["row", "north", { clip: "row", time: 0.4, turn: 180, tilt: 20 }],
    ["hail", "east", { clip: "hail", time: 0.4, turn: 90, tilt: 20 }],
  ]);
});

test("the first snapshot of a portrait shows what the portrait without a graphics card shows", async () => {
  const folder = "demo/saltmarsh-3d";
  const json = async (file: string) => [file, JSON.parse(await readFile(`${folder}/${file}`, "utf8"))] as const;
  const parts = (await readdir(`${folder}/parts`)).map((file) => `parts/${file}`);
  const included = Object.fromEntries(await Promise.all(["creation.json", "cues.json", ...parts].map(json)));
  const [, main] = await json("catalog.json");
  const demo = await loadCatalog(folder);
  const character = createFromPreset(demo, "first-watch");
  const look = resolveLook(demo, character);
  const bytes = await loadModels(folder, [look]);
  const shown = await portray({ main, included, character, window: "portrait", width: 128, height: 144 }, bytes);
  const { data } = drawModelCrop(await prepareModel(look, bytes), "portrait", { scale: 4 });
  const isSeen = (pixels: ArrayLike<number>, at: number) => (pixels[at * 4 + 3] ?? 0) > 127;
  const all = Array.from({ length: data.length / 4 }, (_, at) => at);
  const seen = all.filter((at) => isSeen(data, at)).length;
  expect(seen).toBeGreaterThan(6000);
  // Lines are drawn in two ways, so a rim of them may differ.
  expect(all.filter((at) => isSeen(data, at) !== isSeen(shown.data, at)).length).toBeLessThan(seen * 0.08);
});

test.each(["three", "babylon"])(
  "what is painted on a figure of %s is seen alike with a graphics card and without: textures, holes in them, corners",
  async (name) => {
    const painted = await paintedFigure(new Uint8Array(await readFile(`tests/models/${name}.glb`)));
    const { look, files, main, character } = await takeApart(painted, {}, whole, 0);
    const shown = await portray({ main, included: {}, character, width: 256, height: 320 }, files);
    // Of two parts that have one picture together, the second asks for nothing.
    const textures = [...files.keys()].filter((file) => file.startsWith("models/textures/"));
    expect(shown.asked.filter((file) => !file.endsWith(".glb")).sort()).toEqual(textures.sort());
    const { data } = drawModel(await prepareModel(look, files), { animation: "idle", facing: "south", time: 0 });
    const all = Array.from({ length: data.length / 4 }, (_, at) => at);
    const seen = all.filter((at) => (data[at * 4 + 3] ?? 0) > 0);
    const differs = (at: number) =>
      [0, 1, 2].some((channel) => Math.abs((data[at * 4 + channel] ?? 0) - (shown.data[at * 4 + channel] ?? 0)) > 12);
    expect(seen.length).toBeGreaterThan(9_000);
    // Of the edges, more or less is there.
    expect(all.filter(differs).length).toBeLessThan(seen.length * 0.04);
  },
);

test("what is taken off gives back its textures, and two parts that have a picture together have it once", async () => {
  const painted = await paintedFigure(new Uint8Array(await readFile("tests/models/three.glb")));
  const { files, main, character } = await takeApart(painted);
  const { page, errors } = await site.run("models");
  const given: Portrayed = { main, included: {}, character, models: asText(files), width: 0, height: 0 };
  const kept: readonly Kept[] = await page.evaluate(([all, times]) => Reflect.get(window, "exchange")(all, times), [
    given,
    isLong ? 100 : 15,
  ] as const);
  const [bare = [0, 0], whole = [0, 0], ...last] = kept;
  expect([whole[0] - bare[0], whole[1] - bare[1]]).toEqual([2, 4]);
  expect(last).toEqual([bare, whole]);
  expect(errors).toEqual([]);
});
