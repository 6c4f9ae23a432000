import { cp, mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { composeFrame, createCharacter, type Image, resolveLook } from "zealous-mantle";
import { loadCatalog, loadImages } from "zealous-mantle/node";
import { createImage, cropImage, decodePng, encodePng, pasteImage } from "zealous-mantle/raster";
import { demo, demoFolder } from "../demo-catalog.ts";
import { edited } from "../edited.ts";
import { writeDrawing } from "../layered-drawing.ts";
import { mantle } from "../run-mantle.ts";
import { expectSamePicture } from "../same-picture.ts";
import { appearance, smallSource } from "../small-catalog.ts";

let folder = "";
let breeches: Image;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-import-"));
  breeches = decodePng(await readFile(join(demoFolder, "art/reed/breeches.png")));
});

afterAll(() => rm(folder, { recursive: true }));

/** A copy of the demo catalog, and what stands beside it. */
async function workplace(name: string, files: Readonly<Record<string, Uint8Array | string>>): Promise<string> {
  const place = join(folder, name);
  await cp(demoFolder, join(place, "saltmarsh"), { recursive: true });
  for (const [path, content] of Object.entries(files)) {
    await mkdir(join(place, path, ".."), { recursive: true });
    await writeFile(join(place, path), content);
  }
  return place;
}

/** How somebody of the demo looks who wears one thing, in one frame. */
async function worn(
  catalogFolder: string,
  part: string,
  moment: { animation: string; facing: string; time: number },
): Promise<Image> {
  const catalog = await loadCatalog(catalogFolder);
  const look = resolveLook(catalog, edited(catalog, createCharacter(catalog, { body: "reed" }), { wear: part }));
  // Of the demo's part, only the picture that is imported here.
  const isFront = (path: string) => !/-(back|leather)\.png$/.test(path);
  const alone = { ...look, layers: look.layers.filter((layer) => layer.part === part && layer.images.every(isFront)) };
  return composeFrame(alone, await loadImages(catalogFolder, [alone]), moment);
}

const moment = { animation: "walk", facing: "west", time: 0.35 };
const rig = demo.rigs.get("courier");

