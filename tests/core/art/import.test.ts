import { deflateRawSync } from "node:zlib";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Catalog,
  composeFrame,
  createCharacter,
  type Image,
  type Images,
  type Look,
  readCatalog,
  resolveLook,
} from "zealous-mantle";
import {
  contactSheet,
  type Found,
  findFigures,
  findRegions,
  type ImportPlan,
  nameId,
  planImport,
  readDrawing,
  readFigures,
  readFiles,
  readSheet,
  readTable,
} from "zealous-mantle/authoring";
import { bakeSheet, createImage, cropImage, enlargeImage, pasteImage, timedFrames } from "zealous-mantle/raster";
import { edited } from "../../edited.ts";
import { described } from "../../in-words.ts";
import { animations, type Drawn, drawnFrames, facings, laidOut, plainSheet, rig, trimmed } from "../../laid-out-art.ts";
import { type DrawnLayer, writeDrawing } from "../../layered-drawing.ts";
import { runs } from "../../runs.ts";
import { expectSamePicture } from "../../same-picture.ts";
import { appearance, gear, smallSource } from "../../small-catalog.ts";

type Json = Record<string, unknown>;

const frames = drawnFrames(5);
const body = plainSheet(drawnFrames(3));
const sections = {
  rigs: { rig: { ...rig, depths: { hat: 9, coat: { default: 4, north: -1 } } } },
  slots: { hat: appearance, coat: gear, shoes: gear },
  bodies: { plain: { rig: "rig", art: [{ image: "body.png", depth: 0 }] } },
};
const catalog = read(sections);
const courier = catalog.rigs.get("rig") ?? fail();

function fail(): never {
  throw new Error("not there");
}

function read(more: Json, tables: ReadonlyMap<string, unknown> = new Map()): Catalog {
  const { catalog: found, problems } = readCatalog(smallSource(more), {}, { tables });
  if (found === undefined || problems.length > 0) throw new Error(problems.map(described).join("\n"));
  return found;
}

/** The catalog with what was planned, as if it had been written, and its pictures. */
function withPlan({ parts, fragment }: ImportPlan): { catalog: Catalog; images: Images } {
  const layers = parts.flatMap((part) => part.layers);
  const tables = new Map(layers.map(({ tablePath, table }) => [tablePath, JSON.parse(JSON.stringify(table))]));
  const images = new Map([["body.png", body], ...layers.map(({ path, image }): [string, Image] => [path, image])]);
  return { catalog: read({ ...sections, parts: fragment?.parts }, tables), images };
}

function planned(found: Found, options: Partial<Parameters<typeof planImport>[2]> = {}): ImportPlan {
  return planImport(catalog, found, { rig: courier, slot: "hat", ...options });
}

/** How the body looks that wears a part of the plain layout. */
function plainly(sheet: Image): { look: Look; images: Images } {
  const whole = read({ ...sections, parts: { hat: { slot: "hat", layers: [{ image: "hat.png" }] } } });
  const wearing = edited(whole, createCharacter(whole, { body: "plain" }), { wear: "hat" });
  return {
    look: resolveLook(whole, wearing),
    images: new Map([
      ["body.png", body],
      ["hat.png", sheet],
    ]),
  };
}

/** Expects the only part of a plan to look as the frames do in the plain layout. */
function expectImported(plan: ImportPlan, drawn: readonly Drawn[] = frames): void {
  expect(plan.problems.filter(({ severity }) => severity === "error").map(described)).toEqual([]);
  const { catalog: found, images } = withPlan(plan);
  const look = resolveLook(
    found,
    edited(found, createCharacter(found, { body: "plain" }), { wear: plan.parts[0]?.id ?? "" }),
  );
  const expected = plainly(plainSheet(drawn));
  for (const animation of courier.animations.values())
    for (const facing of courier.facings.keys())
      for (const { time } of timedFrames(animation)) {
        const moment = { animation: animation.id, facing, time };
        expectSamePicture(composeFrame(look, images, moment), composeFrame(expected.look, expected.images, moment));
      }
}

