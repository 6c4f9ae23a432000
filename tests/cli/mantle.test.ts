import { spawnSync } from "node:child_process";
import { cp, mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { stripVTControlCharacters } from "node:util";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { decodeApng } from "fast-png";
import {
  applyEdit,
  type Catalog,
  composeFrame,
  createCharacter,
  createFromPreset,
  drawCrop,
  drawIcon,
  iconLook,
  openSession,
  resolveLook,
  shareLook,
  writeSave,
} from "zealous-mantle";
import { fileStore, loadCatalog } from "zealous-mantle/node";
import { createImage, decodePng, encodePng, enlargeImage } from "zealous-mantle/raster";
import { rollCharacter } from "zealous-mantle/solver";
import { catalogJson, readSource, wearing } from "../../bench/catalogs.ts";
import { hardCases } from "../../bench/hard-catalogs.ts";
import { commands } from "../../src/cli/commands.ts";
import { demo, demoFolder, dressed, picturesOf } from "../demo-catalog.ts";
import { mantle, mantleInColor, mantleProcess } from "../run-mantle.ts";
import { isLong } from "../runs.ts";
import { expectSamePicture } from "../same-picture.ts";

let folder = "";
const inFolder = (...names: readonly string[]) => join(folder, ...names);
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-cli-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe("every command", () => {
  test.each(commands.map(({ name }) => name))("%s shows one worked example, and what --json does", async (command) => {
    const { status, stdout } = await mantle(command, "--help");
    expect(status).toBe(0);
    expect(stdout).toContain("--json");
    expect(stdout.match(/\$ mantle /g)).toHaveLength(1);
  });

  test("the example in the help of check is what the call prints", async () => {
    const [, call = "", printed = ""] = /\$ mantle (.+)\n\s+(.+)/.exec((await mantle("check", "--help")).stdout) ?? [];
    // Every pixel of the demo is looked at by `npm run check`, and here in the long run.
    const words = [...call.replace("saltmarsh", demoFolder).split(" "), ...(isLong ? [] : ["--quick"])];
    expect(mantleProcess(words).stdout.trim()).toBe(printed);
  }, 180_000);

  test.each([
    [[], "Usage: mantle"],
    [["chekc"], "unknown command 'chekc'"],
    [["check"], "missing required argument 'catalog'"],
    [["roll", demoFolder, "--seed", "seven"], "Give a whole number."],
    [["roll", demoFolder, "--count", "0"], "at least 1"],
    [["draw", demoFolder, "x.json", "--out", "x.png", "--time", "-1"], "Give a time in seconds"],
    [["check", "no-such-folder"], "catalog.json cannot be read: there is no such file"],
    [
      ["draw", demoFolder, "no-such-file.json", "--out", "x.png"],
      "no-such-file.json cannot be read: there is no such file",
    ],
    [["check", demoFolder, demoFolder], "holds no save"],
    [["check", "README.md"], "part of the path is a file, not a folder"],
    [["roll", demoFolder, "--body", "reeed"], 'There is no body "reeed". Write "reed" if that is meant.'],
    [["saves", "no-such-folder"], "There is no folder no-such-folder"],
  ])("a call that is wrong exits with 2 and says so: %j", async (args, words) => {
    const { status, stderr, stdout } = await mantle(...args);
    expect(status).toBe(2);
    expect(stderr).toContain(words);
    expect(stdout).toBe("");
  });
});

describe("the program", () => {
  test("exits with the code of its answer, prints answers on one stream and complaints on the other", async () => {
    expect(mantleProcess(["--version"])).toEqual({ status: 0, stdout: "0.1.0\n", stderr: "" });
    const wrong = mantleProcess(["check", "no-such-folder"]);
    expect([wrong.status, wrong.stdout, wrong.stderr]).toEqual([
      2,
      "",
      expect.stringContaining("there is no such file"),
    ]);
    await mantle("new", inFolder("keepers"));
    const keeper = createCharacter(await loadCatalog(inFolder("keepers")), { body: "person" });
    await writeFile(inFolder("odd-keeper.json"), JSON.stringify({ ...keeper, loadout: { hat: "cloak" } }));
    const broken = ["check", inFolder("keepers"), inFolder("odd-keeper.json")];
    const plain = mantleProcess(broken);
    expect(plain).toMatchObject({ status: 1, stderr: "" });
    // What a person reads is colored where colors are asked for, and the same text without.
    // A build server reads text, and no terminal.
    expect(mantleProcess(broken, { CI: "true" }).stdout).toBe(plain.stdout);
    const colored = mantleProcess(broken, { FORCE_COLOR: "1" }).stdout;
    expect(colored).toContain("\u001b[31merror");
    expect(stripVTControlCharacters(colored)).toBe((await mantle(...broken)).stdout);
  });

  test("ends quietly when nobody reads on", () => {
    const call = `"$0" dist/js/mantle.js roll ${demoFolder} --count 500 --json | head -n 1`;
    const { stdout, stderr } = spawnSync("bash", ["-c", call, process.execPath], { encoding: "utf8" });
    expect([stdout, stderr]).toEqual(["{\n", ""]);
  });
});

describe("mantle check", () => {
  test("keeps the points of marker pictures, so that they are not decoded again, and never uses stale ones", async () => {
    const copy = inFolder("kept");
    await cp(demoFolder, copy, { recursive: true, filter: (path) => !path.endsWith(".marks.json") });
    const points = (catalog: Catalog) => [...(catalog.bodies.get("reed")?.points.get("crown")?.get("walk") ?? [])];
    const decoded = points(await loadCatalog(copy));
    expect(decoded).toEqual(points(demo));
    expect(decoded.length).toBeGreaterThan(0);
    const { status, stdout } = await mantle("check", "--quick", copy, "--keep-points");
    const [, name = ""] = /Written: (.*\/reed\/points\.[0-9a-f]{16}\.marks\.json)/.exec(stdout) ?? [];
    expect([status, stdout.match(/Written: /g)?.length]).toEqual([0, 4]);
    expect(points(await loadCatalog(copy))).toEqual(decoded);
    // It is what was kept that is read: moved, the points move.
    const kept = JSON.parse(await readFile(name, "utf8"));
    const moved = kept.marks.map(([x, y, color]: number[]) => [x, (y ?? 0) + 1, color]);
    await writeFile(name, JSON.stringify({ ...kept, marks: moved }));
    expect(points(await loadCatalog(copy))).not.toEqual(decoded);
    // Of another picture, or broken, it is not.
    await writeFile(name, "{");
    expect(points(await loadCatalog(copy))).toEqual(decoded);
    const other = await readFile(join(copy, "art/oak/points.png"));
    await writeFile(join(copy, "art/reed/points.png"), other);
    await writeFile(name, JSON.stringify({ ...kept, marks: moved }));
    expect(points(await loadCatalog(copy))).toEqual([
      ...(demo.bodies.get("oak")?.points.get("crown")?.get("walk") ?? []),
    ]);
    await mantle("check", "--quick", copy, "--keep-points");
    expect((await readdir(join(copy, "art/reed"))).filter((file) => file.endsWith(".marks.json"))).toHaveLength(1);
    expect((await loadCatalog(copy, { art: "none" })).bodies.get("reed")?.points.size).toBe(0);
    expect(await mantle("check", "--quick", copy, "package.json", "--keep-points")).toMatchObject({
      status: 2,
      stdout: "",
    });
  });

  test("a marker picture that is broken or gone is reported, and nobody draws without it", async () => {
    const copy = inFolder("unmarked");
    await cp(demoFolder, copy, { recursive: true });
    await writeFile(join(copy, "art/reed/points.png"), "no picture");
    const { status, stdout } = await mantle("check", "--quick", copy);
    expect([status, stdout]).toEqual([
      1,
      expect.stringMatching(/art\/reed\/points\.png: This is not a PNG .*Save it again/),
    ]);
    await expect(loadCatalog(copy)).rejects.toThrow(/art\/reed\/points\.png: This is not a PNG/);
    await rm(join(copy, "art/reed/points.png"));
    await expect(loadCatalog(copy)).rejects.toThrow(/art\/reed\/points\.png, which was not handed in.* Draw it/);
    expect((await mantle("check", "--quick", copy)).stdout).toContain("art/reed/points.png: ");
    expect((await loadCatalog(copy, { art: "none" })).parts.size).toBe(demo.parts.size);
  });

  test("finds nothing wrong with the demo", async () => {
    const { status, stdout } = await mantle("check", "--quick", demoFolder);
    expect([status, stdout]).toEqual([
      0,
      expect.stringMatching(/^Saltmarsh Post 1\.0\.0: 4 bodies, 19 slots, 76 parts, .* Nothing is wrong\.\n$/),
    ]);
    expect(JSON.parse((await mantle("check", "--quick", demoFolder, "--json")).stdout)).toEqual({
      mantle: "answer/1",
      command: "check",
      catalog: { id: "saltmarsh", version: "1.0.0" },
      problems: [],
    });
  });

  test("names file, place, reason and mend of everything that is wrong, and exits with 1", async () => {
    const copy = inFolder("broken");
    await cp(demoFolder, copy, { recursive: true });
    const edit = async (file: string, from: string, to: string) =>
      writeFile(join(copy, file), (await readFile(join(copy, file), "utf8")).replace(from, to));

    await rm(join(copy, "art/oak/scarf.png"));
    await writeFile(join(copy, "art/oak/oar.png"), encodePng(createImage(3, 3)));
    await writeFile(join(copy, "art/reed/braid.png"), encodePng(createImage(510, 480)));
    const art = await mantle("check", "--quick", copy);
    expect(art.status).toBe(1);
    expect(art.stdout).toContain(
      'error    art/oak/scarf.png: "scarf" needs this picture, and it is not there. Draw it',
    );
    expect(art.stdout).toMatch(/art\/reed\/braid\.png: .*510×480 pixels; its layer has 8 columns by 18 rows of 64×80/);
    expect(art.stdout).toContain("warning  art/oak/oar.png: No layer uses this picture.");
    expect(art.stdout).toContain("2 errors and 1 warning found.");

    await edit("catalog.json", '"badge": {', '"badge": { "default": "sea-boots",');
    await edit("parts/carried.json", '"whistle": {', '"bedroll": {');
    const { status, stdout } = await mantle("check", "--quick", copy, "--json");
    expect(status).toBe(1);
    const problems = JSON.parse(stdout).problems.map(({ code, place }: { code: string; place: object }) => ({
      code,
      place,
    }));
    const text = async (file: string) => (await readFile(join(copy, file), "utf8")).split("\n");
    /** The place of a word, in the line that has another one as well. */
    const placeOf = async (file: string, word: string, besides = word) => {
      const lines = await text(file);
      const line = lines.findLastIndex((each) => each.includes(word) && each.includes(besides));
      return { file, line: line + 1, column: (lines[line] ?? "").lastIndexOf(word) + 1 };
    };
    const { cues } = JSON.parse(await readFile(join(copy, "cues.json"), "utf8"));
    const pointerTo = (word: string) => `/cues/${cues.findIndex(({ on }: { on: string }) => on === word)}`;
    expect(problems).toEqual([
      {
        code: "repeated-key",
        place: { ...(await placeOf("parts/carried.json", '"bedroll": {')), pointer: "/parts/bedroll" },
      },
      {
        code: "default-elsewhere",
        place: { ...(await placeOf("catalog.json", '"default": "sea-boots"')), pointer: "/slots/badge/default" },
      },
      // Nothing is called "whistle" any more, which two cues speak of.
      {
        code: "unknown-part",
        place: {
          ...(await placeOf("cues.json", '"give": "whistle"', "find:whistle")),
          pointer: `${pointerTo("find:whistle")}/do/0/give`,
        },
      },
      {
        code: "unknown-part",
        place: {
          ...(await placeOf("cues.json", '"when": "part:whistle"')),
          pointer: `${pointerTo("use:whistle")}/when`,
        },
      },
    ]);

    await edit("catalog.json", '"parts/*.json"', '"../*.json", "bits/*.json"');
    const outside = (await mantle("check", "--quick", copy)).stdout;
    expect(outside).toContain('"../*.json" leads out of the catalog folder.');
    expect(outside).toContain('No file matches "bits/*.json".');

    await writeFile(join(copy, "catalog.json"), '{ "mantle": , }');
    expect((await mantle("check", "--quick", copy)).stdout).toMatch(/catalog\.json: This is not JSON: .*\(1:13\)/);
  });

  test("other commands refuse a broken catalog, and say the first few reasons", async () => {
    const copy = inFolder("bare");
    await cp(demoFolder, copy, {
      recursive: true,
      filter: (path) => !path.endsWith(".png") || path.endsWith("points.png"),
    });
    // Whoever only chooses needs no picture; whoever draws gets the first that is missing.
    expect((await mantle("roll", copy)).status).toBe(0);
    await writeFile(inFolder("bare.json"), JSON.stringify(rollCharacter(demo, { seed: 1 })));
    const drawn = await mantle("draw", copy, inFolder("bare.json"), "--out", inFolder("bare.png"));
    expect([drawn.status, drawn.stderr]).toEqual([2, expect.stringMatching(/The picture art\/.*\.png cannot be read/)]);
    const catalog = JSON.parse(await readFile(join(copy, "catalog.json"), "utf8"));
    for (const id of ["one", "two", "three", "four", "five", "six"]) catalog.slots[id] = { kind: "gaer" };
    await writeFile(join(copy, "catalog.json"), JSON.stringify(catalog));
    const { status, stderr } = await mantle("roll", copy);
    expect(status).toBe(2);
    expect(stderr.trim().split("\n")).toHaveLength(7);
    expect(stderr).toMatch(/… and \d+ more; mantle check lists them all\./);
  });
});

test("the types of a catalog are a module, and the same for the same catalog", async () => {
  const [one, other] = [inFolder("saltmarsh.ts"), inFolder("again.ts")];
  for (const out of [one, other]) expect(await mantle("types", demoFolder, "--out", out)).toMatchObject({ status: 0 });
  // That ids which are not in the catalog do not compile with it is tried by `npm run check`, on the packed package.
  expect(await readFile(one, "utf8")).toContain("export interface SaltmarshIds");
  expect(await readFile(one, "utf8")).toBe(await readFile(other, "utf8"));
});

describe("mantle roll, draw and bake", () => {
  const rolled = () => inFolder("rolled", "rolled-7.json");
  /** Somebody of few pictures. */
  const plain = createCharacter(demo, { body: "oak", id: "plain" });
  const saved = () => inFolder("plain.json");
  beforeAll(async () => {
    await writeFile(saved(), JSON.stringify(plain));
    expect((await mantle("roll", demoFolder, "--seed", "7", "--count", "2", "--out", inFolder("rolled"))).status).toBe(
      0,
    );
  });

  test("rolled characters are those of the library, the same for the same seed", async () => {
    expect(JSON.parse(await readFile(rolled(), "utf8"))).toEqual(rollCharacter(demo, { seed: 7 }));
    const { characters } = JSON.parse(
      (await mantle("roll", demoFolder, "--seed", "7", "--count", "2", "--body", "oak", "--json")).stdout,
    );
    expect(characters).toEqual([
      rollCharacter(demo, { seed: 7, body: "oak" }),
      rollCharacter(demo, { seed: 8, body: "oak" }),
    ]);
  });

  test("a drawing is the composed frame, enlarged", async () => {
    const out = inFolder("new", "folder", "walk.png");
    const { status, stdout } = await mantle(
      "draw",
      demoFolder,
      saved(),
      "--animation",
      "walk",
      "--facing",
      "east",
      "--time",
      "0.35",
      "--scale",
      "3",
      "--out",
      out,
    );
    expect([status, stdout]).toEqual([0, `Written: ${out}, 192×240 pixels\n`]);
    const { look, images } = await dressed(plain);
    const frame = composeFrame(look, images, { animation: "walk", facing: "east", time: 0.35 });
    expectSamePicture(decodePng(await readFile(out)), enlargeImage(frame, 3));
  });

  test("a portrait is the rig's crop", async () => {
    const out = inFolder("portrait.png");
    expect(
      JSON.parse((await mantle("draw", demoFolder, saved(), "--portrait", "--out", out, "--json")).stdout),
    ).toEqual({
      mantle: "answer/1",
      command: "draw",
      file: out,
      width: 32,
      height: 36,
    });
    const { look, images } = await dressed(plain);
    expectSamePicture(decodePng(await readFile(out)), drawCrop(look, images, "portrait"));
  });

  test("a token, an icon, a form and a moving picture come from the same layers", async () => {
    const out = inFolder("drawn.png");
    const draw = async (...args: readonly string[]) => {
      const { status, stderr } = await mantle("draw", demoFolder, saved(), "--out", out, ...args);
      expect([status, stderr]).toEqual([0, ""]);
      return readFile(out);
    };
    const { look, images } = await dressed(plain);
    expectSamePicture(decodePng(await draw("--token")), drawCrop(look, images, "token"));
    const icon = iconLook(demo, plain, "storm-hat");
    const drawn = drawIcon(icon, await picturesOf(icon), "storm-hat");
    expectSamePicture(decodePng(await draw("--icon", "storm-hat")), drawn);
    const wading = resolveLook(demo, plain, { form: "wading" });
    const moment = { animation: "walk", facing: "south", time: 0 };
    const wet = composeFrame(wading, await picturesOf(wading), moment);
    expectSamePicture(decodePng(await draw("--form", "wading", "--animation", "walk")), wet);
    const moving = decodeApng(await draw("--animation", "hail", "--animated"));
    expect([moving.frames.length, moving.numberOfPlays, moving.width]).toEqual([6, 0, 64]);
    const refused = await mantle("draw", demoFolder, saved(), "--out", out, "--icon", "strom-hat");
    expect([refused.status, refused.stderr]).toEqual([
      2,
      expect.stringContaining('Write "storm-hat" if that is meant.'),
    ]);
  });

  test("a baked sheet and its table are named by their content, so equal looks have equal names", async () => {
    const bake = async (to: string, ...args: readonly string[]) => {
      const places = ["--facings", "south,east", "--out", inFolder(to), "--json"];
      const baked = await mantle("bake", demoFolder, saved(), "--animations", "walk", ...places, ...args);
      return JSON.parse(baked.stdout).sheets[0];
    };
    const [one, two] = [await bake("one"), await bake("two")];
    expect(one).toMatchObject({ width: 512, height: 160, count: 16 });
    expect(basename(one.image)).toMatch(/^[0-9a-f]{16}\.png$/);
    expect([basename(one.image), basename(one.table)]).toEqual([basename(two.image), basename(two.table)]);
    expect((await readFile(one.image)).equals(await readFile(two.image))).toBe(true);
    const { image, frames, animations } = JSON.parse(await readFile(one.table, "utf8"));
    expect(image).toBe(basename(one.image));
    expect(animations.walk).toMatchObject({ sequence: [0, 1, 2, 3, 4, 5, 6, 7], loop: true });
    expect(frames.at(-1)).toMatchObject({
      animation: "walk",
      facing: "east",
      frame: 7,
      rect: [448, 80, 64, 80],
      offset: [0, 0],
    });
    const packed = await bake("packed", "--packed");
    expect(packed.width * packed.height).toBeLessThan(512 * 160 * 0.6);
    expect(basename(packed.image)).not.toBe(basename(one.image));
    const place = ["--out", inFolder("small"), "--packed", "--max-size", "20"];
    const small = await mantle("bake", demoFolder, saved(), "--animations", "walk", ...place);
    expect([small.status, small.stderr]).toEqual([2, expect.stringContaining("Give a larger --max-size.")]);
  });

  test.each([
    [["--form", "waery"], 'There is no form "waery". Write "weary" if that is meant.'],
    [["--facing", "sout"], 'There is no facing "sout". Write "south" if that is meant.'],
    [
      ["--animation", "swim"],
      'There is no animation "swim". There are "idle", "walk", "row", "wade", "hail", "trudge".',
    ],
  ])("a moment that does not exist is refused: %j", async (args, words) => {
    const { status, stderr } = await mantle("draw", demoFolder, saved(), "--out", inFolder("never.png"), ...args);
    expect([status, stderr]).toEqual([2, `mantle: ${words}\n`]);
  });

  test("a file that is no character is refused, with the reason", async () => {
    const odd = inFolder("odd.json");
    await writeFile(odd, '{ "name": "Wren" }');
    expect((await mantle("draw", demoFolder, odd, "--out", inFolder("never.png"))).stderr).toMatch(
      /odd\.json is not a character\.\n"mantle" is missing, .*There are 5 more such findings\.\nWrite characters/s,
    );
    expect(
      (await mantle("draw", demoFolder, "package.json", "--out", inFolder("never.png"))).stderr.trim().split("\n")
        .length,
    ).toBeLessThan(7);
    const taken = join(folder, "taken.png");
    await mkdir(taken);
    const unwritable = await mantle("draw", demoFolder, saved(), "--out", taken);
    expect([unwritable.status, unwritable.stderr]).toEqual([
      2,
      expect.stringMatching(/^mantle: .* cannot be written: .*Name another place with --out\.\n$/),
    ]);
    await writeFile(odd, "Wren");
    expect((await mantle("bake", demoFolder, odd, "--out", folder)).stderr).toContain("is not JSON");
  });
});

describe("mantle check of a character", () => {
  test("finds nothing wrong with a rolled one, and everything wrong with another, with the mend", async () => {
    const file = inFolder("judged.json");
    const good = rollCharacter(demo, { seed: 3, name: "Kite" });
    await writeFile(file, JSON.stringify(good));
    expect(await mantle("check", demoFolder, file)).toMatchObject({ status: 0, stdout: "Kite: Nothing is wrong.\n" });
    await writeFile(file, JSON.stringify({ ...good, loadout: { chain: "watch-chain", coat: "lantern" } }));
    const { status, stdout } = await mantle("check", demoFolder, file);
    expect(status).toBe(1);
    expect(stdout).toContain(
      'error    /loadout/coat: "lantern" does not go in slot "coat". Take "lantern" off "coat".',
    );
    expect(stdout).toContain(
      'With "watch-chain" there must be "waistcoat". A chain hangs from a waistcoat, or it hangs in the air. Take "watch-chain" off. To mend it, put on "waistcoat" in slot "vest".\n',
    );
    expect(stdout).toContain("Kite: 2 problems found.");
    const { problems } = JSON.parse((await mantle("check", demoFolder, file, "--json")).stdout);
    expect(problems.map(({ code }: { code: string }) => code)).toEqual(["wrong-slot", "needs-missing"]);
  });
});

describe("mantle why and mantle fix", () => {
  const chained = async (name: string) => {
    const file = inFolder(name);
    const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
    await writeFile(file, JSON.stringify({ ...wren, loadout: { chain: "watch-chain" } }));
    return file;
  };

  test("why says what stands in the way, the facts behind it, and what would do it", async () => {
    const file = await chained("why.json");
    const { status, stdout } = await mantle("why", demoFolder, file, "lamplighter-badge");
    expect(status).toBe(1);
    expect(stdout.split("\n")).toEqual([
      'Lamplighter badge ("lamplighter-badge") cannot go in Badge now.',
      "With Lamplighter badge there must be Lamplighter as Trade. Only lamplighters wear the flame.",
      "  supposing that Lamplighter badge is worn in Badge",
      "  missing: Lamplighter as Trade",
      expect.stringMatching(/^ {2}by the rule at catalog\.json:\d+:\d+ \/rules\/7$/),
      "No change of other slots would do it.",
      "",
    ]);
    const hook = await mantle("why", demoFolder, file, "boathook");
    expect(hook.stdout).toContain(
      "\nWhat would do it:\n  put on Mittens in slot Gloves\n  put on Boathook in slot Hand right\nWhat else is wrong would be mended by:\n  put on Waistcoat in slot Vest\n",
    );
    const worn = await mantle("why", demoFolder, file, "watch-chain");
    expect([worn.status, worn.stdout.split("\n").filter((line) => !line.startsWith("  by "))]).toEqual([
      1,
      [
        'Watch chain ("watch-chain") is worn in Chain, and something is wrong with it.',
        "With Watch chain there must be Waistcoat. A chain hangs from a waistcoat, or it hangs in the air.",
        "  Watch chain is worn in Chain",
        "  missing: Waistcoat",
        "What would mend it:",
        "  Take Watch chain off.",
        "  To mend it, put on Waistcoat in slot Vest.",
        "",
      ],
    ]);
    const vest = JSON.parse((await mantle("why", demoFolder, file, "waistcoat", "--json")).stdout);
    expect(vest).toMatchObject({ part: "waistcoat", slot: "vest", state: "ready", problems: [] });
    expect(await mantle("why", demoFolder, file, "waistcaot")).toMatchObject({
      status: 2,
      stderr: 'mantle: There is no part "waistcaot". Write "waistcoat" if that is meant.\n',
    });
    expect((await mantle("why", demoFolder, file, "waistcoat", "--in", "hat")).stderr).toContain("does not go in slot");
  });

  test("fix shows the fewest edits, and writes only when asked to", async () => {
    const file = await chained("fix.json");
    const before = await readFile(file, "utf8");
    expect(await mantle("fix", demoFolder, file)).toMatchObject({
      status: 1,
      stdout: "put on Waistcoat in slot Vest\nWren: valid with 1 edit. Add --write to do it.\n",
    });
    expect(await readFile(file, "utf8")).toBe(before);
    expect((await mantle("fix", demoFolder, file, "--write")).status).toBe(0);
    expect((await mantle("check", demoFolder, file)).stdout).toBe("Wren: Nothing is wrong.\n");
    expect(await mantle("fix", demoFolder, file)).toMatchObject({ status: 0, stdout: "Wren: Nothing is wrong.\n" });
  });

  test("fix says when nothing would do, and when it gave up, and writes nothing", async () => {
    const copy = inFolder("unwearable");
    await cp(demoFolder, copy, { recursive: true });
    const rules = [
      { count: "slot:coat", atLeast: 1 },
      { count: "slot:coat", atMost: 0 },
    ];
    await writeFile(join(copy, "parts/none.json"), JSON.stringify({ rules }));
    const file = await chained("hopeless.json");
    const before = await readFile(file, "utf8");
    const hopeless = await mantle("fix", copy, file, "--write");
    expect(hopeless.status).toBe(1);
    expect(hopeless.stdout).toContain("Wren: No edits make it valid: the catalog has no valid loadout for its body.\n");
    expect(JSON.parse((await mantle("fix", copy, file, "--json")).stdout)).toMatchObject({
      edits: null,
      isProven: true,
    });
    // What forbids it is elsewhere than what is forbidden.
    const surveyed = (await mantle("check", "--quick", copy)).stdout.split("\n");
    const at = surveyed.findIndex((line) => line.includes('"smock" can never be worn.'));
    expect([surveyed[at]?.split(" ").slice(0, 4), ...surveyed.slice(at + 1, at + 3)]).toEqual([
      ["warning", "", expect.stringMatching(/^parts\/clothes\.json:\d+:5$/), "/parts/smock:"],
      "         see parts/none.json:1:11 /rules/0",
      "         see parts/none.json:1:45 /rules/1",
    ]);
    const weary = await mantle("fix", demoFolder, file, "--budget", "1", "--write");
    expect([weary.status, weary.stdout]).toEqual([1, expect.stringContaining("give a greater --budget")]);
    expect(await readFile(file, "utf8")).toBe(before);
  });

  test("fix says what is proved where its budget ends before it is sure", async () => {
    const cover = hardCases().find(({ name }) => name === "cover");
    if (cover === undefined) throw new Error("There is no such case");
    const hard = inFolder("hard");
    await mkdir(hard);
    await writeFile(join(hard, "catalog.json"), JSON.stringify(catalogJson(cover.source)));
    const file = inFolder("cover.json");
    await writeFile(file, JSON.stringify(wearing(readSource(cover.source), cover.loadout)));
    const { status, stdout } = await mantle("fix", hard, file, "--budget", "2500");
    expect([status, stdout.trimEnd().split("\n").at(-1)]).toEqual([
      1,
      expect.stringMatching(
        /valid with \d+ edits\. It is not proved that \d+ changes is the least there can be; no answer has fewer than \d+\. Give a greater --budget\. Add --write to do it\.$/,
      ),
    ]);
  });

  test("a save that was fixed is a whole save again", async () => {
    const place = inFolder("fixed");
    const session = await openSession({ catalog: demo, store: fileStore(place) });
    session.add({
      ...createCharacter(demo, { body: "oak", name: "Heron", id: "heron" }),
      loadout: { chain: "watch-chain" },
    });
    await session.flush();
    const save = join(place, "character-heron");
    expect((await mantle("fix", demoFolder, save, "--write")).status).toBe(0);
    expect((await readdir(save)).sort()).toEqual(["2.save.json", "3.save.json"]);
    expect(await mantle("saves", place)).toMatchObject({ status: 0, stdout: expect.stringContaining("all whole") });
    expect((await mantle("check", demoFolder, save)).status).toBe(0);
  });
});

describe("mantle roll with locks and weights", () => {
  test("keeps what it is asked to, and reports what it does not understand", async () => {
    const file = inFolder("kept.json");
    await writeFile(file, JSON.stringify(rollCharacter(demo, { seed: 3, body: "oak", name: "Kite" })));
    const kept = JSON.parse(await readFile(file, "utf8"));
    const call = [
      "roll",
      demoFolder,
      "--count",
      "4",
      "--json",
      "--from",
      file,
      "--keep",
      "body,hair",
      "--keep",
      "cloth",
    ];
    const { characters } = JSON.parse((await mantle(...call)).stdout);
    expect(characters).toHaveLength(4);
    for (const { body, loadout, colors } of characters)
      expect([body, loadout.hair, colors.hair, colors.cloth]).toEqual([
        "oak",
        kept.loadout.hair,
        kept.colors.hair,
        kept.colors.cloth,
      ]);
    const wrong = (...more: string[]) => mantle("roll", demoFolder, ...more);
    expect(await wrong("--from", file, "--keep", "hiar")).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('"hair"'),
    });
    expect((await wrong("--keep", "hair")).stderr).toContain("belong together");
    expect((await wrong("--weights", "rare=x")).stderr).toContain("Write it like rare=0.2");
    expect((await wrong("--weights", "mythic=1")).stderr).toContain("There are: ");
  });
});

