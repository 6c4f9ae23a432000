import { mkdtemp, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import {
  composeFrame,
  createCharacter,
  type Image,
  type Images,
  type Look,
  readCatalog,
  resolveLook,
} from "zealous-mantle";
import { checkArt, neededTables, tableOfFiles } from "zealous-mantle/authoring";
import { inspectCatalog, loadCatalog, loadImages } from "zealous-mantle/node";
import {
  animationOf,
  bakeSheet,
  celsAt,
  createImage,
  durationOf,
  encodePng,
  frameAt,
  hasEnded,
  timedFrames,
} from "zealous-mantle/raster";
import { demo, dressed } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { described } from "../../in-words.ts";
import { animations, type Drawn, drawnFrames, facings, laidOut, plainSheet, rig, trimmed } from "../../laid-out-art.ts";
import { composeSlowly } from "../../oracles/compose-slowly.ts";
import { expectSamePicture } from "../../same-picture.ts";
import { appearance, smallSource } from "../../small-catalog.ts";

type Json = Record<string, unknown>;

const frames = drawnFrames();
const plain = plainSheet(frames);

/** How a body looks whose one layer says so much of its art. */
function lookOf(layer: Json, { tables, more = {} }: { tables?: ReadonlyMap<string, unknown>; more?: Json } = {}): Look {
  const bodies = { plain: { rig: "rig", art: [{ image: "art.png", depth: 0, ...layer }] } };
  const source = smallSource({ rigs: { rig: { ...rig, ...more } }, bodies });
  const { catalog, problems } = readCatalog(source, {}, tables === undefined ? {} : { tables });
  if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
  return resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
}

/** Every moment that differs: each place of each animation's run, from every side. */
function* momentsOf(look: Look) {
  for (const animation of look.rig.animations.values())
    for (const facing of look.rig.facings.keys())
      for (const { time } of timedFrames(animation)) yield { animation: animation.id, facing, time };
}

function expectSameLooks(one: Look, images: Images, other: Look, others: Images): void {
  for (const moment of momentsOf(one))
    expectSamePicture(composeFrame(other, others, moment), composeFrame(one, images, moment));
}

const plainLook = lookOf({});
const plainImages = new Map([["art.png", plain]]);
const cell = (at: number) => ({ x: at * 6, y: 0 });
const numbered = (list: readonly Drawn[]) => list.map((drawn, number) => ({ ...drawn, number }));
const facingNumber = (facing: string) => [...facings].indexOf(facing as "south");
const before = (animation: string) =>
  Object.entries(animations)
    .slice(0, Object.keys(animations).indexOf(animation))
    .reduce((sum, [, count]) => sum + count, 0);

/** The same frames, laid out in ways that art comes in, with what a layer then says. */
const layouts: readonly (readonly [name: string, layer: Json, image: Image])[] = [
  [
    "facings in columns, and frames down",
    { layout: { across: ["facing"] } },
    laidOut(
      18,
      72,
      frames.map(({ animation, facing, frame, image }) => ({
        image,
        x: facingNumber(facing) * 6,
        y: (before(animation) + frame) * 8,
      })),
    ),
  ],
  [
    "animations side by side, and facings down",
    { layout: { across: ["animation", "frame"] } },
    laidOut(
      54,
      24,
      frames.map(({ animation, facing, frame, image }) => ({
        image,
        x: (before(animation) + frame) * 6,
        y: facingNumber(facing) * 8,
      })),
    ),
  ],
  [
    "all frames in a row after another, five to a row",
    { layout: { columns: 5 } },
    laidOut(
      30,
      48,
      numbered(frames).map(({ image, number }) => ({ image, x: (number % 5) * 6, y: Math.floor(number / 5) * 8 })),
    ),
  ],
  [
    "all frames down, then right, four to a column",
    { layout: { rows: 4 } },
    laidOut(
      42,
      32,
      numbered(frames).map(({ image, number }) => ({ image, x: Math.floor(number / 4) * 6, y: (number % 4) * 8 })),
    ),
  ],
  [
    "a line of one pixel around every cell, and a margin",
    { layout: { margin: 3, spacing: 1 } },
    laidOut(
      6 + 4 * 7 - 1,
      6 + 9 * 9 - 1,
      frames.map(({ animation, facing, frame, image }) => ({
        image,
        x: 3 + frame * 7,
        y: 3 + (Object.keys(animations).indexOf(animation) * 3 + facingNumber(facing)) * 9,
      })),
      [255, 0, 255, 255],
    ),
  ],
  [
    "another order of animations and facings",
    { animations: ["wave", "idle", "walk"], facings: ["north", "south", "west"] },
    laidOut(
      24,
      72,
      frames.map(({ animation, facing, frame, image }) => ({
        image,
        x: frame * 6,
        y: (["wave", "idle", "walk"].indexOf(animation) * 3 + ["north", "south", "west"].indexOf(facing)) * 8,
      })),
    ),
  ],
  [
    "cells picked one by one",
    { cells: numbered(frames).map(({ number }) => [(number * 7) % 27, 0]) },
    laidOut(
      27 * 6,
      8,
      numbered(frames).map(({ image, number }) => ({ image, ...cell((number * 7) % 27) })),
    ),
  ],
  [
    "a layout with the rig, a few cells in",
    { layout: "strip", row: 2, column: 1 },
    laidOut(
      7 * 6,
      8 * 8,
      numbered(frames).map(({ image, number }) => ({
        image,
        x: ((number % 5) + 1) * 6,
        y: (Math.floor(number / 5) + 2) * 8,
      })),
    ),
  ],
];

describe("art as it is laid out", () => {
  test.each(layouts)("%s: the same pixels as in the plain layout", (_name, layer, image) => {
    const look = lookOf(layer, { more: { layouts: { strip: { columns: 5 } } } });
    expectSameLooks(plainLook, plainImages, look, new Map([["art.png", image]]));
  });

  test("the layout of the rig is that of all pictures that say nothing else", () => {
    const [, , image] = layouts[3] ?? [];
    const look = lookOf({}, { more: { layout: { rows: 4 } } });
    expectSameLooks(plainLook, plainImages, look, new Map([["art.png", image ?? plain]]));
  });

  test("a strip of hats with one hat a row is one entry a hat", () => {
    const hats = [1, 2, 3].map((seed) => drawnFrames(seed).slice(0, 3));
    const strip = laidOut(
      18,
      24,
      hats.flatMap((hat, row) => hat.map(({ image }, column) => ({ image, x: column * 6, y: row * 8 }))),
    );
    for (const [row, hat] of hats.entries()) {
      const own = laidOut(
        6,
        24,
        hat.map(({ image }, at) => ({ image, x: 0, y: at * 8 })),
      );
      const look = lookOf({ still: true, layout: { across: ["facing"] }, row });
      expectSameLooks(lookOf({ still: true }), new Map([["art.png", own]]), look, new Map([["art.png", strip]]));
    }
  });

  test("a key color means nothing is there, translucent too", () => {
    const keyed = laidOut(plain.width, plain.height, []);
    for (let at = 0; at < plain.data.length; at += 4)
      keyed.data.set(
        plain.data[at + 3] === 0 ? [255, 0, 255, at % 8 === 0 ? 255 : 90] : plain.data.subarray(at, at + 4),
        at,
      );
    expectSameLooks(plainLook, plainImages, lookOf({ blank: "#ff00ff" }), new Map([["art.png", keyed]]));
  });

  test.each([
    ["an axis twice", { across: ["frame"], down: ["facing", "frame"] }, "layout-axes", /occur once each/],
    ["a fold of what goes down too", { across: ["frame"], columns: 4 }, "layout-fold", /all three in "across"/],
  ])("%s is found", (_name, layout, code, words) => {
    const bodies = { plain: { rig: "rig", art: [{ image: "art.png", depth: 0, layout }] } };
    const { problems } = readCatalog(smallSource({ bodies }));
    expect(problems.map((problem) => [problem.code, problem.place.pointer])).toEqual([
      [code, "/bodies/plain/art/0/layout"],
    ]);
    expect(problems.map(described).join()).toMatch(words);
  });

  test("cells beyond the picture are found, and cells that are too few", () => {
    const found = (layer: Json, width: number, height: number) => {
      const bodies = { plain: { rig: "rig", art: [{ image: "art.png", depth: 0, ...layer }] } };
      const { catalog } = readCatalog(smallSource({ rigs: { rig }, bodies }));
      return catalog && checkArt(catalog, new Map([["art.png", { width, height }]])).map(described);
    };
    expect(found({ layout: { margin: 3, spacing: 1 } }, 33, 86)).toEqual([]);
    expect(found({ layout: { margin: 3, spacing: 1 } }, 33, 85)?.join()).toMatch(/33×86 in all/);
    expect(found({ still: true, facings: "any", row: 3 }, 6, 31)?.join()).toMatch(
      /6×8 pixels at 0, 24, which reaches beyond/,
    );
    expect(found({ cells: [[0, 0], null] }, 24, 72)?.join()).toMatch(/2 cells for 27 frames\. Give 27 cells/);
  });
});

describe("frames tables", () => {
  test("a sheet that was baked, packed or not, is read back and gives the same pixels", async () => {
    const { look, images } = await dressed(
      edited(demo, createCharacter(demo, { body: "reed" }), { dress: "storm-watch" }),
    );
    for (const packed of [true, false]) {
      const { image, table } = bakeSheet(look, images, { packed });
      const { catalog, problems } = readCatalog(
        {
          mantle: "catalog/1",
          id: "baked",
          version: "1",
          rigs: { courier: rigSource(look) },
          bodies: { one: { rig: "courier", art: [{ image: "one.png", frames: "one.frames.json", depth: 0 }] } },
        },
        {},
        { tables: new Map([["one.frames.json", JSON.parse(JSON.stringify(table))]]) },
      );
      expect(problems).toEqual([]);
      if (catalog === undefined) throw new Error("no catalog");
      const baked = resolveLook(catalog, createCharacter(catalog, { body: "one" }));
      expectSameLooks(look, images, baked, new Map([["one.png", image]]));
    }
  });

  const packed = (list: readonly Drawn[]) => {
    const cut = list.map((drawn) => ({ ...drawn, cut: trimmed(drawn.image) }));
    const image = laidOut(
      6 * cut.length,
      8,
      cut.map((each, at) => ({ image: each.cut.image, x: at * 6, y: 0 })),
    );
    const table = {
      mantle: "frames/1",
      size: [6, 8],
      origin: [3, 8],
      frames: cut.map(({ animation, facing, frame, cut: { image: own, x, y } }, at) => ({
        animation,
        facing,
        frame,
        rect: [at * 6, 0, own.width, own.height],
        offset: [x, y],
      })),
    };
    return { image, table };
  };

  test.each<[string, Json]>([
    ["as they are", {}],
    ["moved and enlarged", { offset: [1, -2], scale: 1.7 }],
    ["made smaller", { scale: 0.6 }],
    ["hung on a point", { attach: { point: "hand", at: [2, 3] } }],
    [
      "hung on a point and turned, at another size",
      { scale: 1.3, attach: { point: "hand", at: [2, 3], toward: "tip", along: [5, 1] } },
    ],
  ])("trimmed cells come out as whole ones do: %s", (_name, layer) => {
    const { image, table } = packed(frames);
    const places = (x: number, y: number) =>
      Object.fromEntries(
        Object.keys(animations).map((id) => [
          id,
          Object.fromEntries(facings.map((facing, at) => [facing, [x + at, y - at]])),
        ]),
      );
    const points = { frames: { hand: places(2, 4), tip: places(5, 2) } };
    const tables = new Map([["art.frames.json", table]]);
    const [whole, cut] = [
      lookOf(layer, { more: { points } }),
      lookOf({ ...layer, frames: "art.frames.json" }, { tables, more: { points } }),
    ];
    const images = new Map([["art.png", image]]);
    expectSameLooks(whole, plainImages, cut, images);
    for (const moment of momentsOf(cut))
      expectSamePicture(composeFrame(cut, images, moment), composeSlowly(cut, images, moment));
  });

  test("the origin of a table lies on that of the rig, whatever the size of its frames", () => {
    const { image, table } = packed(frames);
    const larger = {
      ...table,
      size: [40, 40],
      origin: [13, 28],
      frames: table.frames.map((frame) => ({
        ...frame,
        offset: [(frame.offset[0] ?? 0) + 10, (frame.offset[1] ?? 0) + 20],
      })),
    };
    const look = lookOf({ frames: "t" }, { tables: new Map([["t", larger]]) });
    expectSameLooks(plainLook, plainImages, look, new Map([["art.png", image]]));
  });

  test("a missing rectangle means that nothing is drawn, and one rectangle serves many frames", () => {
    const { image, table } = packed(frames);
    const [first] = table.frames;
    const sparse = [
      { ...first, facing: undefined, animation: "walk", frame: undefined },
      { ...first, animation: "idle", frame: 1 },
    ].map((each) => JSON.parse(JSON.stringify(each)));
    const look = lookOf({ frames: "t" }, { tables: new Map([["t", { ...table, frames: sparse }]]) });
    const at = (animation: string, facing: string, time: number) => celsAt(look, { animation, facing, time }).length;
    expect([
      at("walk", "south", 0),
      at("walk", "north", 0.5),
      at("idle", "south", 0),
      at("idle", "south", 0.6),
      at("idle", "north", 0.6),
      at("wave", "south", 0),
    ]).toEqual([1, 1, 0, 1, 0, 0]);
    expect(image.width).toBeGreaterThan(0);
  });

  test("what is wrong with a table is found in it, and one that is missing at the layer", () => {
    const found = (tables: ReadonlyMap<string, unknown>) => {
      const bodies = { plain: { rig: "rig", art: [{ image: "art.png", depth: 0, frames: "art.frames.json" }] } };
      return readCatalog(smallSource({ bodies }), {}, { tables }).problems.map(described);
    };
    expect(found(new Map()).join()).toMatch(/art\/0\/frames: The frames table art\.frames\.json was not handed in/);
    const table = (frame: Json) =>
      new Map([["art.frames.json", { mantle: "frames/1", frames: [{ rect: [0, 0, 1, 1], ...frame }] }]]);
    expect(found(table({}))).toEqual([]);
    expect(found(table({ animation: "wlak" })).join()).toMatch(
      /art\.frames\.json \/frames\/0\/animation: There is no animation "wlak"\. Write "walk"/,
    );
    expect(found(table({ facing: "noth" })).join()).toMatch(/no facing "noth"/);
    expect(found(table({ rect: [0, 0, -1, 1] })).join()).toMatch(/\/frames\/0\/rect\/2: -1 is too small/);
  });
});

/** The rig of a look, as a catalog says it. */
function rigSource({ rig: { frame, origin, facings: all, animations: moved } }: Look): Json {
  return {
    frame,
    origin: [origin.x, origin.y],
    facings: [...all.values()].map(({ id, drawnAs, mirrored }) => (mirrored ? { id, mirror: drawnAs } : id)),
    animations: Object.fromEntries(
      [...moved.values()].map((each) => [
        each.id,
        {
          frames: each.frames,
          durations: timedFrames(each).map(({ duration }) => duration),
          sequence: each.sequence,
          loop: each.loop,
        },
      ]),
    ),
  };
}

describe("one file a frame", () => {
  const files = frames.map(({ animation, facing, frame, image }) => {
    const cut = trimmed(image);
    // Such files are cut to what is drawn, with the feet in the middle of the bottom.
    const half = Math.max(3 - cut.x, cut.x + cut.image.width - 3);
    const placed = laidOut(2 * half, 8 - cut.y, [{ image: cut.image, x: cut.x - 3 + half, y: 0 }]);
    return {
      path: `${animation}_${facing[0]?.toUpperCase()}_${String(frame + 1).padStart(3, "0")}.png`,
      image: placed,
    };
  });
  const layer = { image: "{animation}_{facing}_{frame:001}.png", names: { south: "S", west: "W", north: "N" } };

  test("of differing sizes, they stand on their feet", () => {
    const images = new Map(files.map(({ path, image }) => [path, image]));
    const bodies = { plain: { rig: "rig", art: [{ depth: 0, ...layer }] } };
    const source = smallSource({ rigs: { rig }, bodies });
    const [needed] = neededTables(readCatalog(source).catalog ?? demo);
    expect([needed?.path, needed?.files?.length]).toEqual([layer.image, 27]);
    const look = lookOf(layer, { tables: new Map([[layer.image, tableOfFiles(needed?.files ?? [], images)]]) });
    expectSameLooks(plainLook, plainImages, look, images);
  });

  test("a folder of them is loaded as it is, and what is missing or named otherwise is told", async () => {
    const folder = await mkdtemp(join(tmpdir(), "frames-"));
    const bodies = { plain: { rig: "rig", art: [{ depth: 0, ...layer }] } };
    const write = (more: Json) =>
      writeFile(join(folder, "catalog.json"), JSON.stringify(smallSource({ rigs: { rig }, bodies, ...more })));
    await write({});
    for (const { path, image } of files) await writeFile(join(folder, path), encodePng(image));
    const catalog = await loadCatalog(folder);
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    expectSameLooks(plainLook, plainImages, look, await loadImages(folder, [look]));
    expect((await inspectCatalog(folder)).problems).toEqual([]);
    await write({ bodies: { plain: { rig: "rig", art: [{ depth: 0, ...layer, names: {} }] } } });
    const { problems } = await inspectCatalog(folder);
    expect(problems.map(described)[0]).toMatch(/No file matches .*\. Correct the path, or give the layer "names"/);
  });
});

describe("channels of painted art", () => {
  const dye = (match: string) => ({
    rigs: {
      rig: {
        ...rig,
        animations: { idle: { frames: 1, fps: 1 } },
        facings: ["south"],
        frame: { width: 4, height: 1 },
        origin: [2, 1],
      },
    },
    ramps: { red: ["#400000", "#ff8040"] },
    channels: { dye: { ramps: ["red"], default: "red", key: ["#202020", "#808080"], match } },
    bodies: { plain: { rig: "rig", art: [{ image: "a.png", depth: 0, channel: "dye" }] } },
  });
  const image = createImage(4, 1);
  image.data.set([0x80, 0x80, 0x80, 255, 0x80, 0x80, 0x80, 100, 0x20, 0x20, 0x20, 7, 0xc0, 0x60, 0xff, 200]);

  test.each([
    ["key", [255, 128, 64, 255, 128, 128, 128, 100, 32, 32, 32, 7, 192, 96, 255, 200]],
    ["soft-key", [255, 128, 64, 255, 255, 128, 64, 100, 64, 0, 0, 7, 192, 96, 255, 200]],
    // Multiplied by #ff8040, of 255.
    ["tint", [128, 64, 32, 255, 128, 64, 32, 100, 32, 16, 8, 7, 192, 48, 64, 200]],
  ])("%s", (match, pixels) => {
    const { catalog } = readCatalog(smallSource(dye(match)));
    if (catalog === undefined) throw new Error("no catalog");
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    const frame = composeFrame(look, new Map([["a.png", image]]), { animation: "idle", facing: "south", time: 0 });
    expect([...frame.data]).toEqual(pixels);
  });
});

describe("depth said once", () => {
  test("a layer takes its depth from the rig by slot, group and facing, and one without is found", () => {
    const depths = { hat: 70, "hat/back": { default: 5, north: 80 } };
    const read = (layers: readonly Json[], more: Json = { depths }) =>
      readCatalog(
        smallSource({
          rigs: { rig: { ...rig, ...more } },
          slots: { hat: appearance },
          parts: { hat: { slot: "hat", layers } },
        }),
      );
    const { catalog, problems } = read([
      { image: "front.png" },
      { image: "back.png", group: "back" },
      { image: "own.png", depth: 3 },
    ]);
    expect(problems).toEqual([]);
    if (catalog === undefined) throw new Error("no catalog");
    const look = resolveLook(catalog, edited(catalog, createCharacter(catalog, { body: "plain" }), { wear: "hat" }));
    const order = (facing: string) => celsAt(look, { animation: "idle", facing, time: 0 }).map(({ image }) => image);
    expect([order("south"), order("north")]).toEqual([
      ["plain.png", "own.png", "back.png", "front.png"],
      ["plain.png", "own.png", "front.png", "back.png"],
    ]);
    expect(
      read([{ image: "front.png" }], {})
        .problems.map(described)
        .join(),
    ).toMatch(/layers\/0: The depth of this layer is not given.*"depths"/);
    expect(
      read([], { depths: { hut: 1 } })
        .problems.map(described)
        .join(),
    ).toMatch(/no slot "hut"\. Write "hat"/);
  });
});

describe("time", () => {
  const { walk, wave } = Object.fromEntries(plainLook.rig.animations);

  test("frames run forth and back, or as they are picked, each for its time", () => {
    const shown = (animation: typeof walk, times: readonly number[]) =>
      times.map((time) => animation && frameAt(animation, time));
    expect(shown(walk, [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 7.5 + 0.625, -0.125])).toEqual([
      0, 1, 2, 3, 2, 1, 0, 1, 1,
    ]);
    expect(shown(wave, [0, 0.09, 0.1, 0.39, 0.4, 0.5, 0.69, 99])).toEqual([2, 2, 0, 0, 1, 0, 0, 0]);
    expect([durationOf(plainLook, "wave"), durationOf(plainLook, "walk")]).toEqual([expect.closeTo(0.7), 0.75]);
    const ended = (time: number) => hasEnded(plainLook, { animation: "wave", facing: "south", time });
    expect([ended(0.69), ended(0.7)]).toEqual([false, true]);
    expect(
      timedFrames(animationOf(plainLook, "wave")).map(({ frame, duration }) => [frame, Number(duration.toFixed(3))]),
    ).toEqual([
      [2, 0.1],
      [0, 0.3],
      [1, 0.1],
      [0, 0.2],
    ]);
  });

  test("a layer that shows another animation keeps that one's time", () => {
    const look = lookOf({ animations: ["idle"], else: { walk: "idle", wave: "idle" } });
    const columns = [0, 0.49, 0.5, 0.99].map(
      (time) => celsAt(look, { animation: "wave", facing: "south", time })[0]?.source.x,
    );
    expect(columns).toEqual([0, 0, 6, 6]);
  });

  test.each<[string, Json, string, RegExp]>([
    ["a frame that is not drawn", { frames: 2, fps: 1, sequence: [0, 2] }, "/sequence/1", /no frame 2: 2 are drawn/],
    ["too few durations", { frames: 3, durations: [1, 1] }, "/durations", /2 durations for 3 frames.*Give 3/],
    ["no time at all", { frames: 3 }, "", /Give it "fps", or "durations"/],
  ])("%s is found", (_name, idle, pointer, words) => {
    const { problems } = readCatalog(smallSource({ rigs: { rig: { ...rig, animations: { idle } } } }));
    expect(problems.map(({ place }) => place.pointer)).toEqual([`/rigs/rig/animations/idle${pointer}`]);
    expect(problems.map(described).join()).toMatch(words);
  });

  test("a table says how to play what was baked", () => {
    const { table } = bakeSheet(plainLook, plainImages, { animations: ["walk", "wave"], facings: ["south"] });
    expect(table.animations).toEqual({
      walk: { sequence: [0, 1, 2, 3, 2, 1], durations: Array.from({ length: 6 }, () => 0.125), loop: true },
      wave: { sequence: [2, 0, 1, 0], durations: [0.1, 0.3, 0.1, 0.2], loop: false },
    });
    expect(table.frames.map(({ animation, frame }) => `${animation} ${frame}`)).toEqual([
      "walk 0",
      "walk 1",
      "walk 2",
      "walk 3",
      "wave 0",
      "wave 1",
      "wave 2",
    ]);
  });
});