describe("names", () => {
  test.each([
    ["Cap Team!.png", "cap-team"],
    ["  Überhose (2).PNG", "uberhose-2"],
    ["art/hats/RedHat.png", "red-hat"],
    ["01_hat.png", "hat"],
    ["__.png", undefined],
    ["帽子.png", undefined],
  ])("%s becomes %s", (name, id) => {
    expect(nameId(name)).toBe(id);
  });

  test("that become the same id, no id, or one that is taken, are told", () => {
    const { parts } = readSheet("Hat.png", plainSheet(frames), courier);
    const called = (...names: readonly string[]) => ({
      parts: names.map((name) => ({ ...(parts[0] ?? fail()), name })),
      problems: [],
    });
    expect(planned(called("Cap.png", "cap!.png", "帽.png")).problems.map(described)).toEqual([
      expect.stringMatching(/No id can be made of the name "帽\.png"/),
      expect.stringMatching(/Cap\.png: The names "Cap\.png" and "cap!\.png" all become the id "cap"\. Rename/),
    ]);
    const taken = read({ ...sections, parts: { cap: { slot: "hat", layers: [{ image: "cap.png" }] } } });
    const again = (replaces: ReadonlySet<string>) =>
      planImport(taken, called("Cap.png"), { rig: courier, slot: "hat", replaces });
    expect(again(new Set()).problems.map(described).join()).toMatch(/"cap" in the catalog already/);
    expect(again(new Set(["cap"])).parts).toHaveLength(1);
  });

  test("a part without a slot, of an unknown one, or without a depth is told, and what would do", () => {
    const found = readSheet("Hat.png", plainSheet(frames), courier);
    const told = (options: object) =>
      planImport(catalog, found, { rig: courier, ...options })
        .problems.map(described)
        .join();
    expect(told({})).toMatch(/slot of "Hat" is not given\. Give its/);
    expect(told({ slot: "hut" })).toMatch(/no slot "hut"/);
    expect(told({ slot: "shoes" })).toMatch(/depth of "Hat" is not given.*"depths"/);
    expect(told({ slot: "shoes", depth: 3 })).toBe("");
  });
});

describe("sheets and strips", () => {
  test("of the plain layout, or another, become one packed picture and its table", () => {
    expectImported(planned(readSheet("Hat.png", plainSheet(frames), courier)));
    const across = laidOut(
      18,
      72,
      frames.map(({ animation, facing, frame, image }) => {
        const before = Object.entries(animations)
          .slice(0, Object.keys(animations).indexOf(animation))
          .reduce((sum, [, count]) => sum + count, 0);
        return { image, x: [...facings].indexOf(facing as "south") * 6, y: (before + frame) * 8 };
      }),
    );
    expectImported(planned(readSheet("Hat.png", across, courier, { across: ["facing"] })));
  });

  test("a picture of another size is told with the mend that is right, and never another cell", () => {
    const told = (width: number, height: number, options = {}) =>
      readSheet("Hat.png", createImage(width, height), courier, options).problems.map(described).join();
    expect(told(24, 72)).toBe("");
    expect(told(54, 32)).toMatch(/exchanged/);
    // Two of three animations: 48 pixels would divide by other cells, too.
    expect(told(24, 48)).toMatch(/It has 6 rows, one for each facing of 2: name their animations/);
    expect(told(6, 24)).toMatch(/"still"/);
    expect(told(25, 72)).toMatch(/25×72 pixels.*24×72 in all\. Give its layout/);
    expect(told(24, 48, { animations: ["idle", "walk"] })).toBe("");
    expect(told(24, 48, { animations: ["idle", "wlak"] })).toMatch(/no animation "wlak"\. Write "walk"/);
    expect(told(24, 48, { facings: ["souht"] })).toMatch(/no facing "souht"\. Write "south"/);
    expect(told(24, 72, { across: ["frame", "frame"] })).toMatch(/occur once each/);
    expect(told(24, 72, { across: ["frame"], columns: 4 })).toMatch(/is folded by/);
    expect(told(18, 25, { still: true, across: ["facing"], each: "row" })).toMatch(/Give its layout/);
  });

  test("a strip with a hat in each row gives a part for each, and none for an empty row", () => {
    const hats = [1, 2, 3].map((seed) => drawnFrames(seed).slice(0, 3));
    const strip = createImage(18, 32);
    for (const [row, hat] of hats.entries())
      for (const [column, { image }] of hat.entries()) pasteImage(strip, image, column * 6, (row === 2 ? 3 : row) * 8);
    const found = readSheet("Hats.png", strip, courier, { still: true, across: ["facing"], each: "row" });
    const plan = planned(found);
    expect(plan.parts.map(({ id }) => id)).toEqual(["hats-1", "hats-2", "hats-4"]);
    const { catalog: whole, images } = withPlan(plan);
    const look = resolveLook(whole, edited(whole, createCharacter(whole, { body: "plain" }), { wear: "hats-2" }));
    const bare = { ...look, layers: look.layers.filter(({ part }) => part !== undefined) };
    for (const [at, facing] of facings.entries())
      expectSamePicture(
        composeFrame(bare, images, { animation: "walk", facing, time: 0.3 }),
        hats[1]?.[at]?.image ?? fail(),
      );
  });
});