describe("mantle saves", () => {
  test("lists what a folder holds, draws from a save, and finds a damaged one", async () => {
    const place = inFolder("saves");
    const wren = applyEdit(demo, createCharacter(demo, { body: "reed", name: "Wren", id: "wren" }), {
      wear: "storm-hat",
    }).character;
    const session = await openSession({ catalog: demo, store: fileStore(place) });
    session.add(wren);
    session.seat(1).take("wren");
    await session.flush();
    expect(await mantle("saves", place)).toMatchObject({
      status: 0,
      stdout: "character-wren  Wren, reed, 1 worn, 0 carried\nprofile         seat 1: wren\n2 saves, all whole.\n",
    });

    for (const save of ["character-wren", "character-wren/2.save.json"])
      expect((await mantle("draw", demoFolder, join(place, save), "--out", inFolder("saved.png"))).status).toBe(0);
    await rm(join(place, "character-wren/1.save.json"));
    const save = join(place, "character-wren/2.save.json");
    await writeFile(save, (await readFile(save, "utf8")).replace("Wren", "Wrex"));
    expect((await mantle("draw", demoFolder, save, "--out", inFolder("saved.png"))).stderr).toContain(
      "Its seal does not match",
    );
    expect((await mantle("check", demoFolder, join(place, "character-wren"))).stderr).toContain("does not match");
    expect((await mantle("check", demoFolder, place)).stderr).toContain("holds no save");
    const damaged = await mantle("saves", place);
    expect(damaged.status).toBe(1);
    expect(damaged.stdout).toContain("character-wren  cannot be used");
    expect(damaged.stdout).toContain("1 problem found");
  });
});

