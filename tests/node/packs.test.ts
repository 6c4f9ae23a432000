import { cp, mkdir, mkdtemp, readdir, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { type Catalog, type Character, composeFrame, createCharacter, openSession, resolveLook } from "zealous-mantle";
import { fetchCatalog } from "zealous-mantle/browser";
import { fileStore, inspectCatalog, loadCatalog, loadImages, packCatalog } from "zealous-mantle/node";
import { demo, demoFolder } from "../demo-catalog.ts";
import { edited } from "../edited.ts";
import { refused } from "../refused.ts";
import { mantle } from "../run-mantle.ts";
import { expectSamePicture } from "../same-picture.ts";
import { type ServedFolder, serveFolder } from "../served-folder.ts";

const fair = { folder: demoFolder, packs: ["demo/packs/frost-fair"] };

let served: ServedFolder;
let folder = "";
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-packs-"));
  served = await serveFolder(folder);
  await mantle("new", join(folder, "keepers"));
  await writePack("brim", {
    parts: {
      "brim.cap": {
        slot: "hat",
        layers: [
          { image: "art/cap.png", depth: 60, channel: "brim.felt" },
          { image: "/art/cap.png", depth: 61, opacity: 0.5 },
        ],
      },
    },
    channels: { "brim.felt": { ramps: ["brick"], default: "brick", key: ["#000001"] } },
    changes: { parts: { hood: { price: 3 } } },
  });
  await cp(join(folder, "keepers/art/hood.png"), join(folder, "brim/art/cap.png"), { recursive: true });
});
afterAll(async () => {
  served.close();
  await rm(folder, { recursive: true });
});

/** Writes a pack over the catalog of keepers. */
async function writePack(id: string, sections: object): Promise<string> {
  const path = join(folder, id);
  await mkdir(path, { recursive: true });
  const pack = { mantle: "pack/1", id, version: "1.0.0", over: "keepers", ...sections };
  await writeFile(join(path, "pack.json"), JSON.stringify(pack, null, 2));
  return path;
}

function dressed(
  catalog: Catalog,
  ...[edit]: Parameters<typeof edited> extends [unknown, unknown, ...infer E] ? E : never
): Character {
  const [body = ""] = catalog.bodies.keys();
  const character = createCharacter(catalog, { body, id: "wren", name: "Wren" });
  return edit === undefined ? character : edited(catalog, character, edit);
}

const moment = { animation: "walk", facing: "west", time: 0.1 };
const listed = async (root: string) => (await readdir(root, { recursive: true })).filter((path) => /\.\w+$/.test(path));

describe("packs in folders", () => {
  test("are laid over a catalog, and draw", async () => {
    expect((await inspectCatalog(fair)).problems).toEqual([]);
    const catalog = await loadCatalog(fair);
    const skater = dressed(catalog, { dress: "frost-fair.skater" });
    const look = resolveLook(catalog, skater);
    const images = await loadImages(fair, [look]);
    expect([...images.keys()].filter((path) => path.startsWith("packs/frost-fair/art/reed/fur-hat"))).toHaveLength(3);
    const bare = resolveLook(catalog, edited(catalog, skater, { remove: "hat" }));
    const [furred, plain] = [look, bare].map((each) => composeFrame(each, images, moment).data);
    expect(furred).not.toEqual(plain);
  });

  test("are fetched from where they are served, beside a plain catalog or one that was packed", async () => {
    const place = { folder: join(folder, "keepers"), packs: [join(folder, "brim")] };
    const known = await loadCatalog(place);
    const look = resolveLook(known, dressed(known, { wear: "brim.cap" }));
    const ours = composeFrame(look, await loadImages(place, [look]), moment);
    const packs = [{ url: `${served.url}brim/`, files: await listed(join(folder, "brim")) }];
    const write = async (root: string, { files }: Awaited<ReturnType<typeof packCatalog>>) => {
      for (const [path, bytes] of files) {
        await mkdir(dirname(join(folder, root, path)), { recursive: true });
        await writeFile(join(folder, root, path), bytes);
      }
    };
    await write("alone", await packCatalog(place.folder));
    await write("together", await packCatalog(place));
    const all = [
      await fetchCatalog(`${served.url}keepers/`, { files: await listed(place.folder), packs }),
      await fetchCatalog(`${served.url}alone/`, { packs }),
      await fetchCatalog(`${served.url}together/`),
    ];
    for (const { catalog, loader, problems } of all) {
      expect([problems, catalog.parts.get("hood")?.price]).toEqual([[], 3]);
      const fetched = resolveLook(catalog, dressed(catalog, { wear: "brim.cap" }));
      await loader.load(fetched);
      expectSamePicture(composeFrame(fetched, loader.images, moment), ours);
    }
  });

  test("read nothing outside of their folder", async () => {
    const layers = [{ image: "../keepers/art/cap.png", depth: 1 }];
    const sly = await writePack("sly", { parts: { "sly.cap": { slot: "hat", layers } } });
    const place = { folder: join(folder, "keepers"), packs: [sly] };
    const catalog = await loadCatalog(place);
    const look = resolveLook(catalog, dressed(catalog, { wear: "sly.cap" }));
    const { code, message } = await refused(loadImages(place, [look]));
    expect([code, message]).toEqual(["unreadable-file", expect.stringContaining("it leads out of the catalog folder")]);
  });

  test("that are not where they should be are refused, by their address or their folder", async () => {
    const lost = await refused(
      fetchCatalog(`${served.url}keepers/`, {
        files: await listed(join(folder, "keepers")),
        packs: [{ url: `${served.url}thaw/` }],
      }),
    );
    expect([lost.code, lost.message]).toEqual(["missing-file", expect.stringContaining("thaw/pack.json")]);
    const gone = await refused(loadCatalog({ folder: demoFolder, packs: ["demo/packs/thaw"] }));
    expect([gone.code, gone.message]).toEqual([
      "unreadable-file",
      expect.stringContaining("pack.json cannot be read: there is no such file in demo/packs/thaw"),
    ]);
  });

  test("come and go between scenes, and saves stay whole", async () => {
    const catalog = await loadCatalog(fair);
    const store = fileStore(join(folder, "saves"));
    const skater = dressed(catalog, { dress: "frost-fair.skater" });
    const scenes: readonly (readonly [Catalog, string])[] = [
      [catalog, "Tern"],
      [demo, "Rail"],
      [catalog, "Crake"],
      [demo, "Wren"],
    ];
    for (const [known, name] of scenes) {
      const session = await openSession({ catalog: known, store });
      if (session.characters.length === 0) session.add(skater);
      session.edit("wren", { rename: name });
      await session.close();
    }
    const last = await openSession({ catalog, store });
    expect(last.characters).toEqual([skater]);
    await last.close();
  });
});

