import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { afterAll, describe, expect, test } from "@jest/globals";
import {
  type Catalog,
  createImage,
  cropImage,
  enlargeImage,
  type Image,
  type Problem,
  pasteImage,
  readCatalog,
} from "zealous-mantle";
import { checkArt, decodePng, surveyArt } from "zealous-mantle/authoring";
import { demoFolder } from "../demo-catalog.ts";
import { described } from "../in-words.ts";

/** The demo with one body and some of its parts: what is broken below. */
const worn = [
  "breeches",
  "long-trousers",
  "sea-boots",
  "low-boots",
  "sandals",
  "clogs",
  "jersey",
  "striped-shirt",
  "sleeveless",
  "waistcoat",
  "oilskin",
  "linen-shirt",
];

type Json = Record<string, Record<string, object>>;

const read = async (file: string): Promise<Json> => JSON.parse(await readFile(join(demoFolder, file), "utf8"));
const main = await read("catalog.json");
const clothes = await read("parts/clothes.json");
const parts = Object.fromEntries(Object.entries(clothes["parts"] ?? {}).filter(([id]) => worn.includes(id)));
const slots = Object.fromEntries(
  [...new Set(Object.values(parts).map((part) => String(Reflect.get(part, "slot"))))].map((slot) => [
    slot,
    { kind: "gear" },
  ]),
);
const rigs = structuredClone(main["rigs"]) ?? {};
for (const rig of Object.values(rigs)) {
  Reflect.deleteProperty(rig, "points");
  Reflect.deleteProperty(rig, "twins");
  for (const crop of Object.values(Object(rig).crops)) Reflect.deleteProperty(Object(crop), "point");
}
const reed = { ...main["bodies"]?.["reed"], growsInto: undefined };
const { catalog, problems } = readCatalog({
  mantle: "catalog/1",
  id: "broken",
  version: "1",
  rigs,
  slots,
  ramps: main["ramps"],
  channels: main["channels"],
  bodies: { reed: JSON.parse(JSON.stringify(reed)) },
  parts: Object.fromEntries(
    Object.entries(parts).map(([id, part]) => [
      id,
      { slot: Reflect.get(part, "slot"), layers: Reflect.get(part, "layers") },
    ]),
  ),
});
if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
const whole: Catalog = catalog;
const rig = whole.rigs.get("courier");
if (rig === undefined) throw new Error("no rig");

const paths = new Set<string>();
checkArt(whole, new Map()).map(({ place }) => paths.add(place.file ?? ""));
const pictures = new Map<string, Image>();
for (const path of paths) pictures.set(path, decodePng(await readFile(join(demoFolder, path))));

const facings = ["south", "west", "north"];
const animations = [...rig.animations.values()];
const row = (animation: string, facing: string) =>
  animations.findIndex(({ id }) => id === animation) * 3 + facings.indexOf(facing);
const cellAt = (animation: string, facing: string, frame: number) => ({
  x: frame * 64,
  y: row(animation, facing) * 80,
  width: 64,
  height: 80,
});
const art = (name: string) => `art/reed/${name}.png`;

/** A copy of a picture in which something was changed. */
function changed(image: Image, change: (copy: Image) => void): Image {
  const copy = createImage(image.width, image.height);
  copy.data.set(image.data);
  change(copy);
  return copy;
}

function clear(image: Image, { x, y, width, height }: { x: number; y: number; width: number; height: number }): void {
  pasteImage(image, createImage(width, height), x, y);
}

function put(image: Image, cell: Image, { x, y }: { x: number; y: number }): void {
  pasteImage(image, cell, x, y);
}

/** Puts cells in the place of others, each taken from the picture as it was. */
function exchange(
  image: Image,
  pairs: readonly (readonly [from: ReturnType<typeof cellAt>, to: ReturnType<typeof cellAt>])[],
): void {
  const cut = pairs.map(([from, to]) => ({ cell: cropImage(image, from), to }));
  for (const { cell, to } of cut) put(image, cell, to);
}

const frames = (animation: string) => Array.from({ length: rig.animations.get(animation)?.frames ?? 0 }, (_, at) => at);

