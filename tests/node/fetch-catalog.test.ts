import { readdir, readFile } from "node:fs/promises";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { composeFrame, createFromPreset, resolveLook } from "zealous-mantle";
import { fetchCatalog, openLiveCatalog } from "zealous-mantle/browser";
import { demo, dressed } from "../demo-catalog.ts";
import { refused } from "../refused.ts";
import { expectSamePicture } from "../same-picture.ts";
import { type ServedFolder, serveFolder } from "../served-folder.ts";

const root = "demo/saltmarsh";
let url = "";
let odd: ServedFolder["odd"] = new Map();
let asked: ServedFolder["asked"] = [];
let served: ServedFolder | undefined;

beforeAll(async () => {
  served = await serveFolder(root);
  ({ url, odd, asked } = served);
});

afterAll(() => served?.close());

const listed = async () => (await readdir(root, { recursive: true })).filter((path) => /\.\w+$/.test(path));

test("a catalog comes from a plain folder that is served, with what draws it, and tells how far it is", async () => {
  odd.clear();
  const told: { done: number; total: number }[] = [];
  const files = await listed();
  const { catalog, loader, problems } = await fetchCatalog(url, { files, onProgress: (now) => told.push(now) });
  expect(problems).toEqual([]);
  expect([...catalog.parts.keys()]).toEqual([...demo.parts.keys()]);
  expect(told.at(-1)?.done).toBe(told.at(-1)?.total);
  expect(told.every(({ done, total }, at) => done <= total && done >= (told[at - 1]?.done ?? 0))).toBe(true);
  // Nobody is asked in vain, and no picture comes that nobody wears.
  expect(asked.filter((path) => !files.includes(path))).toEqual([]);
  expect(asked.filter((path) => path.endsWith(".png")).length).toBeLessThan(8);
  const character = createFromPreset(catalog, "old-hand");
  const look = resolveLook(catalog, character);
  await loader.load(look);
  const ours = await dressed(character);
  const moment = { animation: "walk", facing: "west", time: 0.3 };
  expectSamePicture(composeFrame(look, loader.images, moment), composeFrame(ours.look, ours.images, moment));
});

test("without a list, each pattern is named once, and what is named file by file comes", async () => {
  odd.clear();
  const { code, problems, message } = await refused(fetchCatalog(`${url}catalog.json`));
  expect(code).toBe("bad-catalog");
  const main = JSON.parse(await readFile(`${root}/catalog.json`, "utf8"));
  const patterns = main.include.filter((each: string) => each.includes("*"));
  expect(problems.map(({ place }) => place.pointer)).toEqual(
    patterns.map((each: string) => `/include/${main.include.indexOf(each)}`),
  );
  expect(message).toMatch(/not known which "parts\/\*\.json" means\. Name each file/);
  const include = main.include.flatMap((each: string) => (each === "parts/*.json" ? [] : [each]));
  const parts = (await readdir(`${root}/parts`)).map((name) => `parts/${name}`);
  odd.set("catalog.json", JSON.stringify({ ...main, include: [...include, ...parts] }));
  expect((await fetchCatalog(url)).catalog.parts.size).toBe(demo.parts.size);
});

test("a file that did not come is one finding, with its address and what came in its place", async () => {
  const files = await listed();
  odd.clear();
  odd.set("parts/clothes.json", 404);
  const lost = await refused(fetchCatalog(url, { files }));
  expect([lost.code, lost.problems.length]).toEqual(["bad-catalog", 1]);
  expect(lost.message).toContain(
    `"parts/clothes.json" could not be fetched from ${url}parts/clothes.json: the server answered 404.`,
  );
  odd.set("parts/clothes.json", "page");
  expect((await refused(fetchCatalog(url, { files }))).message).toMatch(/a web page came in its place/);
  odd.set("parts/clothes.json", "{");
  expect((await refused(fetchCatalog(url, { files }))).message).toMatch(/parts\/clothes\.json is not JSON/);
  odd.clear();
  const main = JSON.parse(await readFile(`${root}/catalog.json`, "utf8"));
  for (const path of ["../secret.json", "half\ud800.json"]) {
    odd.set("catalog.json", JSON.stringify({ ...main, include: [path] }));
    asked.length = 0;
    expect((await refused(fetchCatalog(url))).message).toContain(
      `"${path}" could not be fetched: it is served nowhere`,
    );
    expect(asked).toEqual(["catalog.json"]);
  }
  odd.set("catalog.json", "page");
  expect(await refused(fetchCatalog(url))).toMatchObject({
    code: "missing-file",
    message: expect.stringContaining("catalog.json"),
  });
  expect((await refused(fetchCatalog("http://127.0.0.1:9/"))).message).toMatch(/no server answered/);
});

test("a picture that did not come says where it was looked for, and can be tried again", async () => {
  odd.clear();
  const { catalog, loader } = await fetchCatalog(url, { files: await listed() });
  const look = resolveLook(catalog, createFromPreset(catalog, "lamp-child"));
  const [picture = ""] = look.layers.flatMap(({ images }) => images);
  odd.set(picture, "page");
  const error = await refused(loader.load(look));
  expect([error.code, error.message]).toEqual([
    "missing-picture",
    expect.stringContaining(`"${picture}" could not be fetched from ${url}${picture}: a web page came`),
  ]);
  odd.clear();
  await loader.load(look);
  expect(loader.images.has(picture)).toBe(true);
});

test("what is given up is not waited for", async () => {
  odd.clear();
  const giving = new AbortController();
  const fetching = fetchCatalog(url, {
    files: await listed(),
    signal: giving.signal,
    onProgress: () => giving.abort("enough"),
  });
  await expect(fetching).rejects.toBe("enough");
});

test("a catalog that is built into a game is opened by its list; without one, the message says how to serve it", async () => {
  odd.clear();
  const missing = await refused(openLiveCatalog(url));
  expect([missing.code, missing.message]).toEqual([
    "missing-file",
    expect.stringMatching(
      /"files\.json" could not be fetched .*the server answered 404\. Serve the folder by serveCatalogs/,
    ),
  ]);
  odd.set("files.json", '{ "some": "thing" }');
  expect((await refused(openLiveCatalog(url))).message).toMatch(
    /is no list of files\. Serve the folder by serveCatalogs/,
  );
  odd.set("files.json", JSON.stringify({ mantle: "files/1", files: await listed() }));
  const live = await openLiveCatalog(url.slice(0, -1));
  expect([...live.catalog.parts.keys()]).toEqual([...demo.parts.keys()]);
  const look = resolveLook(live.catalog, createFromPreset(live.catalog, "old-hand"));
  await live.loader.load(look);
  const before = [...live.loader.images.keys()];

  // What is gone when pictures are fetched anew is dropped, and what is there is a new object.
  const [gone = "", kept = ""] = before;
  const old = live.loader.images.get(kept);
  odd.set(gone, 404);
  await live.loader.refresh();
  expect([live.loader.version, live.loader.images.has(gone), live.loader.images.get(kept) === old]).toEqual([
    1,
    false,
    false,
  ]);
  odd.delete(gone);
  await live.loader.load(look);
  expect([...live.loader.images.keys()].sort()).toEqual(before.sort());
});
