import { afterAll, describe, expect, test } from "@jest/globals";
import type { Image } from "zealous-mantle";
import { createImage, cropImage, enlargeImage, pasteImage } from "zealous-mantle/raster";
import { described } from "../../in-words.ts";
import {
  type Art,
  art,
  cellAt,
  changed,
  clear,
  exchange,
  facings,
  findAll,
  framesOf,
  isSame,
  laidOut,
  pictureIn,
  picturesOf,
  rowsExchanged,
  whole,
  withLayer,
  withPicture,
  withRig,
} from "./faults/broken-art.ts";
import { mend } from "./faults/mends.ts";

interface Fault {
  readonly kind: string;
  readonly part: string;
  /** The finding that names it, and the picture it names; no picture for one that is about the data. */
  readonly code: string;
  readonly named: string | undefined;
  readonly spoil: (art: Art) => Art;
}

/** One kind of fault in pictures of several parts. */
function each(kind: string, code: string, parts: readonly string[], change: (image: Image, part: string) => Image) {
  return parts.map((part): Fault => {
    const named = art(part);
    return { kind, part, code, named, spoil: (all) => withPicture(all, named, change(pictureIn(all, named), part)) };
  });
}

/** The same for what is changed in place, in a copy. */
function eachPainted(
  kind: string,
  code: string,
  parts: readonly string[],
  change: (copy: Image, part: string) => void,
) {
  return each(kind, code, parts, (image, part) => changed(image, (copy) => change(copy, part)));
}

/** Every cell at half its size; `left` and `top` say where in the cell it lies. */
function halved(image: Image, left: number, top: number): Image {
  const small = createImage(image.width, image.height);
  for (let at = 0; at < image.width * image.height; at += 1) {
    const [x, y] = [at % image.width, Math.floor(at / image.width)];
    const [column, row] = [(x % 64) - left, (y % 80) - top];
    if (column < 0 || row < 0 || column >= 32 || row >= 40) continue;
    const from = ((y - (y % 80) + row * 2) * image.width + (x - (x % 64)) + column * 2) * 4;
    small.data.set(image.data.subarray(from, from + 4), at * 4);
  }
  return small;
}

/** Where something of a part's picture lies that is opaque all around: a rectangle to be cut out. */
function inside(image: Image, cell: { x: number; y: number }): { x: number; y: number; width: number; height: number } {
  const isOpaque = (x: number, y: number) => image.data[(y * image.width + x) * 4 + 3] === 255;
  for (let at = 0; at < 58 * 74; at += 1) {
    const [x, y] = [cell.x + (at % 58), cell.y + Math.floor(at / 58)];
    if (Array.from({ length: 5 * 4 }, (_, n) => isOpaque(x + (n % 5), y + Math.floor(n / 5))).every(Boolean))
      return { x: x + 1, y: y + 1, width: 3, height: 2 };
  }
  throw new Error("Nothing is large enough.");
}

const keyed = ["breeches", "striped-shirt", "oilskin"];