interface Fault {
  readonly kind: string;
  /** What is broken: the picture of a part. */
  readonly part: string;
  readonly picture: string;
  readonly change: (image: Image) => Image;
  /** The finding that names it. */
  readonly code: string;
}

/** One kind of fault in several pictures. */
function each(
  kind: string,
  code: string,
  where: readonly (readonly [part: string, picture?: string])[],
  change: (image: Image, part: string) => Image,
): readonly Fault[] {
  return where.map(([part, picture = part]) => ({
    kind,
    code,
    part,
    picture: art(picture),
    change: (image) => change(image, part),
  }));
}

/** Every cell at half its size, with the middle of its bottom where it was. */
function halved(image: Image): Image {
  return changed(image, (copy) => {
    clear(copy, { x: 0, y: 0, width: 512, height: 1440 });
    for (let cell = 0; cell < 8 * 18; cell += 1) {
      const [left, top] = [(cell % 8) * 64, Math.floor(cell / 8) * 80];
      for (let at = 0; at < 32 * 40; at += 1) {
        const [x, y] = [at % 32, Math.floor(at / 32)];
        const from = ((top + y * 2) * 512 + left + x * 2) * 4;
        copy.data.set(image.data.subarray(from, from + 4), ((top + y + 38) * 512 + left + x + 16) * 4);
      }
    }
  });
}

const legs = [["breeches"], ["long-trousers"], ["sea-boots"], ["low-boots"]] as const;
const tops = [["jersey"], ["striped-shirt"], ["linen-shirt"], ["sleeveless"]] as const;
const keyed = [["breeches"], ["jersey"], ["striped-shirt"], ["oilskin"]] as const;

