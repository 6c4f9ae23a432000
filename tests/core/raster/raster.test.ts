import { Worker } from "node:worker_threads";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { decodeApng } from "fast-png";
import {
  applyEdit,
  composeFrame,
  createCharacter,
  createFromPreset,
  drawCrop,
  drawIcon,
  hitTest,
  type Image,
  type Images,
  iconLook,
  type Look,
  resolveLook,
} from "zealous-mantle";
import {
  animationOf,
  bakeSheet,
  bakeSheets,
  contentHash,
  createImage,
  cropImage,
  decodePng,
  encodeApng,
  enlargeImage,
  partBounds,
  pasteImage,
  timedFrames,
} from "zealous-mantle/raster";
import { demo, dressed, picturesOf } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { composeSlowly } from "../../oracles/compose-slowly.ts";
import { isLong, runs } from "../../runs.ts";
import { expectSamePicture } from "../../same-picture.ts";
import { appearance, smallCatalog } from "../../small-catalog.ts";

/** A few colors that matter: key colors, others, opaque, translucent and clear. */
const pixels = fc.constantFrom(
  [0, 0, 0, 0],
  [0, 0, 0, 0],
  [16, 16, 16, 255],
  [128, 128, 128, 255],
  [128, 128, 128, 254],
  [200, 30, 90, 255],
  [10, 220, 40, 128],
  [255, 255, 255, 1],
  [90, 90, 250, 77],
);

interface Drawn {
  readonly look: Look;
  readonly images: Images;
}

const place = fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 4 }));
const places = (frames: number) => fc.array(fc.option(place, { freq: 6 }), { minLength: frames, maxLength: frames });
const byFacing = (frames: number) => fc.record({ north: places(frames), west: places(frames) });
const point = fc.record({ idle: byFacing(1), walk: byFacing(3) });
const points = fc.record({ "hand-left": point, "hand-right": point, tip: point });

/** A look of generated layers: depths, grids, opacities, channels, facings, pins, turns, scales and pixels all vary. */
const looks: fc.Arbitrary<Drawn> = fc
  .array(
    fc.record({
      depth: fc.integer({ min: -2, max: 2 }),
      north: fc.integer({ min: -2, max: 2 }),
      dyed: fc.boolean(),
      opacity: fc.constantFrom(1, 1, 0.5, 0.3),
      cell: fc.record({ width: fc.integer({ min: 1, max: 6 }), height: fc.integer({ min: 1, max: 6 }) }),
      at: fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 })),
      seed: fc.array(pixels, { minLength: 7, maxLength: 40 }),
      more: fc.constantFrom<object>(
        {},
        {},
        { offset: [1, -1] },
        { scale: 2 },
        { scale: 0.5, offset: { plain: [-1, 0] } },
        { facings: ["north", "west", "east"] },
        { still: true },
        { still: true, facings: "any", attach: { point: "hand-left", at: [0, 0] } },
        { attach: { point: "hand-right" }, scale: 1.5 },
        { still: true, facings: "any", attach: { point: "tip", at: [0, 0], toward: "hand-left", along: [2, 1] } },
      ),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .chain((layers) => fc.tuple(fc.constant(layers), points, fc.constantFrom(1, 1, 0.6)))
  .map(([layers, framed, opacity]) => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          frame: { width: 5, height: 4 },
          origin: [2, 4],
          facings: ["north", "west", { id: "east", mirror: "west" }],
          animations: { idle: { frames: 1, fps: 1 }, walk: { frames: 3, fps: 6 } },
          points: { frames: framed },
          twins: [["hand-left", "hand-right"]],
        },
      },
      forms: { pale: { when: { signal: "pale" }, opacity } },
      ramps: { red: ["#400000", "#ff0000"] },
      channels: { dye: { ramps: ["red"], default: "red", key: ["#101010", "#808080"] } },
      bodies: {
        plain: {
          rig: "rig",
          art: layers.map(({ depth, north, dyed, opacity, cell, at, more }, number) => ({
            image: `${number}.png`,
            depth: { default: depth, north },
            opacity,
            layout: { cell, at },
            ...more,
            ...(dyed ? { channel: "dye" } : {}),
          })),
        },
      },
    });
    const images = new Map(
      layers.map(({ cell, seed }, number): [string, Image] => {
        const image = createImage(cell.width * 3, cell.height * 6);
        for (let pixel = 0; pixel < image.width * image.height; pixel += 1)
          image.data.set(seed[(pixel * 7) % seed.length] ?? [], pixel * 4);
        return [`${number}.png`, image];
      }),
    );
    return { look: resolveLook(catalog, createCharacter(catalog, { body: "plain" }), { form: "pale" }), images };
  });

