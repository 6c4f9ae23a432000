import { cp, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { type Character, checkLoadout, createCharacter, openSession, readCharacter } from "zealous-mantle";
import { type EntryChange, surveyCoverage } from "zealous-mantle/authoring";
import { fileStore, loadCatalog } from "zealous-mantle/node";
import { decodePng, encodePng } from "zealous-mantle/raster";
import { demo } from "../demo-catalog.ts";
import { mantle } from "../run-mantle.ts";

let folder = "";
let catalog = "";
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-survey-"));
  catalog = join(folder, "keepers");
  await mantle("new", catalog);
});
afterAll(() => rm(folder, { recursive: true }));

const survey = async (...args: readonly string[]) => {
  const answer = await mantle("survey", catalog, "--out", join(folder, "out"), ...args);
  return { ...answer, page: await readFile(join(folder, "out/survey.html"), "utf8").catch(() => "") };
};

describe("mantle survey", () => {
  test("writes one page that needs nothing else, and the characters on it", async () => {
    const { status, stdout, page } = await survey();
    expect([status, stdout]).toEqual([0, expect.stringMatching(/^Keepers 0\.1\.0: 1 body, 2 slots, 4 parts\.\n/)]);
    expect(stdout).toMatch(/pairs of parts are seen together on \d+ characters; \d+ are needed at least/);
    expect(page).not.toMatch(/(src|href)="(?!#|data:)/);
    expect(page).not.toMatch(/https?:|@import|url\(/);
    const read = await loadCatalog(catalog);
    const files = await readdir(join(folder, "out/characters"));
    const shown = files.filter((name) => name.startsWith("figure-"));
    expect(shown.length).toBeGreaterThan(1);
    for (const name of shown) {
      const { character } = readCharacter(JSON.parse(await readFile(join(folder, "out/characters", name), "utf8")));
      expect(character && checkLoadout(read, character)).toEqual([]);
      expect(page).toContain(`out/characters/${name} --animation idle --facing south --scale 4`);
    }
  });

  test("says the same as data, with what keeps parts apart", async () => {
    const { stdout } = await survey("--json", "--with", "bodies,colors", "--slots", "hat,coat");
    const { pairs, valid, coverage, report } = JSON.parse(stdout);
    expect(report).toBe(join(folder, "out/survey.html"));
    expect(valid).toEqual([{ body: "person", count: "5", isProven: true }]);
    expect(coverage).toEqual([]);
    expect([pairs.isProven, pairs.threes, pairs.lowerBound <= pairs.characters.length]).toEqual([true, 0, true]);
  });

  test("shows what is not drawn: what falls back, and what shows nothing", async () => {
    const other = join(folder, "gaps");
    await cp(catalog, other, { recursive: true });
    const file = join(other, "catalog.json");
    const source = JSON.parse(await readFile(file, "utf8"));
    const rig = source.rigs[Object.keys(source.rigs)[0] ?? ""];
    for (const body of Object.values<{ art: object[] }>(source.bodies))
      body.art = body.art.map((layer) => ({ ...layer, animations: ["idle", "walk"] }));
    rig.animations = { ...rig.animations, nod: { frames: 2, fps: 1, else: "idle" }, bow: { frames: 2, fps: 1 } };
    await writeFile(file, JSON.stringify(source));
    const coverage = surveyCoverage(await loadCatalog(other)).filter(({ part }) => part === undefined);
    expect(coverage.flatMap(({ moments }) => moments.filter(({ facing }) => facing === "south"))).toEqual(
      expect.arrayContaining([
        { animation: "idle", facing: "south", state: "drawn", shown: ["idle"] },
        { animation: "nod", facing: "south", state: "falls-back", shown: ["idle"] },
        { animation: "bow", facing: "south", state: "missing", shown: [] },
      ]),
    );
    const { stdout } = await mantle("survey", other, "--out", join(folder, "gaps-out"));
    expect(stdout).toMatch(
      /Of \d+ animations and facings of parts on bodies, \d+ show another animation and \d+ show nothing\./,
    );
    const page = await readFile(join(folder, "gaps-out/survey.html"), "utf8");
    expect(page).toContain('title="south: idle; ');
    expect(page).toContain("south: nothing");
  });

  test("tells what changed since an older version, in data and pixels, and whom it touches", async () => {
    const newer = join(folder, "newer");
    await cp(catalog, newer, { recursive: true });
    const main = join(newer, "catalog.json");
    const source = JSON.parse(await readFile(main, "utf8"));
    await writeFile(
      main,
      JSON.stringify({ ...source, version: "0.2.0", outfits: {}, rules: [{ never: ["part:cap", "part:cloak"] }] }),
    );
    const clothes = join(newer, "parts/clothes.json");
    const { parts, ...rest } = JSON.parse(await readFile(clothes, "utf8"));
    const { hood, ...kept } = parts;
    await writeFile(clothes, JSON.stringify({ ...rest, parts: { ...kept, cloak: { ...kept.cloak, price: 9 } } }));
    const cap = decodePng(await readFile(join(newer, "art/cap.png")));
    const seen = cap.data.findIndex((value, at) => at % 4 === 3 && value === 255);
    cap.data.set([9, 9, 9], seen - 3);
    await writeFile(join(newer, "art/cap.png"), encodePng(cap));

    const saves = join(folder, "saves");
    const read = await loadCatalog(catalog);
    const somebody = (id: string, loadout: Character["loadout"]) => ({
      ...createCharacter(read, { body: "person", id }),
      loadout,
    });
    const session = await openSession({ catalog: read, store: fileStore(saves) });
    session.add(somebody("ann", { hat: "cap", coat: "cloak" }));
    session.add(somebody("bob", { hat: "hood" }));
    session.add(somebody("cat", {}));
    await session.close();
    await writeFile(join(saves, "dan.json"), JSON.stringify(somebody("dan", { hat: "cap" })));
    await writeFile(join(saves, "odd.json"), "{");

    const args = [newer, "--against", catalog, "--saves", saves, "--out", join(folder, "changes")];
    const { stdout } = await mantle("survey", ...args, "--json");
    const { changes, looks, characters, unread, report } = JSON.parse(stdout);
    const told = changes.map(({ section, id, fate, keys }: EntryChange) => [section, id, fate, keys]);
    expect(told).toEqual(
      expect.arrayContaining([
        ["catalog", "version", "changed", [{ pointer: "", before: "0.1.0", after: "0.2.0" }]],
        ["rules", '{"never":["part:cap","part:cloak"]}', "added", []],
        ["rules", expect.stringContaining("part:hood"), "removed", []],
        ["outfits", "walk", "removed", []],
        ["parts", "hood", "removed", []],
        ["parts", "cloak", "changed", [expect.objectContaining({ pointer: "/price", after: 9 })]],
      ]),
    );
    expect(looks).toEqual([{ body: "person", part: "cap", moment: expect.anything(), frames: 1, pixels: 1 }]);
    const touched = Object.fromEntries(characters.map((each: { id: string }) => [each.id, each]));
    expect(Object.keys(touched).sort()).toEqual(["ann", "bob", "dan"]);
    expect(touched.ann).toMatchObject({ lost: [], pixels: 1, mends: [expect.stringMatching(/^take off/)] });
    expect(touched.bob.lost).toEqual(["part:hood"]);
    expect(touched.dan).toMatchObject({ problems: [], lost: [], mends: [], pixels: 1 });
    expect(unread).toEqual(["odd.json"]);
    const page = await readFile(report, "utf8");
    expect(page).toContain("<h1>Keepers: 0.1.0 to 0.2.0</h1>");
    expect(page).not.toMatch(/https?:|(src|href)="(?!#|data:)/);
    expect((await mantle("survey", ...args)).stdout).toContain(
      "Of 4 characters, 1 become invalid, 1 lose something, 3 look otherwise.",
    );
    expect((await survey("--saves", saves)).stderr).toContain("--saves goes with --against");
    const same = await mantle("survey", catalog, "--against", catalog, "--out", join(folder, "same"));
    expect(same.stdout).toContain("0 entries changed in the data; 0 parts on bodies look otherwise.");
  });

  test("refuses slots that are not there, and a strength that there is not", async () => {
    const wrong = await survey("--slots", "hat,coot");
    expect([wrong.status, wrong.stderr]).toEqual([2, expect.stringContaining('"coot"')]);
    expect((await survey("--strength", "4")).stderr).toContain("2, 3");
    expect((await survey("--with", "hats")).stderr).toContain("Allowed are bodies, colors");
  });
});

test("all that the demo has is drawn, of every part on every body that it fits", () => {
  const coverage = surveyCoverage(demo);
  const parts = [...demo.parts.values()].filter(({ layers }) => layers.length > 0);
  const fitting = parts.flatMap((part) => [...demo.bodies.keys()].filter((body) => part.fits?.has(body) ?? true));
  expect(coverage.length).toBe(fitting.length + demo.bodies.size);
  expect(coverage.flatMap(({ moments }) => moments).every(({ state }) => state === "drawn")).toBe(true);
});