const faults: readonly Fault[] = [
  ...each("an emptied cell", "blank-frame", [...legs, ...tops], (image) =>
    changed(image, (copy) => clear(copy, cellAt("walk", "south", 3))),
  ),
  ...each("an animation that was not drawn", "blank-series", [...tops, ["breeches"], ["oilskin"]], (image) =>
    changed(image, (copy) => {
      for (const facing of facings) clear(copy, { ...cellAt("hail", facing, 0), width: 512 });
    }),
  ),
  ...each("a facing that was not drawn", "blank-series", tops, (image) =>
    changed(image, (copy) => clear(copy, { ...cellAt("row", "west", 0), width: 512 })),
  ),
  ...each("reversed frames", "frames-exchanged", [["long-trousers"], ["low-boots"], ["sandals"]], (image) =>
    changed(image, (copy) =>
      exchange(
        copy,
        frames("walk").map((frame) => [cellAt("walk", "west", frame), cellAt("walk", "west", 7 - frame)]),
      ),
    ),
  ),
  ...each("frames that begin elsewhere", "frames-exchanged", [["low-boots"], ["long-trousers"], ["sandals"]], (image) =>
    changed(image, (copy) =>
      exchange(
        copy,
        frames("walk").map((frame) => [cellAt("walk", "west", frame), cellAt("walk", "west", (frame + 2) % 8)]),
      ),
    ),
  ),
  ...each(
    "exchanged facings",
    "series-exchanged",
    [["breeches"], ["jersey"], ["sandals"], ["long-trousers"]],
    (image) =>
      changed(image, (copy) =>
        exchange(
          copy,
          frames("walk").flatMap(
            (frame) =>
              [
                [cellAt("walk", "south", frame), cellAt("walk", "west", frame)],
                [cellAt("walk", "west", frame), cellAt("walk", "south", frame)],
              ] as const,
          ),
        ),
      ),
  ),
  ...each(
    "exchanged animations",
    "series-exchanged",
    [["jersey"], ["striped-shirt"], ["sandals"], ["low-boots"]],
    (image) =>
      changed(image, (copy) =>
        exchange(
          copy,
          frames("walk").flatMap(
            (frame) =>
              [
                [cellAt("walk", "west", frame), cellAt("trudge", "west", frame)],
                [cellAt("trudge", "west", frame), cellAt("walk", "west", frame)],
              ] as const,
          ),
        ),
      ),
  ),
  ...each(
    "the wrong picture",
    "same-picture",
    [["breeches", "breeches"], ["long-trousers"], ["jersey"], ["sandals"]],
    (_image, part) => pictures.get(art(part === "sandals" ? "striped-shirt" : "low-boots")) ?? createImage(1, 1),
  ),
  ...each("a border of one pixel", "cut-by-frame", [["breeches"], ["jersey"], ["clogs"], ["oilskin"]], (image) =>
    changed(image, (copy) => {
      for (let at = 0; at < 512 * 1440; at += 1) {
        const [x, y] = [at % 512, Math.floor(at / 512)];
        if (x % 64 === 0 || y % 80 === 0) copy.data.set([255, 0, 0, 255], at * 4);
      }
    }),
  ),
  ...each("a grid that is half a cell off", "cut-by-frame", [["breeches"], ["jersey"], ["oilskin"]], (image) =>
    changed(image, (copy) => {
      clear(copy, { x: 0, y: 0, width: 512, height: 1440 });
      pasteImage(copy, image, 32, 30);
    }),
  ),
  ...each("a patch of background", "patch-left", [["breeches"], ["jersey"], ["clogs"], ["oilskin"]], (image) =>
    changed(image, (copy) => {
      const patch = createImage(12, 10);
      for (let at = 0; at < patch.data.length; at += 4) patch.data.set([200, 200, 210, 255], at);
      put(copy, patch, { x: 64 + 4, y: 80 + 4 });
    }),
  ),
  ...each("an island", "stray-pixels", [["breeches"], ["jersey"], ["clogs"], ["oilskin"], ["sandals"]], (image) =>
    changed(image, (copy) => {
      const { x, y } = cellAt("walk", "south", 5);
      for (const [dx, dy] of [
        [5, 6],
        [6, 6],
        [5, 7],
      ] as const)
        copy.data.set([20, 20, 20, 255], ((y + dy) * 512 + x + dx) * 4);
    }),
  ),
  ...each("a color off the key", "color-near-key", keyed, (image) =>
    changed(image, (copy) => {
      for (let at = 0; at < copy.data.length; at += 4)
        if (copy.data[at] === 0x6e && copy.data[at + 3] === 255 && at % 3 === 0) copy.data[at] = 0x6c;
    }),
  ),
  ...each("a color forgotten in one animation", "animation-off-key", keyed, (image) =>
    changed(image, (copy) => {
      for (let y = row("row", "south") * 80; y < (row("row", "north") + 1) * 80; y += 1)
        for (let x = 0; x < 512; x += 1) {
          const at = (y * 512 + x) * 4;
          if (copy.data[at + 3] === 255) copy.data.set([(copy.data[at] ?? 0) >> 1, 60, 140, 255], at);
        }
    }),
  ),
  ...each("drawn at half its size", "part-away", [["sandals"], ["low-boots"], ["clogs"]], (image) =>
    changed(image, (copy) => {
      clear(copy, { x: 0, y: 0, width: 512, height: 1440 });
      for (let cell = 0; cell < 8 * 18; cell += 1) {
        const [left, top] = [(cell % 8) * 64, Math.floor(cell / 8) * 80];
        for (let at = 0; at < 32 * 40; at += 1) {
          const [x, y] = [at % 32, Math.floor(at / 32)];
          const from = ((top + y * 2) * 512 + left + x * 2) * 4;
          copy.data.set(image.data.subarray(from, from + 4), ((top + y) * 512 + left + x) * 4);
        }
      }
    }),
  ),
  ...each("drawn for another scale, on its feet", "part-small", [["clogs"]], halved),
  ...each(
    "moved off the figure in one frame",
    "part-floats",
    [["sandals"], ["low-boots"], ["clogs"], ["waistcoat"]],
    (image, part) =>
      changed(image, (copy) => {
        const place = cellAt("walk", "west", 2);
        const cell = cropImage(image, place);
        clear(copy, place);
        // As far as the cell has room.
        const moved = createImage(64, 80);
        pasteImage(moved, cell, part === "waistcoat" ? 27 : -18, part === "waistcoat" ? 0 : -62);
        put(copy, moved, place);
      }),
  ),
  ...["breeches", "jersey", "oilskin", "waistcoat"].map(
    (part): Fault => ({
      kind: "baked into the body",
      code: "part-baked-in",
      part,
      picture: art("body"),
      change: (image) =>
        changed(image, (copy) => {
          const layers = whole.parts.get(part)?.layers.map((layer) => layer.image.replaceAll("{body}", "reed")) ?? [];
          for (const path of layers) {
            const own = pictures.get(path);
            for (let at = 0; own !== undefined && at < own.data.length; at += 4)
              if (own.data[at + 3] === 255) copy.data.set(own.data.subarray(at, at + 4), at);
          }
        }),
    }),
  ),
  ...each("rows for columns", "grid-mismatch", [["breeches"], ["jersey"]], (image) =>
    createImage((image.height / 80) * 64, (image.width / 64) * 80),
  ),
  ...each("an animation's rows that are missing", "grid-mismatch", [["breeches"], ["jersey"], ["clogs"]], (image) =>
    cropImage(image, { x: 0, y: 0, width: 512, height: 1440 - 240 }),
  ),
  ...each("twice the size", "grid-mismatch", [["sandals"], ["clogs"]], (image) => enlargeImage(image, 2)),
];