describe("mantle import", () => {
  test("plans first, with a contact sheet for each facing, and writes all when asked to; the catalog is clean at once", async () => {
    const place = await workplace("sheet", { "New Breeches!.png": encodePng(breeches) });
    const call = [
      join(place, "New Breeches!.png"),
      "--to",
      join(place, "saltmarsh"),
      "--slot",
      "trousers",
      "--depth",
      "40",
      "--channel",
      "cloth",
      "--out",
      join(place, "seen"),
    ];
    const plan = await mantle("import", ...call);
    expect([plan.status, plan.stderr]).toEqual([0, ""]);
    expect(plan.stdout).toMatch(/^new-breeches {2}New Breeches!, in trousers: 120 frames: idle \(south west north\)/);
    expect(plan.stdout).toMatch(/Nothing was written\. Run again with --write to write 3 files into/);
    expect((await readdir(join(place, "seen"))).sort()).toEqual(["north.png", "south.png", "west.png"]);
    expect(decodePng(await readFile(join(place, "seen/west.png"))).width).toBeGreaterThan(800);
    expect(await readdir(join(place, "saltmarsh"))).toEqual(await readdir(demoFolder));

    const written = await mantle("import", ...call, "--write");
    expect(written.stdout).toMatch(
      /Written: .*art\/trousers\/new-breeches\.png\nWritten: .*frames\.json\nWritten: .*parts\/new-breeches\.json\n$/,
    );
    const check = await mantle("check", "--quick", join(place, "saltmarsh"));
    expect([check.status, check.stdout]).toEqual([0, expect.stringMatching(/77 parts.*Nothing is wrong/)]);
    expectSamePicture(
      await worn(join(place, "saltmarsh"), "new-breeches", moment),
      await worn(demoFolder, "breeches", moment),
    );

    const again = await mantle("import", ...call, "--write");
    expect([again.status, again.stdout]).toEqual([
      1,
      expect.stringMatching(/"new-breeches" in the catalog already.*"replace"[\s\S]*Nothing was written/),
    ]);
    expect((await mantle("import", ...call, "--write", "--replace")).status).toBe(0);
    expect(await readFile(join(place, "New Breeches!.png"))).toEqual(Buffer.from(encodePng(breeches)));
  });

  test("when one file cannot be put in its place, none is there, and what was there before still is", async () => {
    const place = await workplace("half", {
      "Slops.png": encodePng(breeches),
      "saltmarsh/parts/slops.json/in-the-way": "",
    });
    const call = [
      join(place, "Slops.png"),
      "--to",
      join(place, "saltmarsh"),
      "--slot",
      "trousers",
      "--depth",
      "40",
      "--out",
      join(place, "seen"),
      "--write",
    ];
    const refused = await mantle("import", ...call);
    expect([refused.status, refused.stderr]).toEqual([2, expect.stringMatching(/parts\/slops\.json|it is a folder/)]);
    expect(await readdir(join(place, "saltmarsh/art"))).toEqual(await readdir(join(demoFolder, "art")));
    const drafts = (await readdir(place, { recursive: true })).filter((path) => path.endsWith(".draft"));
    expect(drafts).toEqual([]);
  });

  test("one file a frame, in folders, of another key color", async () => {
    const files: Record<string, Uint8Array> = {};
    const animations = [...(rig?.animations.values() ?? [])];
    const drawn = ["south", "west", "north"];
    for (const [group, { id, frames }] of animations.entries())
      for (const [within, facing] of drawn.entries())
        for (let frame = 0; frame < frames; frame += 1) {
          const image = cropImage(breeches, { x: frame * 64, y: (group * 3 + within) * 80, width: 64, height: 80 });
          for (let at = 0; at < image.data.length; at += 4)
            if (image.data[at + 3] === 0) image.data.set([255, 0, 255, 255], at);
          files[`art/${facing[0]?.toUpperCase()}/${id}_${frame + 1}.png`] = encodePng(image);
        }
    const place = await workplace("files", files);
    const paths = Object.keys(files).map((path) => join(place, path));
    const { stdout, status } = await mantle(
      "import",
      ...paths,
      "--to",
      join(place, "saltmarsh"),
      "--pattern",
      "{facing}/{animation}_{frame}",
      "--blank",
      "#ff00ff",
      "--slot",
      "trousers",
      "--depth",
      "40",
      "--out",
      join(place, "seen"),
      "--write",
      "--json",
    );
    const { parts, problems, after } = JSON.parse(stdout);
    expect([status, parts.length, problems, after]).toEqual([0, 1, [], []]);
    const [bare, expected] = [
      await worn(join(place, "saltmarsh"), parts[0].id, moment),
      await worn(demoFolder, "breeches", moment),
    ];
    // Without a channel, it keeps its key colors: the same pixels are drawn.
    const shape = (image: Image) => image.data.filter((_, at) => at % 4 === 3);
    expect(shape(bare)).toEqual(shape(expected));
  });

  test("figures between gaps, and a drawing in layers over the body", async () => {
    const cap = cropImage(decodePng(await readFile(join(demoFolder, "art/reed/storm-hat.png"))), {
      x: 0,
      y: 0,
      width: 64,
      height: 80,
    });
    const caps = createImage(200, 100);
    for (const x of [0, 70, 130]) pasteImage(caps, cap, x, 10);
    const look = resolveLook(demo, createCharacter(demo, { body: "reed" }));
    const bare = { ...look, layers: look.layers.filter(({ part }) => part === undefined) };
    const guide = composeFrame(bare, await loadImages(demoFolder, [bare]), {
      animation: "idle",
      facing: "south",
      time: 0,
    });
    // The canvas is enlarged for a tall hat.
    const drawing = await writeDrawing({
      width: 100,
      height: 130,
      layers: [
        { name: "Hat", layers: [{ name: "Tall hat", image: cap, x: 12, y: 20 }] },
        { name: "Body", image: guide, x: 12, y: 30 },
      ],
    });
    const place = await workplace("figures", { "caps.png": encodePng(caps), "drawing.ora": drawing });
    const into = ["--to", join(place, "saltmarsh"), "--depth", "84", "--out", join(place, "seen"), "--write"];
    const cut = await mantle(
      "import",
      join(place, "caps.png"),
      ...into,
      "--gaps",
      "--gap",
      "5",
      "--slot",
      "hat",
      "--called",
      "Left cap,Middle cap",
    );
    expect(cut.stdout).toMatch(/left-cap {2}Left cap[\s\S]*middle-cap[\s\S]*caps-3/);
    const painted = await mantle("import", join(place, "drawing.ora"), ...into);
    expect([painted.status, painted.stdout]).toEqual([
      0,
      expect.stringMatching(/^tall-hat {2}Tall hat, in hat: 1 frame: still \(any\)/),
    ]);
    const shown = await worn(join(place, "saltmarsh"), "tall-hat", { animation: "idle", facing: "north", time: 0 });
    const higher = createImage(64, 80);
    pasteImage(higher, cap, 0, -10);
    expectSamePicture(shown, higher);
    expect((await mantle("check", "--quick", join(place, "saltmarsh"))).stdout).toMatch(/80 parts.*Nothing is wrong/);
  });

  test.each<[string, readonly string[], RegExp]>([
    ["a file that is not there", ["gone.png"], /gone\.png cannot be read: there is no such file/],
    ["a picture that is none", ["package.json"], /package\.json: /],
    ["a slot that is unknown", ["{sheet}", "--slot", "hut"], /no slot "hut"\. Write "hat" if that is meant\./],
    ["a channel that is unknown", ["{sheet}", "--slot", "hat", "--channel", "cloht"], /no channel "cloht"/],
    ["a size that is none", ["{sheet}", "--cell", "32"], /like 32x48/],
    ["a word without an id", ["{sheet}", "--pattern", "{facing}", "--names", "S"], /like S=south/],
    ["a picture of another size", ["{large}", "--slot", "hat", "--depth", "1"], /17×32 pixels.*16×16 in all/],
    ["a folder outside the catalog", ["{sheet}", "--slot", "hat", "--folder", "../art"], /no folder of the catalog/],
    ["a catalog that includes no folder", ["{sheet}", "--slot", "hat", "--depth", "1"], /includes no folder/],
  ])("%s is told", async (_name, words, told) => {
    const place = join(folder, "small");
    await mkdir(place, { recursive: true });
    await writeFile(join(place, "catalog.json"), JSON.stringify(smallSource({ slots: { hat: appearance } })));
    for (const [name, width, height] of [
      ["plain", 16, 16],
      ["sheet", 16, 16],
      ["large", 17, 32],
    ] as const) {
      const image = createImage(width, height);
      image.data.fill(255);
      await writeFile(join(place, `${name}.png`), encodePng(image));
    }
    const call = words.map((word) =>
      word.replace("{sheet}", join(place, "sheet.png")).replace("{large}", join(place, "large.png")),
    );
    const { status, stdout, stderr } = await mantle("import", ...call, "--to", place, "--out", join(folder, "seen"));
    expect([status !== 0, stdout + stderr]).toEqual([true, expect.stringMatching(told)]);
  });
});