const moments = fc.record({
  animation: fc.constantFrom("idle", "walk"),
  facing: fc.constantFrom("north", "west", "east"),
  time: fc.integer({ min: 0, max: 11 }).map((sixth) => sixth / 6),
});

describe("composing a frame", () => {
  test("agrees pixel for pixel with the slow reference on generated layers", () => {
    fc.assert(
      fc.property(looks, moments, ({ look, images }, moment) => {
        expectSamePicture(composeFrame(look, images, moment), composeSlowly(look, images, moment));
      }),
      runs(600),
    );
  });

  test("agrees with the slow reference on the demo, drawn and mirrored", async () => {
    let character = createCharacter(demo, { body: "oak" });
    for (const edit of [{ dress: "storm-watch" }, { wear: "braid" }, { paint: "hair", ramp: "silver" }])
      character = applyEdit(demo, character, edit).character;
    const { look, images } = await dressed(character);
    const shown = isLong ? ["south", "west", "north", "east"] : ["north", "east"];
    for (const [at, facing] of shown.entries()) {
      const moment = { animation: at % 2 === 0 ? "walk" : "hail", facing, time: 0.35 };
      expectSamePicture(composeFrame(look, images, moment), composeSlowly(look, images, moment));
    }
  });

  test("a mirrored figure is the drawn one, turned around the origin", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "reed" }));
    const at = (facing: string) => composeFrame(look, images, { animation: "idle", facing, time: 0 });
    const west = at("west");
    const east = at("east");
    const turned = createImage(west.width, west.height);
    for (let y = 0; y < west.height; y += 1) {
      for (let x = 0; x < west.width; x += 1) turned.data.set(pixelOf(west, x, y), (y * west.width + 63 - x) * 4);
    }
    expectSamePicture(east, turned);
  });

  test("a picture that was not loaded is a broken call that names it and its part", async () => {
    const character = applyEdit(demo, createCharacter(demo, { body: "reed" }), { wear: "storm-hat" }).character;
    const look = resolveLook(demo, character);
    const { images } = await dressed(createCharacter(demo, { body: "reed" }));
    const draw = () => composeFrame(look, images, { animation: "idle", facing: "south", time: 0 });
    expect(draw).toThrow(expect.objectContaining({ code: "missing-picture" }));
    expect(draw).toThrow(/art\/reed\/storm-hat[a-z-]*\.png", which "storm-hat" needs/);
  });

  test("a picture of more than 256 colors is drawn as it is", () => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          frame: { width: 40, height: 20 },
          origin: [0, 0],
          facings: ["south"],
          animations: { idle: { frames: 1, fps: 1 } },
        },
      },
    });
    const image = createImage(40, 20);
    for (let pixel = 0; pixel < 800; pixel += 1) image.data.set([pixel % 256, pixel >> 2, 7, 255], pixel * 4);
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    const frame = composeFrame(look, new Map([["plain.png", image]]), { animation: "idle", facing: "south", time: 0 });
    expect([...frame.data]).toEqual([...image.data]);
  });
});

describe("recoloring", () => {
  test("only opaque pixels of a key color take the color of the ramp", () => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          frame: { width: 4, height: 1 },
          origin: [0, 0],
          facings: ["south"],
          animations: { idle: { frames: 1, fps: 1 } },
        },
      },
      ramps: { red: ["#aa1122"] },
      channels: { dye: { ramps: ["red"], default: "red", key: ["#808080"] } },
      slots: { hair: appearance },
      parts: { braid: { slot: "hair", layers: [{ image: "braid.png", depth: 1, channel: "dye" }] } },
    });
    const braid = createImage(4, 1);
    braid.data.set([128, 128, 128, 255, 128, 128, 129, 255, 128, 128, 128, 100, 0, 0, 0, 0]);
    const character = applyEdit(catalog, createCharacter(catalog, { body: "plain" }), { wear: "braid" }).character;
    const images = new Map([
      ["braid.png", braid],
      ["plain.png", createImage(4, 1)],
    ]);
    const frame = composeFrame(resolveLook(catalog, character), images, {
      animation: "idle",
      facing: "south",
      time: 0,
    });
    expect([...frame.data]).toEqual([0xaa, 0x11, 0x22, 255, 128, 128, 129, 255, 128, 128, 128, 100, 0, 0, 0, 0]);
  });
});