const sizesOf = (images: ReadonlyMap<string, Image>) =>
  new Map([...images].map(([path, { width, height }]) => [path, { width, height }]));

/** Everything that is found: in sizes first, as the command line does it. */
async function findAll(images: ReadonlyMap<string, Image>, only?: ReadonlySet<string>): Promise<readonly Problem[]> {
  const sized = checkArt(whole, sizesOf(images));
  if (sized.length > 0) return sized;
  return surveyArt(whole, async (path) => images.get(path), only === undefined ? {} : { parts: only });
}

/** The parts that one is compared with, where that matters. */
const compared = (part: string, code: string) =>
  !["same-picture", "part-away", "part-small"].includes(code)
    ? new Set([part])
    : new Set([
        "low-boots",
        "striped-shirt",
        part,
        ...(["sandals", "low-boots", "clogs"].includes(part) ? ["sea-boots", "sandals", "clogs"] : []),
      ]);

const counts = new Map<string, { found: number; all: number }>();

describe("seeded faults", () => {
  test("there are more than sixty, and nothing is found in what is not broken", async () => {
    expect(faults.length).toBeGreaterThanOrEqual(60);
    expect((await findAll(pictures)).map(described)).toEqual([]);
  });

  test.each(faults.map((fault): [string, Fault] => [`${fault.kind} of ${fault.part}`, fault]))(
    "%s",
    async (_name, { kind, part, picture, change, code }) => {
      const image = pictures.get(picture);
      if (image === undefined) throw new Error(`There is no ${picture}`);
      const broken = new Map(pictures).set(picture, change(image));
      // A part that was drawn for another scale was in all of its layers; the first of them is named.
      const layers = code === "part-small" ? (whole.parts.get(part)?.layers ?? []) : [];
      const own = layers.map((layer) => layer.image.replaceAll("{body}", "reed"));
      for (const path of own) broken.set(path, change(pictures.get(path) ?? image));
      const named = own[0] ?? picture;
      const found = await findAll(broken, compared(part, code));
      const count = counts.get(kind) ?? { found: 0, all: 0 };
      const isNamed = found.some((problem) => problem.code === code && problem.place.file === named);
      counts.set(kind, { found: count.found + (isNamed ? 1 : 0), all: count.all + 1 });
      expect(found.map((problem) => [problem.code, problem.place.file])).toContainEqual([code, named]);
      expect(found.every(({ fixes }) => fixes.length > 0)).toBe(true);
    },
  );

  afterAll(() => {
    const lines = [...counts].map(([kind, { found, all }]) => `  ${kind}: ${found} of ${all}`);
    console.log(["Faults that are found, by their kind:", ...lines].join("\n"));
  });
});