const faults: readonly Fault[] = [
  ...eachPainted("an emptied cell", "blank-frame", ["breeches", "low-boots", "sleeveless"], (copy) =>
    clear(copy, cellAt("walk", "south", 3)),
  ),
  ...eachPainted("an animation that was not drawn", "blank-series", ["jersey", "breeches", "oilskin"], (copy) => {
    for (const facing of facings) clear(copy, cellAt("hail", facing));
  }),
  ...eachPainted("a facing that was not drawn", "blank-series", ["striped-shirt", "linen-shirt"], (copy) =>
    clear(copy, cellAt("row", "west")),
  ),
  ...each("reversed frames", "frames-exchanged", ["long-trousers", "low-boots", "sandals"], (copy) => {
    const at = (frame: number) => cellAt("walk", "west", frame);
    return exchange(
      copy,
      framesOf("walk").map((frame) => [at(frame), at(7 - frame)]),
    );
  }),
  ...each("frames that begin elsewhere", "frames-exchanged", ["low-boots", "long-trousers", "sandals"], (copy) => {
    const at = (frame: number) => cellAt("walk", "west", frame);
    return exchange(
      copy,
      framesOf("walk").map((frame) => [at(frame), at((frame + 2) % 8)]),
    );
  }),
  ...each("exchanged facings", "series-exchanged", ["breeches", "jersey", "sandals"], (copy) =>
    exchange(copy, rowsExchanged(cellAt("walk", "south"), cellAt("walk", "west"))),
  ),
  ...each("exchanged animations", "series-exchanged", ["striped-shirt", "sandals", "low-boots"], (copy) =>
    exchange(copy, rowsExchanged(cellAt("walk", "west"), cellAt("trudge", "west"))),
  ),
  ...each("the wrong picture", "same-picture", ["breeches", "jersey", "sandals"], (_copy, part) =>
    pictureIn(whole, art(part === "sandals" ? "striped-shirt" : "low-boots")),
  ),
  ...eachPainted("a border that is drawn in", "cut-by-frame", ["jersey", "clogs"], (copy) => {
    for (let at = 0; at < copy.width * copy.height; at += 1)
      if ((at % copy.width) % 64 === 0 || Math.floor(at / copy.width) % 80 === 0)
        copy.data.set([255, 0, 0, 255], at * 4);
  }),
  ...each("a border of one pixel around cells", "grid-mismatch", ["jersey", "clogs"], (copy) =>
    laidOut(copy, [copy.width + 9, copy.height + 13], (column, row) => [1 + column * 65, 1 + row * 81]),
  ),
  ...each("lines of two pixels between cells", "grid-mismatch", ["sandals"], (copy) =>
    laidOut(copy, [copy.width + 14, copy.height + 22], (column, row) => [column * 66, row * 82]),
  ),
  ...each("a grid that is half a cell off", "cut-by-frame", ["breeches", "jersey"], (copy) => {
    const moved = createImage(copy.width, copy.height);
    pasteImage(moved, copy, 32, 30);
    return moved;
  }),
  ...eachPainted("a patch of background", "patch-left", ["breeches", "clogs"], (copy) => {
    const patch = createImage(12, 10);
    for (let at = 0; at < patch.data.length; at += 4) patch.data.set([200, 200, 210, 255], at);
    pasteImage(copy, patch, 64 + 4, 80 + 4);
  }),
  ...eachPainted("an island", "stray-pixels", ["jersey", "oilskin", "sandals"], (copy) => {
    const { x, y } = cellAt("walk", "south", 5);
    for (const [dx, dy] of [
      [5, 6],
      [6, 6],
      [5, 7],
    ] as const)
      copy.data.set([20, 20, 20, 255], ((y + dy) * copy.width + x + dx) * 4);
  }),
  ...eachPainted("a color off the key", "color-near-key", keyed, (copy) => {
    for (let at = 0; at < copy.data.length; at += 4)
      if (copy.data[at] === 0x6e && copy.data[at + 3] === 255 && at % 3 === 0) copy.data[at] = 0x6c;
  }),
  ...eachPainted("a color forgotten in one animation", "animation-off-key", keyed, (copy) => {
    const { y } = cellAt("row", "south");
    for (let at = y * copy.width * 4; at < (y + 240) * copy.width * 4; at += 4)
      if (copy.data[at + 3] === 255) copy.data.set([(copy.data[at] ?? 0) >> 1, 60, 140, 255], at);
  }),
  ...eachPainted("half transparent edges", "soft-pixels", ["breeches", "clogs", "oilskin"], (copy) => {
    for (let at = 3; at < copy.data.length; at += 4) if (copy.data[at] === 255 && at % 7 === 0) copy.data[at] = 130;
  }),
  ...eachPainted("a hole", "shows-through", ["breeches", "jersey", "oilskin"], (copy) =>
    clear(copy, inside(copy, cellAt("walk", "south", 2))),
  ),
  ...each("drawn at half its size", "part-away", ["sandals", "low-boots", "clogs"], (copy) => halved(copy, 0, 0)),
  ...["clogs"].map((part) => ({
    kind: "drawn for another scale, on its feet",
    part,
    code: "part-small",
    named: picturesOf(part)[0],
    // Whoever drew it for another scale drew all of its layers so.
    spoil: (all: Art) =>
      picturesOf(part).reduce((sum, path) => withPicture(sum, path, halved(pictureIn(all, path), 16, 38)), all),
  })),
  ...eachPainted(
    "moved off the figure in one frame",
    "part-floats",
    ["sandals", "clogs", "waistcoat"],
    (copy, part) => {
      const place = cellAt("walk", "west", 2);
      // As far as the cell has room.
      const moved = createImage(64, 80);
      pasteImage(moved, cropImage(copy, place), part === "waistcoat" ? 27 : -18, part === "waistcoat" ? 0 : -62);
      pasteImage(copy, moved, place.x, place.y);
    },
  ),
  ...["breeches", "oilskin", "waistcoat"].map((part) => ({
    kind: "baked into the body",
    part,
    code: "part-baked-in",
    named: art("body"),
    spoil: (all: Art) => {
      const body = changed(pictureIn(all, art("body")), (copy) => {
        for (const { data } of picturesOf(part).map((path) => pictureIn(all, path)))
          for (let at = 0; at < data.length; at += 4)
            if (data[at + 3] === 255) copy.data.set(data.subarray(at, at + 4), at);
      });
      return withPicture(all, art("body"), body);
    },
  })),
  ...each("rows for columns", "grid-mismatch", ["breeches", "jersey"], (copy) =>
    laidOut(copy, [(copy.height / 80) * 64, (copy.width / 64) * 80], (column, row) => [row * 64, column * 80]),
  ),
  ...each("an animation's rows that are missing", "grid-mismatch", ["sandals", "jersey"], (copy) =>
    cropImage(copy, { x: 0, y: 0, width: 512, height: copy.height - 240 }),
  ),
  ...each("a column that is cut short", "grid-mismatch", ["breeches", "jersey"], (copy) =>
    cropImage(copy, { x: 0, y: 0, width: 509, height: copy.height }),
  ),
  ...each("twice the size", "grid-mismatch", ["sandals", "clogs"], (copy) => enlargeImage(copy, 2)),
  ...["breeches", "oilskin"].map((part) => ({
    kind: "a name in another case",
    part,
    code: "picture-called-otherwise",
    named: art(part),
    spoil: ({ source, pictures }: Art) => ({
      source,
      pictures: new Map(
        [...pictures].map(([path, image]) => [
          path === art(part) ? art("Loud").replace("Loud", part.toUpperCase()) : path,
          image,
        ]),
      ),
    }),
  })),
  ...(
    [
      ["sea-boots", "breeches"],
      ["oilskin", "breeches"],
      ["waistcoat", "linen-shirt"],
    ] as const
  ).map(([part, other]) => ({
    kind: "a depth that another slot has",
    part,
    code: "depth-tie",
    named: undefined,
    spoil: (all: Art) => {
      const beside = all.source.parts[other]?.layers.find(({ image }) => image.endsWith(`/${other}.png`));
      return withLayer(all, art(part), { depth: beside?.["depth"] });
    },
  })),
  {
    kind: "a wrong number in the rig",
    part: "breeches",
    code: "frame-of-rig",
    named: undefined,
    spoil: (all) => withRig(all, { frame: { width: 64, height: 40 } }),
  },
];