describe("files of one frame", () => {
  const fileOf = ({ animation, facing, frame }: Drawn, first = 1) =>
    `${animation}_${facing[0]?.toUpperCase()}_${String(frame + first).padStart(2, "0")}.png`;
  const options = { pattern: "{animation}_{facing}_{frame}" };
  const whole = (list: readonly Drawn[], first = 1) =>
    new Map(list.map((drawn) => [fileOf(drawn, first), drawn.image]));

  test.each([0, 1])("are put in order by their names, whose numbers begin with %d", (first) => {
    expectImported(planned(readFiles("Hat", whole(frames, first), courier, options)));
  });

  test("of differing sizes stand on their feet, unless an anchor says otherwise", () => {
    const cut = new Map(
      frames.map((drawn) => {
        const { image, x, y } = trimmed(drawn.image);
        const half = Math.max(3 - x, x + image.width - 3);
        return [fileOf(drawn), laidOut(2 * half, 8 - y, [{ image, x: x - 3 + half, y: 0 }])];
      }),
    );
    expectImported(planned(readFiles("Hat", cut, courier, options)));
    const [frame] =
      readFiles(
        "Hat",
        new Map([["idle_S_1.png", laidOut(5, 5, [{ image: frames[0]?.image ?? fail(), x: 0, y: 0 }])]]),
        courier,
        { ...options, anchor: [0, 0] },
      ).parts[0]?.layers[0]?.frames ?? [];
    expect(frame?.at).toEqual({ x: 3, y: 8 });
  });

  test("numbers that go on from one animation to the next are understood", () => {
    const starts = { idle: 1, walk: 3, wave: 7 };
    const files = new Map(frames.map((drawn) => [fileOf(drawn, starts[drawn.animation as "idle"]), drawn.image]));
    expectImported(planned(readFiles("Hat", files, courier, options)));
  });

  test("what is missing, beyond, or called otherwise is told, and the rest is there", () => {
    const told = (files: ReadonlyMap<string, Image>, more = {}) => {
      const found = readFiles("Hat", files, courier, { ...options, ...more });
      return { words: found.problems.map(described).join("\n"), count: found.parts[0]?.layers[0]?.frames.length };
    };
    const all = whole(frames);
    const without = (...names: readonly string[]) => new Map([...all].filter(([name]) => !names.includes(name)));
    expect(told(without("walk_S_01.png"))).toEqual({
      words: expect.stringMatching(/Of walk south, the frames "?1"? are missing: 3 of 4/),
      count: 26,
    });
    expect(told(without("walk_N_01.png", "walk_N_02.png", "walk_N_03.png", "walk_N_04.png")).words).toMatch(
      /Nothing is drawn of walk north/,
    );
    const one = frames[0]?.image ?? fail();
    expect(told(new Map([...all, ["idle_S_03.png", one]])).words).toMatch(/idle south has 3 frames, and 2 in the rig/);
    expect(told(new Map([...all, ["notes.png", one]])).words).toMatch(
      /"notes" does not have the form "\{animation\}_\{facing\}_\{frame\}"/,
    );
    expect(told(new Map([...all, ["wlak_S_01.png", one]])).words).toMatch(
      /"wlak", in the name "wlak_S_01", is no animation of the rig\. Write "walk"/,
    );
    expect(told(new Map([["idle_D_01.png", one]])).words).toMatch(/"D".*no facing.*in "names"/);
    expect(told(new Map([["idle_D_01.png", one]]), { names: { D: "south" } }).words).toMatch(/^Hat: Of idle south/);
  });
});