/** When a drawn frame of an animation is shown first. */
function timeOf(look: Look, animation: string, frame: number): number {
  return timedFrames(animationOf(look, animation)).find((shown) => shown.frame === frame)?.time ?? Number.NaN;
}

describe("baking and cropping", () => {
  test("every cell of a baked sheet is the frame its table says", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "reed" }));
    const { image, table } = bakeSheet(look, images, { animations: ["walk"], facings: ["west", "east"] });
    expect(table).toMatchObject({ mantle: "frames/1", origin: [32, 76] });
    expect(table.frames).toHaveLength(16);
    for (const { animation, facing, frame, rect } of table.frames) {
      const [x, y, width, height] = rect;
      const cell = cropImage(image, { x, y, width, height });
      const drawn = composeFrame(look, images, { animation, facing, time: timeOf(look, animation, frame) });
      expectSamePicture(cell, drawn);
    }
  });

  test("all animations and facings are baked unless some are named; unknown ones are refused", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "reed" }));
    const { image, table } = bakeSheet(look, images);
    expect([image.width, image.height, table.frames.length]).toEqual([512, 1920, 160]);
    expect(() => bakeSheet(look, images, { animations: ["swim"] })).toThrow(/no animation "swim"/);
  });

  test("the portrait is cut from the same frame", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "oak" }));
    const frame = composeFrame(look, images, { animation: "idle", facing: "south", time: 0 });
    const portrait = drawCrop(look, images, "portrait");
    expectSamePicture(portrait, cropImage(frame, { x: 16, y: 6, width: 32, height: 36 }));
    expect(() => drawCrop(look, images, "portrat")).toThrow(/"portrait" if that is meant/);
  });

  test("a crop that reaches beyond the picture is transparent there; enlarging makes squares", () => {
    const dot = { ...createImage(1, 1), data: Uint8ClampedArray.of(9, 8, 7, 255) };
    const cropped = cropImage(dot, { x: -1, y: 0, width: 3, height: 1 });
    expect([...cropped.data]).toEqual([0, 0, 0, 0, 9, 8, 7, 255, 0, 0, 0, 0]);
    const large = enlargeImage(cropped, 2);
    expect([large.width, large.height]).toEqual([6, 2]);
    for (let y = 0; y < 2; y += 1)
      for (let x = 0; x < 6; x += 1) expect(pixelOf(large, x, y)).toEqual(pixelOf(cropped, x >> 1, 0));
  });
});