/** The parts that one is compared with, where that matters. */
function beside(part: string, code: string): ReadonlySet<string> {
  const shoes = ["sandals", "low-boots", "clogs"].includes(part) ? ["sea-boots", "sandals", "clogs"] : [];
  switch (code) {
    case "same-picture":
    case "part-away":
    case "part-small":
      return new Set([part, "low-boots", "striped-shirt", ...shoes]);
    case "depth-tie":
      return new Set([part, "breeches", "linen-shirt"]);
    default:
      return new Set([part]);
  }
}

const counts = new Map<string, { found: number; mended: number; all: number }>();

describe("seeded faults", () => {
  test("there are more than sixty, and nothing is found in what is not broken", async () => {
    expect(faults.length).toBeGreaterThanOrEqual(60);
    expect((await findAll(whole, new Set(Object.keys(whole.source.parts)))).map(described)).toEqual([]);
  });

  test.each(faults.map((fault): [string, Fault] => [`${fault.kind} of ${fault.part}`, fault]))(
    "%s is named, and what is advised mends it",
    async (_name, { kind, part, code, named, spoil }) => {
      const count = counts.get(kind) ?? { found: 0, mended: 0, all: 0 };
      counts.set(kind, count);
      count.all += 1;
      const broken = spoil(whole);
      const found = await findAll(broken, beside(part, code));
      const told = found.find((each) => each.code === code && (named === undefined || each.place.file === named));
      expect(found.map((each) => [each.code, each.place.file])).toContainEqual([code, told?.place.file]);
      if (told === undefined) throw new Error(`${code} is not among them.`);
      count.found += 1;
      const mended = mend(broken, told);
      // What is whole again, pixel by pixel, was looked at above.
      const left = isSame(mended, whole) ? [] : await findAll(mended, beside(part, code));
      expect(left.map(described)).toEqual([]);
      count.mended += 1;
    },
  );

  afterAll(() => {
    const lines = [...counts].map(
      ([kind, { found, mended, all }]) => `  ${kind}: ${found} found, ${mended} mended, of ${all}`,
    );
    console.log(["Faults, by their kind:", ...lines].join("\n"));
  });
});
