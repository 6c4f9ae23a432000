import { mkdtemp, readdir, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { composeFrame, type Image } from "zealous-mantle";
import { fetchCatalog } from "zealous-mantle/browser";
import { loadCatalog, loadImages } from "zealous-mantle/node";
import { decodePng } from "zealous-mantle/raster";
import { writeManyParts } from "../many-parts.ts";
import { refused } from "../refused.ts";
import { rolledMoments } from "../rolled-moments.ts";
import { mantle } from "../run-mantle.ts";
import { isLong } from "../runs.ts";
import { expectSamePicture } from "../same-picture.ts";
import { type ServedFolder, serveFolder } from "../served-folder.ts";

let folder = "";
/** The catalog that is packed. */
let plain = "";
let served: ServedFolder | undefined;
let packed: { readonly status: number | null; readonly stdout: string } = { status: null, stdout: "" };
const site = (): ServedFolder => served as ServedFolder;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-bundle-"));
  plain = await writeManyParts();
  packed = await mantle("pack", plain, "--out", folder, "--json");
  served = await serveFolder(folder);
});
beforeEach(() => {
  site().odd.clear();
  site().asked.length = 0;
});
afterAll(async () => {
  served?.close();
  for (const each of [folder, plain]) await rm(each, { recursive: true });
});

describe("a packed catalog", () => {
  test("is a handful of files, named by their content but for the one that names them", async () => {
    const { files, before, problems } = JSON.parse(packed.stdout);
    expect([packed.status, problems]).toEqual([0, []]);
    expect(before.files).toBe(99);
    expect(files.length).toBeLessThan(14);
    const names = await readdir(folder);
    expect(names.filter((name) => !/^[0-9a-f]{16}\.(png|json)$/.test(name))).toEqual(["catalog.json"]);
    if (!isLong) return;
    const again = JSON.parse((await mantle("pack", plain, "--out", folder, "--json")).stdout);
    expect(again.files).toEqual(files);
  });

  test("is read as the folder is, and draws the same, from few requests", async () => {
    const { catalog, loader, problems } = await fetchCatalog(site().url);
    const unpacked = await loadCatalog(plain);
    expect(problems).toEqual([]);
    expect([...catalog.parts.keys()]).toEqual([...unpacked.parts.keys()]);
    expect(site().asked).toHaveLength(2);
    const shown = rolledMoments(catalog, 60, 5);
    const one = shown.filter(({ look }) => look.key === shown[0]?.look.key);
    await loader.load(...one.map(({ look }) => look));
    expect(site().asked.length).toBeLessThanOrEqual(6);
    await loader.load(...shown.map(({ look }) => look));
    const images = await loadImages(
      plain,
      rolledMoments(unpacked, 60, 5).map(({ look }) => look),
    );
    for (const { look, moment } of shown)
      expectSamePicture(composeFrame(look, loader.images, moment), composeFrame(look, images, moment));
    expect(loader.images.size).toBeGreaterThan(5);
    const body = decodePng(await readFile(join(plain, "art/reed/body.png")));
    await loader.fetch("art/reed/body.png");
    expectSamePicture(loader.images.get("art/reed/body.png") as Image, body);
    expect(site().asked.length).toBeLessThan(13);
    expect((await refused(loader.fetch("art/reed/nothing.png"))).message).toContain("art/reed/nothing.png");
  });

  test.each<
    [
      string,
      (names: { contents: string; page: string }) => Promise<[file: string, answer: string | number | Uint8Array]>,
      RegExp,
    ]
  >([
    [
      "is of another form",
      async () => ["catalog.json", JSON.stringify({ mantle: "bundle/9", contents: "a.json" })],
      /of the form "bundle\/9", and this version reads "bundle\/1"/,
    ],
    [
      "does not say where its contents are",
      async () => ["catalog.json", JSON.stringify({ mantle: "bundle/1" })],
      /does not say where its "contents" are/,
    ],
    ["is stale", async ({ contents }) => [contents, 404], /stale, or not all of it is served.*the server answered 404/],
    [
      "is cut short",
      async ({ contents }) => [contents, (await readFile(join(folder, contents))).subarray(0, 5000)],
      /came with 5000 bytes that are not those it was packed with/,
    ],
    [
      "has a picture that is cut short",
      async ({ page }) => [page, (await readFile(join(folder, page))).subarray(0, 900)],
      /came with 900 bytes/,
    ],
  ])("that %s says so, and what to do", async (_, breaking, message) => {
    const { contents } = JSON.parse(await readFile(join(folder, "catalog.json"), "utf8"));
    const { pages } = JSON.parse(await readFile(join(folder, contents), "utf8"));
    const page = pages.find(({ pictures }: { pictures: readonly string[] }) => pictures.includes("art/reed/body.png"));
    const [file, answer] = await breaking({ contents, page: page.image });
    site().odd.set(file, answer);
    const loading = fetchCatalog(site().url).then(({ loader }) => loader.fetch("art/reed/body.png"));
    const { code, message: said } = await refused(loading);
    expect(code).toBe("bad-bundle");
    expect(said).toMatch(message);
    expect(said).toContain('Pack the catalog again with "mantle pack"');
  });

  test("is fetched again where a page did not come at first", async () => {
    const { catalog, loader } = await fetchCatalog(site().url);
    const [shown] = rolledMoments(catalog, 1, 1);
    const pages = (await readdir(folder)).filter((name) => name.endsWith(".png"));
    for (const page of pages) site().odd.set(page, 500);
    expect((await refused(loader.load(shown?.look as never))).code).toBe("bad-bundle");
    site().odd.clear();
    await loader.load(shown?.look as never);
    expect(loader.images.size).toBeGreaterThan(1);
  });

  test("is not packed with a mistake, and is no folder for other commands", async () => {
    const broken = await mantle("pack", join(folder, "nothing"), "--out", join(folder, "out"));
    expect([broken.status, broken.stderr]).toEqual([2, expect.stringContaining("catalog.json")]);
    const bundle = await mantle("check", folder);
    expect([bundle.status, bundle.stderr]).toEqual([
      2,
      expect.stringContaining("Name the folder of the catalog it was packed from."),
    ]);
  });
});