describe("packed pictures with a table", () => {
  const cut = frames.map((drawn) => ({ ...drawn, cut: trimmed(drawn.image) }));
  const sheet = laidOut(
    6 * cut.length,
    8,
    cut.map(({ cut: { image } }, at) => ({ image, x: at * 6, y: 0 })),
  );
  const nameOf = ({ animation, facing, frame }: Drawn) => `${animation}/${facing} ${frame}.png`;
  const options = { pattern: "{animation}/{facing} {frame}" };
  const engine = cut.map((each, at) => ({
    filename: nameOf(each),
    frame: { x: at * 6, y: 0, w: each.cut.image.width, h: each.cut.image.height },
    rotated: false,
    trimmed: true,
    spriteSourceSize: { x: each.cut.x, y: each.cut.y, w: each.cut.image.width, h: each.cut.image.height },
    sourceSize: { w: 6, h: 8 },
  }));
  const fromTable = (table: unknown, more = {}) =>
    planned(
      readTable("Hat.png", sheet, typeof table === "string" ? table : JSON.stringify(table), courier, {
        ...options,
        ...more,
      }),
    );

  test("in the JSON form of game engines, as a list, a map or pages, become parts", () => {
    const meta = { image: "hat.png", scale: "1" };
    expectImported(fromTable({ frames: engine, meta }));
    expectImported(
      fromTable({ frames: Object.fromEntries(engine.map(({ filename, ...each }) => [filename, each])), meta }),
    );
    expectImported(fromTable({ textures: [{ image: "hat.png", frames: engine }], meta }));
    const pages = fromTable({ textures: [{ frames: engine.slice(3) }, { frames: engine.slice(0, 3) }] });
    expect(pages.problems.map(described).join()).toMatch(/3 more pictures are listed on further pages/);
  });

  test("pictures that lie turned are set upright, and feet lie on the origin", () => {
    const turned = createImage(8 * cut.length, 6);
    for (const [
      at,
      {
        cut: { image },
      },
    ] of cut.entries())
      for (let y = 0; y < image.height; y += 1)
        for (let x = 0; x < image.width; x += 1)
          pasteImage(turned, cropImage(image, { x, y, width: 1, height: 1 }), at * 8 + image.height - 1 - y, x);
    const table = engine.map((each, at) => ({ ...each, rotated: true, frame: { ...each.frame, x: at * 8 } }));
    const found = readTable("Hat.png", turned, JSON.stringify({ frames: table }), courier, options);
    expectImported(planned(found));
    const hung = engine.map(({ sourceSize, spriteSourceSize, ...each }) => ({
      ...each,
      anchor: { x: (3 - spriteSourceSize.x) / each.frame.w, y: (8 - spriteSourceSize.y) / each.frame.h },
    }));
    expectImported(fromTable({ frames: hung }));
  });

  test("in any text with a rectangle in each line, become parts", () => {
    const lines = cut.map(
      (each, at) =>
        `${nameOf(each)}:  ${at * 6} 0 ${each.cut.image.width} ${each.cut.image.height} ; ${3 - each.cut.x} ${8 - each.cut.y}`,
    );
    const pattern = "{name}: {x} {y} {width} {height} ; {feet-x} {feet-y}";
    expectImported(fromTable(["# made by hand", "", ...lines].join("\r\n"), { lines: pattern }));
    expect(
      fromTable([...lines, "what?"].join("\n"), { lines: pattern })
        .problems.map(described)
        .join(),
    ).toMatch(/Line 28 of the table.*: what\?/);
    expect(fromTable("idle 1 2").problems.map(described).join()).toMatch(
      /the pattern of its lines is not given\. Give the pattern/,
    );
    const corners = cut.map(
      (each, at) =>
        `${nameOf(each)} ${at * 6} 0 ${each.cut.image.width} ${each.cut.image.height} ${each.cut.x} ${each.cut.y}`,
    );
    expectImported(fromTable(corners.join("\n"), { lines: "{name} {x} {y} {width} {height} {left} {top}" }));
  });

  test("in our own form, as a bake writes it, become parts again", () => {
    const { look, images } = plainly(plainSheet(frames));
    const worn = { ...look, layers: look.layers.filter(({ part }) => part !== undefined) };
    const { image, table } = bakeSheet(worn, images, { packed: true, facings: [...facings] });
    expectImported(planned(readTable("Hat.png", image, JSON.stringify(table), courier, options)));
    const broken = readTable(
      "Hat.png",
      image,
      '{ "mantle": "frames/1", "frames": [{ "rect": [0, 0, 1] }] }',
      courier,
      options,
    );
    expect(broken.problems.map(described).join()).toMatch(/frames\/0\/rect/);
  });
});

