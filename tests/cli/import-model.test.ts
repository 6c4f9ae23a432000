import { cp, mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { NodeIO } from "@gltf-transform/core";
import { afterAll, beforeEach, describe, expect, test } from "@jest/globals";
import { decodePng } from "zealous-mantle/raster";
import { paintedFigure } from "../painted-figure.ts";
import { mantle, mantleProcess } from "../run-mantle.ts";

let folder = "";
let catalog = "";

const made: string[] = [];

beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-model-"));
  made.push(folder);
  catalog = join(folder, "game");
  await mkdir(catalog);
  const slots = Object.fromEntries(["coat", "boots", "hair", "hand-left"].map((id) => [id, { kind: "gear" }]));
  const source = { mantle: "catalog/1", id: "game", version: "1", include: ["parts/*.json"], slots };
  await writeFile(join(catalog, "catalog.json"), JSON.stringify(source));
});

afterAll(async () => {
  for (const each of made) await rm(each, { recursive: true });
});

const take = (...more: readonly string[]) =>
  mantle("import", "model", "tests/models/three.glb", "--to", catalog, "--id", "courier", "--out", folder, ...more);
const files = async () => (await readdir(catalog, { recursive: true })).filter((name) => /\.\w+$/.test(name)).sort();

describe("mantle import model", () => {
  test("plans, and writes nothing; then writes all, makes folders, and check finds nothing", async () => {
    const { status, stdout } = await take();
    expect(status).toBe(0);
    expect(stdout.split("\n").slice(0, 6)).toEqual([
      "courier  a body of 4 meshes; 12 joints; idle (0.5 s), walk (1 s)",
      "  body-torso  Body Torso: 40 triangles, 3 joints, Skin",
      "  body-head  Body Head: 20 triangles, 1 joint, Skin",
      "  body-arms  Body Arms: 40 triangles, 4 joints, Skin",
      "  body-legs  Body Legs: 40 triangles, 4 joints, Skin",
      "lantern  Lantern, in hand-left: 12 triangles, on hand.L, Brass",
    ]);
    expect(stdout).toMatch(/Run again with --write to write 7 files/);
    expect(await files()).toEqual(["catalog.json"]);
    // Each mesh is seen in a cell of its own; the lantern comes after the skin.
    expect(stdout).toContain(`Contact sheet: ${join(folder, "courier.png")}`);
    const { width, height, data } = decodePng(await readFile(join(folder, "courier.png")));
    expect([width, height]).toEqual([1274, 654]);
    const brassAt = Array.from({ length: width * height }, (_, at) => at).filter(
      (at) => data[at * 4] === 0xe8 && data[at * 4 + 1] === 0xb0 && data[at * 4 + 2] === 0x40,
    );
    const columns = new Set(brassAt.map((at) => Math.floor(((at % width) - 14) / 210)));
    expect([brassAt.length > 20, [...columns]]).toEqual([true, [4]]);
    const original = await readFile("tests/models/three.glb");
    expect((await take("--write")).status).toBe(0);
    expect(await files()).toEqual([
      "catalog.json",
      ...["body", "boots", "coat", "hair", "lantern", "skeleton"].map((name) => `models/courier/${name}.glb`),
      "parts/three.json",
    ]);
    expect(Buffer.compare(await readFile("tests/models/three.glb"), original)).toBe(0);
    expect((await mantle("check", catalog)).stdout).toMatch(/^game 1: 1 body, 4 slots, 4 parts.*Nothing is wrong/i);
  });

  test("never writes over what is there, but for what it made before and is told to", async () => {
    await take("--write");
    const again = await take("--write");
    expect([again.status, again.stdout]).toEqual([
      1,
      expect.stringMatching(/There is "coat" in the catalog already[\s\S]*Nothing was written/),
    ]);
    expect((await take("--write", "--replace")).status).toBe(0);
    const elsewhere = await mantle("import", "tests/models/three.glb", "--to", catalog, "--folder", "../out");
    expect([elsewhere.status, elsewhere.stderr]).toEqual([2, expect.stringMatching(/no folder of the catalog/)]);
  });

  test("textures are written once, whichever figures have them, and what wears them is drawn", async () => {
    const figure = join(folder, "painted.glb");
    await writeFile(figure, await paintedFigure(new Uint8Array(await readFile("tests/models/three.glb"))));
    const paint = (id: string) => mantle("import", "model", figure, "--to", catalog, "--id", id, "--write");
    expect((await paint("courier")).status).toBe(0);
    const textures = (await files()).filter((name) => name.startsWith("models/textures/"));
    expect(textures.map((name) => name.slice(-4))).toEqual([".jpg", ".png"]);
    expect((await mantle("check", catalog)).stdout).toMatch(/Nothing is wrong/);
    await rm(join(catalog, "parts"), { recursive: true });
    const again = await paint("porter");
    expect([again.status, (await files()).filter((name) => name.startsWith("models/textures/"))]).toEqual([
      0,
      textures,
    ]);
    await mantle("roll", catalog, "--seed", "3", "--out", folder);
    const [rolled = ""] = (await readdir(folder)).filter((name) => name.endsWith(".json"));
    const draw = () => mantle("draw", catalog, join(folder, rolled), "--out", join(folder, "porter.png"));
    expect((await draw()).status).toBe(0);
    await rm(join(catalog, textures[0] ?? ""));
    expect((await mantle("check", catalog)).stdout).toMatch(
      /names a file \.\.\/textures\/coat-cloth-\w+\.jpg, which is not there/,
    );
    expect((await draw()).stderr).toMatch(/There is no file models\/textures\/coat-cloth-\w+\.jpg/);
  });

  test("writes down what it guessed, and does what the file says then", async () => {
    const pieces = join(folder, "pieces.json");
    expect((await take("--choices", pieces)).stdout).toMatch(/as they were guessed/);
    const choices = JSON.parse(await readFile(pieces, "utf8"));
    expect(choices["Coat"]).toEqual({ part: "coat", slot: "coat" });
    await writeFile(pieces, JSON.stringify({ ...choices, Coat: { part: "long-coat", slot: "coat" }, Hair: null }));
    const { stdout } = await take("--choices", pieces, "--write");
    expect(stdout).toMatch(/long-coat {2}Coat, in coat/);
    expect(await files()).not.toContain("models/courier/hair.glb");
    await writeFile(pieces, "[1]");
    expect((await take("--choices", pieces)).stderr).toMatch(/is no JSON object of meshes/);
    expect((await take("--rebind")).stderr).toMatch(/Say which, with --rig/);
  });

  test("reads a figure in text, with the files beside it and no others", async () => {
    const source = join(folder, "figure");
    await mkdir(source);
    const document = await new NodeIO().read("tests/models/three.glb");
    await new NodeIO().write(join(source, "figure.gltf"), document);
    const from = () => mantle("import", join(source, "figure.gltf"), "--to", catalog, "--out", folder);
    expect((await from()).stdout).toMatch(/^figure\.gltf {2}a body of 4 meshes/);
    const text = await readFile(join(source, "figure.gltf"), "utf8");
    const [bytes = ""] = (await readdir(source)).filter((name) => name.endsWith(".bin"));
    await cp(join(source, bytes), join(folder, "outside.bin"));
    await writeFile(join(source, "figure.gltf"), text.replace(bytes, "../outside.bin"));
    expect((await from()).stdout).toMatch(
      /^error {4}figure\.gltf \/buffers\/0: The bytes of this buffer are not there/,
    );
    await writeFile(join(source, "figure.gltf"), "{");
    expect((await from()).stdout).toMatch(/This is not a glTF 2\.0 file that can be read\. Export it again/);
    expect((await mantle("import", join(source, "no.glb"), "--to", catalog)).stderr).toMatch(/There is no file/);
    expect((await mantle("import", "a.glb", "b.glb", "--to", catalog)).stderr).toMatch(/one by one/);
    expect((await mantle("import", "model", "README.md", "--to", catalog)).stderr).toMatch(/Name the file of a figure/);
  });

  test("what was taken apart is drawn, at a moment and in motion", async () => {
    await take("--write");
    const wren = join(folder, "wren.json");
    await mantle("roll", catalog, "--seed", "3", "--out", folder);
    const [rolled = ""] = (await readdir(folder)).filter((name) => name.endsWith(".json"));
    await cp(join(folder, rolled), wren);
    const out = join(folder, "wren.png");
    const still = await mantle(
      "draw",
      catalog,
      wren,
      "--out",
      out,
      "--animation",
      "walk",
      "--facing",
      "west",
      "--time",
      "0.2",
    );
    expect(still.stdout).toMatch(/wren\.png, 256×320 pixels/);
    const { data } = decodePng(await readFile(out));
    expect(data.filter((alpha, at) => at % 4 === 3 && alpha === 255).length).toBeGreaterThan(8_000);
    // As a process: so many pixels take their time in here.
    const moving = mantleProcess(["draw", catalog, wren, "--out", out, "--animation", "walk", "--animated"]);
    expect(moving.stdout).toMatch(/12 frames in 1 seconds/);
    const sheet = mantleProcess([
      "bake",
      catalog,
      wren,
      "--out",
      folder,
      "--animations",
      "idle",
      "--facings",
      "south,west",
    ]);
    expect(sheet.stdout).toMatch(/1536×640 pixels, 12 frames/);
    expect((await mantle("draw", catalog, wren, "--out", out, "--portrait")).stderr).toMatch(
      /There is no crop "portrait"/,
    );
  });

  test("a model that is missing, or of another skeleton, or without a clip, is found by check", async () => {
    await take("--write");
    const found = async () =>
      JSON.parse((await mantle("check", catalog, "--json")).stdout).problems.map(
        ({ code, place }: { code: string; place: { file: string } }) => [code, place.file],
      );
    await rm(join(catalog, "models/courier/hair.glb"));
    await cp(join(catalog, "models/courier/lantern.glb"), join(catalog, "models/courier/boots.glb"));
    const coat = await new NodeIO().read(join(catalog, "models/courier/coat.glb"));
    for (const node of coat.getRoot().listNodes()) if (node.getName() === "chest") node.setName("thorax");
    await new NodeIO().write(join(catalog, "models/courier/coat.glb"), coat);
    const entries = await readFile(join(catalog, "parts/three.json"), "utf8");
    await writeFile(
      join(catalog, "parts/three.json"),
      entries.replace('"Idle"', '"Idol"').replace('"hand.L"', '"hand.X"').replace("Body Head", "Body Hat"),
    );
    expect((await found()).sort()).toEqual([
      ["clip-missing", "models/courier/skeleton.glb"],
      ["joint-missing", "models/courier/skeleton.glb"],
      ["mesh-loose", "models/courier/boots.glb"],
      ["mesh-misfit", "models/courier/coat.glb"],
      ["mesh-missing", "models/courier/body.glb"],
      ["model-missing", "models/courier/hair.glb"],
    ]);
  });
});