describe("what a stranger wrote", () => {
  const odd = "\u001b[2J\u001b]0;owned\u0007\u202ed\u009b\nerror    a forged line";
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what must not be printed.
  const commanding = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/;

  test("commands no terminal, turns no writing, and forges no line", async () => {
    const place = inFolder("odd");
    await cp(demoFolder, place, { recursive: true });
    const main = JSON.parse(await readFile(join(place, "catalog.json"), "utf8"));
    main.title = odd;
    for (const body of Object.values<{ title: string }>(main.bodies)) body.title = odd;
    main.slots.hat.title = odd;
    await writeFile(join(place, "catalog.json"), JSON.stringify(main));
    const wren = {
      ...createCharacter(demo, { body: "reed", id: "wren" }),
      name: odd,
      loadout: { chain: "watch-chain" },
    };
    const file = inFolder("odd.json");
    await writeFile(file, JSON.stringify(wren));
    const saves = inFolder("odd-saves");
    await writeSave(fileStore(saves), `character-${odd}`, "character", { ...wren });
    const calls = [
      ["check", "--quick", place],
      ["check", place, file],
      ["roll", place, "--seed", "3"],
      ["why", place, file, "storm-hat", "hat"],
      ["fix", place, file],
      ["saves", saves],
      ["check", odd],
      [odd],
      ["why", place, file, odd],
      ["receive", place, odd],
    ];
    for (const call of calls) {
      for (const json of [[], ["--json"]]) {
        const { stdout, stderr } = await mantle(...call, ...json);
        expect([call[0], commanding.test(stdout), commanding.test(stderr)]).toEqual([call[0], false, false]);
        expect(stdout).not.toMatch(/^error {4}a forged line/m);
        if (json.length > 0 && stdout !== "") expect(() => JSON.parse(stdout)).not.toThrow();
      }
    }
    expect((await mantle("check", "--quick", place)).stdout).toContain(
      "\\u001b[2J\\u001b]0;owned\\u0007\\u202ed\\u009b\\u000aerror",
    );
    const colored = await mantleInColor("check", place, file);
    expect(colored.stdout).toContain("\u001b[31merror");
    expect(colored.stdout).not.toContain("\u001b[2J");
  });

  test("is refused where it asks for more than there is", async () => {
    const wren = inFolder("plain-wren.json");
    await writeFile(wren, `\uFEFF${JSON.stringify(createCharacter(demo, { body: "reed" }))}`);
    const refused = async (...args: string[]) => {
      const { status, stdout, stderr } = await mantle(...args);
      expect([status, stdout]).toEqual([2, ""]);
      return stderr;
    };
    expect(await refused("draw", demoFolder, wren, "--scale", "1000", "--out", inFolder("huge.png"))).toContain(
      "A picture of 64000×80000 pixels is too large",
    );
    expect(await refused("draw", demoFolder, wren, "--out", "/proc/no/such/place.png")).toContain("cannot be written");
    expect(await refused("draw", demoFolder, wren, "--out", demoFolder)).toContain("is no name of a PNG");
    expect(await refused("roll", demoFolder, "--count", "1000000000")).toContain("Give at most 10000");
    expect(await refused("check", demoFolder, "/dev/zero")).toContain("no file of a character's size");
  });
});