describe("figures between gaps", () => {
  const block = (width: number, height: number, color = [10, 20, 30, 255]) => laidOut(width, height, [], color);

  test("regions are those that a plain flood fill finds", () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 96, maxLength: 96 }), fc.nat(2), (bits, gap) => {
        const image = createImage(12, 8);
        for (const [at, isDrawn] of bits.entries()) if (isDrawn) image.data[at * 4 + 3] = 255;
        const found = findRegions(image, gap).map(({ x, y, width, height, count }) =>
          [x, y, width, height, count].join(),
        );
        expect(found.sort()).toEqual(floodFill(image, gap).sort());
      }),
      runs(300),
    );
  });

  test("are found row by row, what is near with them, each without the pixels of its neighbors", () => {
    const image = laidOut(60, 60, [
      { image: block(12, 16), x: 2, y: 4 },
      { image: block(10, 14, [9, 9, 9, 200]), x: 30, y: 6 },
      // The shadow of the first, and a spark of the second.
      { image: block(8, 2, [0, 0, 0, 90]), x: 4, y: 21 },
      { image: block(1, 1), x: 41, y: 8 },
      { image: block(12, 16), x: 5, y: 40 },
    ]);
    const { rows, problems } = findFigures("Hats.png", image);
    expect(rows.map((row) => row.map(({ x, y, width, height }) => [x, y, width, height]))).toEqual([
      [
        [2, 4, 12, 19],
        [30, 6, 12, 14],
      ],
      [[5, 40, 12, 16]],
    ]);
    // Nobody draws what is of one color all over.
    expect(problems.map(({ code }) => code)).toEqual(["patch", "patch", "patch"]);
  });

  test("specks and patches of background are told with their place, and left out only when that is said", () => {
    const round = laidOut(
      20,
      20,
      Array.from({ length: 20 }, (_, y) => ({ image: block(4 + (y % 7), 1, [y, 1, 2, 255]), x: 0, y })),
    );
    const image = laidOut(80, 30, [
      { image: round, x: 2, y: 2 },
      { image: block(2, 1), x: 70, y: 5 },
      { image: block(12, 12, [255, 0, 255, 255]), x: 40, y: 4 },
    ]);
    const told = (options = {}) => findFigures("Hats.png", image, options).problems.map(described);
    expect(told()).toEqual([
      expect.stringMatching(/A speck of 2 pixels is isolated at 70, 5\. Erase it, or set "drop" to 2/),
      expect.stringMatching(/A patch of 12×12 pixels at 40, 4 .*"blank" its color, #ff00ff/),
    ]);
    expect(told({ drop: 2 })).toHaveLength(1);
    expect(findFigures("Hats.png", image, { drop: 2 }).rows.flat()).toHaveLength(2);
  });

  test("become parts that are called as is said, or the frames of one", () => {
    const tight = (image: Image) => trimmed(image).image;
    const hats = laidOut(
      40,
      10,
      [0, 1, 2].map((at) => ({ image: block(5, 6, [at, 9, 9, 255]), x: 2 + at * 12, y: 2 })),
    );
    const found = readFigures("Hats.png", hats, courier, { called: ["Sou'wester", "Cap"] });
    expect(planned(found).parts.map(({ id, title }) => [id, title])).toEqual([
      ["sou-wester", "Sou'wester"],
      ["cap", "Cap"],
      ["hats-3", "Hats 3"],
    ]);
    expect(found.parts[0]?.layers[0]?.frames[0]?.at).toEqual({ x: 3 - 3, y: 8 - 6 });
    // Solid figures of nine rows, that stand with the middle of their bottom on the origin.
    const solid = frames.map((drawn) => ({
      ...drawn,
      image: laidOut(6, 8, [
        { image: block(4, 7, [drawn.frame, drawn.facing.length, drawn.animation.length, 255]), x: 1, y: 1 },
      ]),
    }));
    const lines = Object.keys(animations).flatMap((animation) => facings.map((facing) => `${animation} ${facing}`));
    const scattered = laidOut(
      60,
      120,
      solid.map(({ animation, facing, frame, image }) => ({
        image: tight(image),
        x: frame * 13 + 1,
        y: lines.indexOf(`${animation} ${facing}`) * 12 + (frame % 2),
      })),
    );
    expectImported(planned(readFigures("Hat.png", scattered, courier, { as: "frames" })), solid);
    expect(readFigures("Hat.png", hats, courier, { as: "frames" }).problems.map(described).join()).toMatch(
      /are in 1 rows/,
    );
  });
});