describe("mantle with --pack", () => {
  const check = (...args: readonly string[]) => mantle("check", join(folder, "keepers"), ...args);

  test("checks a pack over its catalog, and says what it changes", async () => {
    const { status, stdout } = await check("--pack", join(folder, "brim"));
    expect([status, stdout.split("\n").filter((line) => !line.startsWith("warning"))]).toEqual([
      0,
      expect.arrayContaining([
        "Laid over it: Brim 1.0.0.",
        "  adds to channels: brim.felt",
        "  adds to parts: brim.cap",
        "  changes hood in parts: price nothing → 3",
      ]),
    ]);
    const { packs, changes } = JSON.parse((await check("--pack", join(folder, "brim"), "--json")).stdout);
    expect([packs.map(({ id }: { id: string }) => id), changes.length]).toEqual([["brim"], 3]);
  });

  test("tells what is wrong in the files of a pack, with their lines", async () => {
    const wrong = await writePack("wrong", {
      needs: ["thaw"],
      parts: { cap: { slot: "hat", layers: [{ image: "art/none.png", depth: 1 }] } },
      changes: { parts: { hood: { retired: true, tags: 7 } } },
    });
    const { status, stdout } = await check("--pack", wrong);
    expect([status, stdout]).toEqual([1, expect.stringContaining('packs/wrong/pack.json:7:5 /needs/0: Pack "wrong"')]);
    await writePack(
      "wrong",
      JSON.parse('{"parts": {"cap": {"slot": "hat"}}, "changes": {"parts": {"hood": {"tags": 7}}}}'),
    );
    const again = (await check("--pack", wrong)).stdout;
    expect(again).toMatch(
      /packs\/wrong\/pack\.json:7:5 \/parts\/cap: "cap" is already defined in parts\/clothes\.json/,
    );
    expect(again).toMatch(
      /packs\/wrong\/pack\.json:\d+:9 \/changes\/parts\/hood\/tags: 7 is given where a list belongs/,
    );
    await writePack("wrong", {
      parts: { "wrong.cap": { slot: "hat", layers: [{ image: "art/none.png", depth: 1 }] } },
    });
    expect((await check("--pack", wrong)).stdout).toMatch(
      /packs\/wrong\/art\/none\.png.*"wrong\.cap" needs this picture/,
    );
  });

  test("tells a rule of a pack that keeps a part of the catalog from being worn", async () => {
    const bound = await writePack("bound", { rules: [{ if: "part:hood", needs: "part:cap", message: "Both." }] });
    const { status, stdout } = await check("--quick", "--pack", bound);
    expect([status, stdout]).toEqual([1, expect.stringMatching(/"hood" can never be worn with pack "bound", and can/)]);
    expect(stdout).toContain("see packs/bound/pack.json:7:5 /rules/0");
  });

  test("rolls, draws and compares with it", async () => {
    const args = [join(folder, "keepers"), "--pack", join(folder, "brim")];
    const { characters } = JSON.parse((await mantle("roll", ...args, "--seed", "1", "--count", "20", "--json")).stdout);
    const one = characters.find(({ loadout }: Character) => loadout["hat"] === "brim.cap");
    expect(one.catalog.packs).toEqual({ brim: "1.0.0" });
    const file = join(folder, "one.json");
    await writeFile(file, JSON.stringify(one));
    expect((await mantle("draw", ...args, file, "--out", join(folder, "one.png"))).status).toBe(0);
    const retiring = await writePack("retiring", { changes: { parts: { hood: { retired: true } } } });
    const why = await mantle("why", ...args, "--pack", retiring, file, "hood");
    expect([why.status, why.stdout]).toEqual([1, 'Hood ("hood") cannot go in Hat.\nHood is no longer available.\n']);
    const kept = await mantle("check", join(folder, "keepers"), file);
    expect([kept.status, kept.stdout]).toEqual([0, expect.stringContaining('Pack "brim" is not there.')]);
    const compared = await mantle("survey", ...args, "--against", join(folder, "keepers"), "--out", folder, "--json");
    const said = await mantle("survey", ...args, "--against", join(folder, "keepers"), "--out", folder);
    expect(said.stdout).toMatch(/^Keepers: 0\.1\.0 to 0\.1\.0 with Brim 1\.0\.0\./);
    expect(JSON.parse(compared.stdout).changes.map(({ id }: { id: string }) => id)).toContain("brim.cap");
  });
});