describe("mantle share and mantle receive", () => {
  test("the look of a preset goes out as a code and comes back as it was", async () => {
    expect((await mantle("roll", demoFolder, "--presets", "--out", inFolder("presets"))).status).toBe(0);
    const file = inFolder("presets", "old-hand.json");
    const sent = await mantle("share", demoFolder, file);
    const code = sent.stdout.trim();
    expect([sent.status, code]).toEqual([0, shareLook(demo, createFromPreset(demo, "old-hand"))]);
    const [, bytes = "", deflated = ""] = /letters, (\d+) bytes; as deflated JSON (\d+) bytes/.exec(sent.stderr) ?? [];
    expect(Number(bytes)).toBeLessThan(Number(deflated) / 2);

    const twin = inFolder("twin.json");
    const received = await mantle("receive", demoFolder, code, "--out", twin);
    expect([received.status, received.stdout]).toEqual([0, expect.stringContaining(`Written: ${twin}`)]);
    const [one, other] = [file, twin].map(async (each) => JSON.parse(await readFile(each, "utf8")));
    expect(await other).toMatchObject({
      body: "oak",
      loadout: (await one).loadout,
      colors: (await one).colors,
      bag: {},
    });

    await writeFile(
      inFolder("wren.json"),
      JSON.stringify(createCharacter(demo, { body: "reed", name: "Wren", id: "wren" })),
    );
    const onto = await mantle("receive", demoFolder, code, "--onto", inFolder("wren.json"), "--json");
    expect(JSON.parse(onto.stdout).character).toMatchObject({ name: "Wren", body: "oak" });
  });

  test("a code that was mistyped is no character, and says so", async () => {
    const { status, stdout } = await mantle("receive", demoFolder, "2V1SVX0VVHFVNKJD");
    expect([status, stdout]).toEqual([1, expect.stringContaining("a letter that is wrong, missing or too many")]);
  });

  test("presets are as they are, and one that breaks a rule is found", async () => {
    expect((await mantle("roll", demoFolder, "--presets", "--body", "oak")).stderr).toContain("A preset is as it is");
    const broken = inFolder("broken-preset");
    await cp(demoFolder, broken, { recursive: true });
    const file = join(broken, "creation.json");
    const creation = JSON.parse(await readFile(file, "utf8"));
    creation.presets["old-hand"].parts.push("watch-chain");
    await writeFile(file, JSON.stringify(creation));
    const { status, stdout } = await mantle("check", "--quick", broken);
    expect([status, stdout]).toEqual([1, expect.stringContaining("A chain hangs from a waistcoat")]);
    expect(stdout).toContain('Preset "old-hand" cannot be worn as it is.');
  });
});