describe("baking for a game", () => {
  const walking = async () => dressed(edited(demo, createCharacter(demo, { body: "reed" }), { dress: "storm-watch" }));

  test("a packed sheet holds every frame, equal ones once, and its table puts them back", async () => {
    const { look, images } = await walking();
    const seen: number[] = [];
    const options = {
      animations: ["idle", "hail"],
      onProgress: ({ done, total }: { done: number; total: number }) => seen.push(done / total),
    };
    const { image, table } = bakeSheet(look, images, { ...options, packed: true });
    expect([seen.length, seen[0], seen.at(-1)]).toEqual([40, 1 / 40, 1]);
    // Breathing has two poses in four frames.
    expect(new Set(table.frames.map(({ rect }) => rect.join())).size).toBeLessThan(40);
    for (const { animation, facing, frame, rect, offset } of table.frames) {
      const [x, y, width, height] = rect;
      const whole = createImage(...table.size);
      pasteImage(whole, cropImage(image, { x, y, width, height }), ...offset);
      expectSamePicture(whole, composeFrame(look, images, { animation, facing, time: timeOf(look, animation, frame) }));
    }
    expect(table.frames[0]?.points["crown"]).toEqual([32, 28]);
  });

  test("sheets of a size hold every frame between them, none over another, and repeat the outermost pixels", async () => {
    const { look, images } = await walking();
    const sheets = bakeSheets(look, images, {
      animations: ["idle", "walk"],
      packed: true,
      size: 160,
      gap: 2,
      extrude: 1,
    });
    expect(sheets.length).toBeGreaterThan(2);
    expect(sheets.flatMap(({ table }) => table.frames)).toHaveLength(48);
    for (const { image, table } of sheets) {
      expect(Math.max(image.width, image.height)).toBeLessThanOrEqual(160);
      for (const { animation, facing, frame, rect, offset } of table.frames) {
        const [x, y, width, height] = rect;
        const whole = createImage(...table.size);
        pasteImage(whole, cropImage(image, { x, y, width, height }), ...offset);
        const time = timeOf(look, animation, frame);
        expectSamePicture(whole, composeFrame(look, images, { animation, facing, time }));
        const rows = [y - 1, y].map((top) => cropImage(image, { x: x - 1, y: top, width: width + 2, height: 1 }));
        expectSamePicture(rows[0] as Image, rows[1] as Image);
      }
    }
    expect(() => bakeSheets(look, images, { packed: true, size: 32 })).toThrow(
      /is too large: 32 pixels on a side is the most/,
    );
  });

  test("a frame in which nothing shows takes no place", () => {
    const catalog = smallCatalog();
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    const { image, table } = bakeSheet(look, new Map([["plain.png", createImage(16, 16)]]), { packed: true });
    expect([image.width, image.height, new Set(table.frames.map(({ rect }) => rect.join()))]).toEqual([
      0,
      0,
      new Set(["0,0,0,0"]),
    ]);
  });

  test("memory of an earlier bake is drawn over whole, and left alone when it is of another size", async () => {
    const { look, images } = await walking();
    const fresh = bakeSheet(look, images, { animations: ["walk"] });
    const old = createImage(fresh.image.width, fresh.image.height);
    old.data.fill(77);
    expect(bakeSheet(look, images, { animations: ["walk"], into: old }).image).toBe(old);
    expectSamePicture(old, fresh.image);
    const small = createImage(3, 3);
    expectSamePicture(bakeSheet(look, images, { animations: ["walk"], into: small }).image, fresh.image);
    expect([...small.data].every((byte) => byte === 0)).toBe(true);
  });

  test("a worker bakes the same, and says how far it is", async () => {
    const { look, images } = await walking();
    const script = `
      const { parentPort, workerData } = require("node:worker_threads");
      import("zealous-mantle/raster").then(({ bakeSheet }) => {
        const onProgress = (progress) => parentPort.postMessage(progress);
        parentPort.postMessage(bakeSheet(workerData.look, workerData.images, { animations: ["walk"], onProgress }));
      });`;
    const worker = new Worker(script, { eval: true, workerData: { look, images } });
    const said: { done?: number; image?: Image }[] = [];
    await new Promise<void>((resolve, reject) => {
      worker.on("message", (message) => said.push(message) && message.image && resolve());
      worker.on("error", reject);
    });
    await worker.terminate();
    expect(said.slice(0, -1).map(({ done }) => done)).toEqual(Array.from({ length: 32 }, (_, at) => at + 1));
    const here = bakeSheet(look, images, { animations: ["walk"] });
    expect(said.at(-1)).toMatchObject({ table: here.table });
    expectSamePicture(said.at(-1)?.image ?? createImage(1, 1), here.image);
  });

  test("a name is made of content alone: the same for the same, another for another, however it is cut", () => {
    expect(contentHash("ab", Uint8Array.of(1))).toBe(contentHash("ab", Uint8Array.of(1)));
    expect(contentHash("ab")).toMatch(/^[0-9a-f]{16}$/);
    expect(new Set([contentHash("ab"), contentHash("a", "b"), contentHash("ba"), contentHash()]).size).toBe(4);
  });

  test("a token is round, with its background and rim, and follows the head of a smaller body", async () => {
    const token = async (body: string) => {
      const { look, images } = await dressed(createCharacter(demo, { body }));
      return drawCrop(look, images, "token");
    };
    const grown = await token("reed");
    expect([pixelOf(grown, 0, 0), pixelOf(grown, 15, 0)]).toEqual([
      [0, 0, 0, 0],
      [0x16, 0x32, 0x3a, 255],
    ]);
    // The corner of an eye, which is drawn at the same place of every head.
    const lash = [0x1a, 0x14, 0x20, 255];
    expect([pixelOf(grown, 10, 15), pixelOf(await token("reed-young"), 10, 15)]).toEqual([lash, lash]);
  });

  test("an icon shows the part in the character's colors on a quiet figure, and follows both", async () => {
    const wren = createCharacter(demo, { body: "reed" });
    const icon = async (part: string, oilcloth: string) => {
      const look = iconLook(demo, edited(demo, wren, { paint: "oilcloth", ramp: oilcloth }), part);
      return drawIcon(look, await picturesOf(look), part);
    };
    const yellow = await icon("storm-hat", "mustard");
    expect([yellow.width, yellow.width === yellow.height]).toEqual([yellow.height, true]);
    const colors = (image: Image) =>
      new Set(
        Array.from({ length: image.width * image.height }, (_, at) =>
          pixelOf(image, at % image.width, Math.floor(at / image.width)).join(),
        ),
      );
    expect(colors(yellow)).toContain("227,178,60,255");
    expect(colors(yellow)).toContain("207,200,184,255");
    expect(colors(await icon("storm-hat", "indigo"))).not.toContain("227,178,60,255");
    expect(() => iconLook(demo, wren, "strom-hat")).toThrow(/Write "storm-hat"/);
    const badge = iconLook(demo, wren, "ferry-badge");
    await expect(picturesOf(badge).then((images) => drawIcon(badge, images, "ferry-badge"))).rejects.toThrow(
      /no picture/,
    );
  });

  test("an animated PNG plays every frame for its time, for ever", async () => {
    const { look, images } = await walking();
    const frames = [0, 0.1, 0.2].map((time) => ({
      image: composeFrame(look, images, { animation: "walk", facing: "west", time }),
      duration: time + 0.05,
    }));
    const bytes = encodeApng(frames);
    const read = decodeApng(bytes);
    expect([read.numberOfFrames, read.numberOfPlays]).toEqual([3, 0]);
    expect(read.frames.map(({ delayNumber, delayDenominator }) => delayNumber / delayDenominator)).toEqual([
      0.05, 0.15, 0.25,
    ]);
    for (const [at, { data }] of read.frames.entries()) expect([...data]).toEqual([...(frames[at]?.image.data ?? [])]);
    expectSamePicture(decodePng(bytes), frames[0]?.image ?? createImage(1, 1));
    expect(() => encodeApng([])).toThrow(/at least one/);
    expect(() => encodeApng([...frames, { image: createImage(1, 1), duration: 1 }])).toThrow(/of one size/);
  });

  test.each([1, 4096])(
    "a cell of %d pixels on a side, and a layer larger than the frame, are drawn whole where they fit",
    (side) => {
      const catalog = smallCatalog({
        rigs: {
          rig: {
            frame: { width: 3, height: 2 },
            origin: [1, 1],
            facings: ["south"],
            animations: { idle: { frames: 1, fps: 1 } },
          },
        },
        bodies: {
          plain: {
            rig: "rig",
            art: [{ image: "a.png", depth: 0, layout: { cell: { width: side, height: side }, at: [1 - side, 0] } }],
          },
        },
      });
      const image = createImage(side, side);
      new Uint32Array(image.data.buffer).fill(0xff112233);
      const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
      const frame = composeFrame(look, new Map([["a.png", image]]), { animation: "idle", facing: "south", time: 0 });
      const shown = Array.from({ length: 6 }, (_, at) => pixelOf(frame, at % 3, Math.floor(at / 3))[3]);
      expect(shown).toEqual(side === 1 ? [255, 0, 0, 0, 0, 0] : [255, 0, 0, 255, 0, 0]);
    },
  );
});

