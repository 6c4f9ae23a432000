import { spawnSync } from "node:child_process";
import { mkdir, mkdtemp, rm, symlink, truncate, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import { createCharacter, resolveLook } from "zealous-mantle";
import { cachePoints, inspectCatalog, loadCatalog, loadImages } from "zealous-mantle/node";
import { encodePng } from "zealous-mantle/raster";
import { inWords } from "../in-words.ts";
import { gear, part, smallSource } from "../small-catalog.ts";

let base = "";
let folder = "";
beforeAll(async () => {
  base = await mkdtemp(join(tmpdir(), "mantle-hostile-"));
});
beforeEach(async () => {
  const place = await mkdtemp(join(base, "case-"));
  folder = join(place, "catalog");
  await put("../secret.json", { parts: { treasure: part("hat") } });
  await put("../secret/deep.json", { parts: { treasure: part("hat") } });
});
afterAll(() => rm(base, { recursive: true, force: true }));

async function put(path: string, content: unknown): Promise<string> {
  const file = join(folder, path);
  await mkdir(dirname(file), { recursive: true });
  await writeFile(file, typeof content === "string" ? content : JSON.stringify(content));
  return file;
}

/** Every finding about the folder, as text. */
async function reported(include: readonly string[]): Promise<string> {
  await put("catalog.json", smallSource({ slots: { hat: gear }, include }));
  const { catalog, problems } = await inspectCatalog(folder, { art: "none" });
  const hasTreasure = catalog?.parts.has("treasure") === true ? ["the treasure is in it"] : [];
  return [...problems.map((problem) => `${problem.code}: ${inWords(problem)}`), ...hasTreasure].join("\n");
}

describe("a catalog from a stranger", () => {
  test.each([
    ["../secret.json", "leads out of the catalog folder"],
    ["parts/../../secret.json", "leads out of the catalog folder"],
    ["\\.\\./secret.json", "leads out of the catalog folder"],
    ["\\.\\./*.json", "leads out of the catalog folder"],
    ["{.,}./secret.json", "is no pattern of files"],
    ["@(..)/secret.json", "is no pattern of files"],
    ["/etc/*.json", "leads out of the catalog folder"],
    ["C:/secret.json", "leads out of the catalog folder"],
    ["(".repeat(5_000), "is no pattern of files"],
    [`${"a".repeat(300)}.json`, "is no pattern of files"],
  ])("includes nothing from outside: %s", async (pattern, words) => {
    const text = await reported([pattern]);
    expect(text).toContain(words);
    expect(text).not.toMatch(/treasure/i);
    expect(text.length).toBeLessThan(300);
  });

  test("reads no file that a link brings in from outside, by its name or by a pattern", async () => {
    await mkdir(join(folder, "parts"), { recursive: true });
    await symlink(join(folder, "../secret.json"), join(folder, "parts/link.json"));
    await symlink(join(folder, "../secret"), join(folder, "linked"));
    for (const include of [["parts/link.json"], ["linked/deep.json"]]) {
      const text = await reported(include);
      expect(text).toContain("leads out of the catalog folder");
      expect(text).not.toMatch(/treasure/i);
    }
    for (const pattern of ["parts/*.json", "**/deep.json"])
      expect(await reported([pattern])).toMatch(/^include-of-nothing: No file matches/);
    expect(await reported(["linked/*.json"])).toMatch(/^include-leads-out: .* leads out of the catalog folder/);
    // A link that stays inside is as good as the file.
    await put("own.json", { parts: { cloth: part("hat") } });
    await symlink(join(folder, "own.json"), join(folder, "own-link.json"));
    expect(await reported(["own-link.json"])).toBe("");
  });

  test.each([
    ["a pipe that nobody writes to", (path: string) => void spawnSync("mkfifo", [path]), "not a regular file"],
    ["a folder", (path: string) => mkdir(path), "it is a folder"],
    ["600 MB", (path: string) => writeFile(path, "").then(() => truncate(path, 600e6)), "has 600000000 bytes"],
  ])("says what stands in place of an included file: %s", async (_what, make, words) => {
    await mkdir(folder, { recursive: true });
    await make(join(folder, "parts.json"));
    expect(await reported(["parts.json"])).toContain(words);
  });

  test("draws and marks with no picture from outside", async () => {
    const picture = encodePng({ width: 8, height: 8, data: new Uint8ClampedArray(256) });
    await mkdir(folder, { recursive: true });
    for (const path of ["../outside.png", "plain.png"]) await writeFile(join(folder, path), picture);
    await symlink(join(folder, "../outside.png"), join(folder, "link.png"));
    for (const image of ["../outside.png", "link.png"]) {
      const source = smallSource({
        slots: { hat: gear },
        parts: { cap: { slot: "hat", layers: [{ image, depth: 1 }] } },
      });
      await put("catalog.json", source);
      const catalog = await loadCatalog(folder);
      const wren = { ...createCharacter(catalog, { body: "plain" }), loadout: { hat: "cap" } };
      await expect(loadImages(folder, [resolveLook(catalog, wren)])).rejects.toMatchObject({
        code: "unreadable-file",
        message: expect.stringContaining("leads out of the catalog folder"),
      });
      const { problems } = await inspectCatalog(folder);
      expect(problems.map(({ code }) => code)).toContain("missing-picture");
      await expect(cachePoints(folder, image)).rejects.toMatchObject({ code: "unreadable-file" });
    }
  });

  test("is read over a byte order mark, and refused where it is nested too deep or too large", async () => {
    await put("marked.json", `\uFEFF${JSON.stringify({ parts: { cloth: part("hat") } })}`);
    expect(await reported(["marked.json"])).toBe("");
    await put("deep.json", `${'{"parts":'.repeat(5_000)}1${"}".repeat(5_000)}`);
    expect(await reported(["deep.json"])).toContain("beyond-limits: It is nested deeper than 64 levels");
    await put("broken.json", "[".repeat(100_000));
    expect(await reported(["broken.json"])).toMatch(/not-json: This is not JSON: /);
    await put("one.json", { parts: {}, note: "x".repeat(9_000_000) });
    await put("two.json", { parts: {}, note: "x".repeat(9_000_000) });
    expect(await reported(["one.json", "two.json"])).toContain("may be");
  });

  test("has its own catalog.json, and no other", async () => {
    await put("../other/catalog.json", smallSource({}));
    await mkdir(folder, { recursive: true });
    await symlink(join(folder, "../other/catalog.json"), join(folder, "catalog.json"));
    await expect(loadCatalog(folder)).rejects.toThrow("leads out of the catalog folder");
    // A folder that is a link itself is the one its user named.
    await symlink(join(folder, "../other"), join(folder, "../renamed"));
    expect((await loadCatalog(join(folder, "../renamed"))).id).toBe("small");
  });
});