/** Regions by the slowest way: every pixel, and all that can be reached from it. */
function floodFill({ width, height, data }: Image, gap: number): string[] {
  const seen = new Set<number>();
  const isDrawn = (x: number, y: number) =>
    x >= 0 && y >= 0 && x < width && y < height && (data[(y * width + x) * 4 + 3] ?? 0) > 0;
  const found: string[] = [];
  for (let start = 0; start < width * height; start += 1) {
    if (seen.has(start) || !isDrawn(start % width, Math.floor(start / width))) continue;
    const open = [start];
    const own: number[] = [];
    seen.add(start);
    while (open.length > 0) {
      const at = open.pop() ?? 0;
      own.push(at);
      for (let dy = -gap - 1; dy <= gap + 1; dy += 1)
        for (let dx = -gap - 1; dx <= gap + 1; dx += 1) {
          const [x, y] = [(at % width) + dx, Math.floor(at / width) + dy];
          if (!isDrawn(x, y) || seen.has(y * width + x)) continue;
          seen.add(y * width + x);
          open.push(y * width + x);
        }
    }
    const [xs, ys] = [own.map((at) => at % width), own.map((at) => Math.floor(at / width))];
    const [left, top] = [Math.min(...xs), Math.min(...ys)];
    found.push([left, top, Math.max(...xs) - left + 1, Math.max(...ys) - top + 1, own.length].join());
  }
  return found;
}