test("a cell too large to be drawn is a broken call that says so", () => {
  const catalog = smallCatalog({ bodies: { plain: { rig: "rig", art: [{ image: "a.png", depth: 0 }] } } });
  const resolved = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
  const layers = resolved.layers.map((layer) => ({
    ...layer,
    art: { ...layer.art, pictures: [{ key: "wide", cells: [{ x: 0, y: 0, width: 32_768, height: 1 }] }] },
  }));
  const look = { ...resolved, layers };
  const draw = () =>
    composeFrame(look, new Map([["a.png", createImage(1, 1)]]), { animation: "idle", facing: "south", time: 0 });
  expect(draw).toThrow(/32768×1 pixels cannot be drawn\. Make it at most 32767/);
});

describe("pictures", () => {
  test("that are exchanged for others, or painted anew, show at once", () => {
    const catalog = smallCatalog({
      ramps: { red: ["#ff0000"], blue: ["#0000ff"] },
      channels: { dye: { ramps: ["red", "blue"], default: "red", key: ["#808080"] } },
      bodies: { plain: { rig: "rig", art: [{ image: "a.png", depth: 0, channel: "dye" }] } },
    });
    const plain = createCharacter(catalog, { body: "plain" });
    const look = resolveLook(catalog, plain);
    const filled = (color: number) => {
      const image = createImage(16, 16);
      new Uint32Array(image.data.buffer).fill(color);
      return new Map([["a.png", image]]);
    };
    const first = (which: Look, images: Images) =>
      pixelOf(composeFrame(which, images, { animation: "idle", facing: "south", time: 0 }), 0, 0);
    const gray = filled(0xff808080);
    expect(first(look, gray)).toEqual([255, 0, 0, 255]);
    expect(first(look, filled(0xff00ff00))).toEqual([0, 255, 0, 255]);
    expect(first(look, gray)).toEqual([255, 0, 0, 255]);
    expect(first(resolveLook(catalog, edited(catalog, plain, { paint: "dye", ramp: "blue" })), gray)).toEqual([
      0, 0, 255, 255,
    ]);
  });
});