describe("drawings in layers", () => {
  const guide = cropImage(body, { x: 0, y: 0, width: 6, height: 8 });
  const [hat, coat, lining] = drawnFrames(9).map(({ image }) => image);
  if (hat === undefined || coat === undefined || lining === undefined) throw new Error("not drawn");
  const slots = new Set(catalog.slots.keys());
  const bare = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
  const figure = composeFrame(bare, new Map([["body.png", body]]), { animation: "idle", facing: "south", time: 0 });
  /** What a painter would see: layers over one another, each rounded once. */
  const painted = (
    width: number,
    height: number,
    layers: readonly { image: Image; x: number; y: number; opacity?: number }[],
  ) => {
    const whole = createImage(width, height);
    for (const { image, x, y, opacity = 1 } of layers)
      for (let at = 0; at < image.width * image.height; at += 1) {
        const [left, top] = [x + (at % image.width), y + Math.floor(at / image.width)];
        if (left < 0 || top < 0 || left >= width || top >= height) continue;
        const over = image.data.subarray(at * 4, at * 4 + 4);
        const under = whole.data.subarray((top * width + left) * 4, (top * width + left) * 4 + 4);
        const alpha = Math.round((over[3] ?? 0) * opacity) / 255;
        const rest = ((under[3] ?? 0) / 255) * (1 - alpha);
        if (alpha + rest === 0) continue;
        whole.data.set(
          [0, 1, 2]
            .map((channel) =>
              Math.round(((over[channel] ?? 0) * alpha + (under[channel] ?? 0) * rest) / (alpha + rest)),
            )
            .concat(Math.round((alpha + rest) * 255)),
          (top * width + left) * 4,
        );
      }
    return whole;
  };
  const place = { x: 7, y: 9 };
  const layers: readonly DrawnLayer[] = [
    {
      name: "Hat",
      layers: [
        { name: "Storm Hat", image: trimmed(hat).image, x: place.x + trimmed(hat).x, y: place.y + trimmed(hat).y },
        { name: "Rain cap", image: lining, ...place, hidden: true },
      ],
    },
    {
      name: "coat",
      layers: [
        {
          name: "Oil coat",
          opacity: 0.5,
          layers: [
            { name: "front", image: coat, ...place },
            { name: "inside", image: lining, ...place, opacity: 0.8 },
          ],
        },
      ],
    },
    { name: "Body", image: guide, ...place },
  ];
  const whole = painted(20, 17, [
    { image: guide, ...place },
    { image: lining, ...place, opacity: 0.4 },
    { image: coat, ...place, opacity: 0.5 },
    { image: hat, ...place },
  ]);

  test.each([
    ["deflated", {}],
    ["stored, without a thumbnail", { compress: false, thumbnail: false }],
    ["with a comment", { extra: "<!-- painted by hand -->" }],
  ])(
    "%s: groups are slots, layers are parts, at their place on the rig; worn, they are the picture of the whole",
    async (_name, more) => {
      const bytes = await writeDrawing({ width: 20, height: 17, layers, whole, ...more });
      const found = readDrawing("Courier.ora", bytes, courier, { slots, figure });
      expect(found.problems.map(described)).toEqual([]);
      const plan = planImport(catalog, found, { rig: courier });
      expect(plan.parts.map(({ id, slot, layers: own }) => [id, slot, own.length])).toEqual([
        ["oil-coat", "coat", 2],
        ["rain-cap", "hat", 1],
        ["storm-hat", "hat", 1],
      ]);
      const { catalog: all, images } = withPlan(plan);
      const wearing = edited(all, createCharacter(all, { body: "plain" }), { wear: "storm-hat" }, { wear: "oil-coat" });
      const frame = composeFrame(resolveLook(all, wearing), images, { animation: "idle", facing: "south", time: 0 });
      const expected = cropImage(whole, { ...place, width: 6, height: 8 });
      const off = frame.data.filter(
        (value, at) => Math.abs(value - (expected.data[at] ?? 0)) > ((expected.data[at | 3] ?? 0) > 64 ? 2 : 16),
      );
      expect(off).toHaveLength(0);
    },
  );

  test("without a guide, the feet of the canvas are those of the rig; a corner can be said", async () => {
    const at = async (width: number, height: number, more = {}) => {
      const bytes = await writeDrawing({
        width,
        height,
        layers: [{ name: "Hat", layers: [{ name: "Cap", image: hat, x: 2, y: 3 }] }],
      });
      return readDrawing("Hats.ora", bytes, courier, { slots, ...more }).parts[0]?.layers[0]?.frames[0]?.at;
    };
    expect([await at(6, 8), await at(10, 12), await at(10, 12, { corner: [0, 1] })]).toEqual([
      { x: 2, y: 3 },
      { x: 0, y: -1 },
      { x: 2, y: 2 },
    ]);
  });

  test("a canvas that is a whole sheet is cut as one", async () => {
    const bytes = await writeDrawing({
      width: 24,
      height: 72,
      layers: [{ name: "Hat", layers: [{ name: "Cap", image: plainSheet(frames) }] }],
    });
    expectImported(
      planImport(catalog, readDrawing("Hats.ora", bytes, courier, { slots, sheet: {} }), { rig: courier }),
    );
  });

  test("another way of blending is refused by its name and the layer's, and the other parts are there", async () => {
    const mixed = await writeDrawing({
      width: 6,
      height: 8,
      layers: [
        {
          name: "Hat",
          layers: [
            { name: "Glow", image: hat, blending: "svg:plus" },
            { name: "Cap", image: hat },
          ],
        },
      ],
    });
    const found = readDrawing("Hats.ora", mixed, courier, { slots });
    expect(found.problems.map(described)).toEqual([
      'Glow: The layer "Glow" is blended by "plus", which cannot be kept in a part. Merge it into another layer, or set it to normal.',
    ]);
    expect(found.parts.map(({ name }) => name)).toEqual(["Cap"]);
  });

  test("layers that do not come to the picture of the whole are told", async () => {
    const bytes = await writeDrawing({ width: 6, height: 8, layers: [{ name: "Cap", image: hat }], whole: coat });
    expect(readDrawing("Hats.ora", bytes, courier, { slots }).problems.map(({ code }) => code)).toEqual([
      "drawing-mismatch",
    ]);
  });

  test("what is no drawing, lies about itself or is too large is refused", async () => {
    const good = await writeDrawing({ width: 6, height: 8, layers: [{ name: "Cap", image: hat }] });
    const refusal = (bytes: Uint8Array) => {
      try {
        return readDrawing("Hats.ora", bytes, courier, { slots }).parts.length;
      } catch (error) {
        return String(error instanceof Error && "code" in error ? `${String(error.code)} ${error.message}` : error);
      }
    };
    expect(refusal(good)).toBe(1);
    expect(refusal(good.subarray(0, 60))).toMatch(/bad-drawing Hats\.ora: .*no zip/);
    expect(refusal(Uint8Array.of(1, 2, 3))).toMatch(/bad-drawing/);
    for (const [xml, words] of [
      ["<image w='1' h='1'><stack></image>", /no XML/],
      ["<!DOCTYPE image [<!ENTITY a 'b'>]><image w='1' h='1'><stack/></image>", /document type/],
      ["<picture/>", /has no image/],
      ["<image w='0' h='1'/>", /how large the canvas is/],
      [`<image w='1' h='1'>${"<stack>".repeat(40)}${"</stack>".repeat(40)}</image>`, /too deep/],
      ["<image w='1' h='1'><stack><layer name='a' src='gone.png'/></stack></image>", /gone\.png is missing/],
    ] as const)
      expect(refusal(zipOf("stack.xml", Buffer.from(xml)))).toMatch(words);
    // A gigabyte of nothing in a few bytes.
    expect(refusal(zipOf("data/a.png", Buffer.alloc(1_000), 1_000_000_000))).toMatch(/more than drawings may have/);
  });
});

/** A zip of one file, deflated, whose size may be a lie. */
function zipOf(name: string, content: Buffer, size = content.length): Buffer {
  const packed = deflateRawSync(content);
  const local = Buffer.alloc(30);
  local.writeUInt32LE(0x04034b50, 0);
  local.writeUInt16LE(8, 8);
  local.writeUInt32LE(packed.length, 18);
  local.writeUInt32LE(size, 22);
  local.writeUInt16LE(name.length, 26);
  const central = Buffer.alloc(46);
  central.writeUInt32LE(0x02014b50, 0);
  central.writeUInt16LE(8, 10);
  central.writeUInt32LE(packed.length, 20);
  central.writeUInt32LE(size, 24);
  central.writeUInt16LE(name.length, 28);
  const start = local.length + name.length + packed.length;
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length + name.length, 12);
  end.writeUInt32LE(start, 16);
  return Buffer.concat([local, Buffer.from(name), packed, central, Buffer.from(name), end]);
}

describe("derived art", () => {
  /** The same frames with each color exchanged for another. */
  const recolored = (change: (red: number, green: number, blue: number) => readonly number[]) =>
    plainSheet(
      frames.map((drawn) => {
        const image = createImage(6, 8);
        for (let at = 0; at < image.data.length; at += 4) {
          const [red = 0, green = 0, blue = 0, alpha = 0] = drawn.image.data.subarray(at, at + 4);
          // Few colors, as in what is drawn for a ramp.
          image.data.set([...change(red >> 7, green >> 7, blue >> 7), alpha], at);
        }
        return { ...drawn, image };
      }),
    );
  const blue = recolored((red, green, other) => [red * 10, green * 10, 100 + other * 50]);
  const found = (...sheets: readonly Image[]): Found => ({
    parts: sheets.flatMap((sheet, at) => readSheet(`Hat ${"abc"[at]}.png`, sheet, courier).parts),
    problems: [],
  });

  test("a part that is another in other colors is proposed as a channel, with its key and the ramp", () => {
    const red = recolored((first, second, third) => [100 + third * 50, first * 20, second * 20]);
    const [problem, ...others] = planned(found(blue, red)).problems;
    expect(others).toEqual([]);
    expect(problem && described(problem)).toMatch(
      /"Hat b" is "Hat a" in other colors: 8 of them.*key is "#000064".*and give that the ramp "#640000"/,
    );
    expect([problem?.fixes[0]?.params["key"], problem?.fixes[0]?.params["ramp"]].flat()).toHaveLength(16);
  });

  test("an equal picture is told; one of another shape, or whose colors do not stand one for one, is not", () => {
    expect(planned(found(blue, blue)).problems.map(described)).toEqual([
      expect.stringMatching(/"Hat b" is the same picture as "Hat a"/),
    ]);
    const gray = recolored((red) => [red * 9, red * 9, red * 9]);
    const other = laidOut(24, 72, [{ image: blue, x: 1, y: 0 }]);
    expect(planned(found(blue, gray, other)).problems).toEqual([]);
  });
});

describe("the contact sheet", () => {
  test("shows every frame of a facing with names on it, and nothing for a facing without any", () => {
    const found = readSheet("Hat.png", plainSheet(frames.filter(({ facing }) => facing !== "north")), courier);
    const sheet = (facing: string) => contactSheet(found.parts, facing, { rig: courier, scale: 4 });
    const south = sheet("south") ?? fail();
    expect(sheet("north")).toBeUndefined();
    // Of very many parts, as many as a picture can hold.
    const many = Array.from({ length: 3_000 }, (_, at) => ({ ...(found.parts[0] ?? fail()), name: `hat ${at}` }));
    expect(contactSheet(many, "south", { rig: courier, scale: 8 })?.height).toBeLessThan(12_100);
    // Each frame is somewhere on it, pixel by pixel, where it is opaque.
    for (const { image } of frames.filter(({ facing }) => facing === "south")) expect(holds(south, image)).toBe(true);
    expect(holds(south, frames.find(({ facing }) => facing === "west")?.image ?? fail())).toBe(false);
  });
});

function holds(sheet: Image, drawn: Image): boolean {
  const image = enlargeImage(drawn, 4);
  // The number of the frame is written into its corner.
  const opaque = Array.from({ length: image.width * image.height }, (_, at) => at).filter(
    (at) => image.data[at * 4 + 3] === 255 && at % image.width > 10 && at > image.width * 10,
  );
  for (let y = 0; y <= sheet.height - image.height; y += 1)
    for (let x = 0; x <= sheet.width - image.width; x += 1) {
      const isThere = opaque.every((at) => {
        const on = ((y + Math.floor(at / image.width)) * sheet.width + x + (at % image.width)) * 4;
        return [0, 1, 2].every((channel) => sheet.data[on + channel] === image.data[at * 4 + channel]);
      });
      if (isThere) return true;
    }
  return false;
}