function pixelOf({ data, width }: Image, x: number, y: number): readonly number[] {
  return [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];
}

describe("what is touched on a figure", () => {
  test("is what is in front at a pixel, in every facing; a shadow is nothing", async () => {
    const dressedUp = createFromPreset(demo, "first-watch");
    const { look, images } = await dressed(dressedUp);
    for (const facing of look.rig.facings.keys()) {
      const moment = { animation: "walk", facing, time: 0.3 };
      const frame = composeFrame(look, images, moment);
      const touched = new Map<string, Image>();
      const alone = (part: string | undefined) =>
        composeFrame({ ...look, layers: look.layers.filter((layer) => layer.part === part) }, images, moment);
      for (let y = 0; y < frame.height; y += 7) {
        for (let x = 0; x < frame.width; x += 7) {
          const at = (y * frame.width + x) * 4;
          const there = hitTest(look, images, moment, x, y);
          expect(there === undefined).toBe((frame.data[at + 3] ?? 0) < 128);
          if (there === undefined) continue;
          expect(there.of).toBe(there.part === undefined ? "body" : "part");
          const own = touched.get(there.part ?? "body") ?? alone(there.part);
          touched.set(there.part ?? "body", own);
          expect(own.data[at + 3]).toBeGreaterThanOrEqual(128);
        }
      }
      expect([...touched.keys()]).toEqual(expect.arrayContaining(["storm-hat", "oilskin", "sea-boots"]));
    }
    expect(hitTest(look, images, { animation: "idle", facing: "south", time: 0 }, -1, 5)).toBeUndefined();
  });

  test("the box of a part is that of its own pixels", async () => {
    const { look, images } = await dressed(createFromPreset(demo, "old-hand"));
    const moment = { animation: "idle", facing: "south", time: 0 };
    const box = partBounds(look, images, moment, "reed-cap");
    const alone = composeFrame(
      { ...look, layers: look.layers.filter(({ part }) => part === "reed-cap") },
      images,
      moment,
    );
    const seen = [...alone.data.keys()].filter((at) => at % 4 === 3 && alone.data[at] !== 0).map((at) => (at - 3) / 4);
    const [xs, ys] = [seen.map((at) => at % alone.width), seen.map((at) => Math.floor(at / alone.width))];
    const [left, top] = [Math.min(...xs), Math.min(...ys)];
    const size = { width: Math.max(...xs) - left + 1, height: Math.max(...ys) - top + 1 };
    expect(box).toEqual({ x: left, y: top, ...size });
    expect(partBounds(look, images, moment, "eel-charm")).toBeUndefined();
  });
});
