import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { type Catalog, type Image, type Problem, readCatalog } from "zealous-mantle";
import { checkArt, surveyArt } from "zealous-mantle/authoring";
import { createImage, cropImage, decodePng, pasteImage } from "zealous-mantle/raster";
import type { Rectangle } from "zealous-mantle/types";
import { demoFolder } from "../../../demo-catalog.ts";
import { described } from "../../../in-words.ts";

/** The pictures of a catalog, and its data: what is broken, and mended, one way at a time. */
export interface Art {
  readonly source: Source;
  readonly pictures: ReadonlyMap<string, Image>;
}

export interface Source {
  readonly rigs: { readonly courier: Record<string, object> & { readonly animations: Record<string, object> } };
  readonly parts: Record<string, { readonly layers: readonly Layer[] }>;
  readonly [section: string]: unknown;
}

export interface Layer {
  readonly image: string;
  readonly [key: string]: unknown;
}

/** The demo with one body, some of its parts and four of its animations. */
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
const animations = ["walk", "row", "hail", "trudge"];

export const facings = ["south", "west", "north"];

async function readSource(): Promise<{ readonly source: Source; readonly drawn: readonly string[] }> {
  const read = async (file: string) => JSON.parse(await readFile(join(demoFolder, file), "utf8"));
  const main = await read("catalog.json");
  const clothes = await read("parts/clothes.json");
  const parts = worn.map((id) => {
    const { slot, layers, allow } = clothes.parts[id];
    return [id, { slot, layers, allow }] as const;
  });
  const { points: _points, twins: _twins, crops: _crops, animations: all, ...courier } = main.rigs.courier;
  const kept = animations.map((id) => [id, { ...all[id], else: id === "walk" ? undefined : "walk" }]);
  const source = {
    mantle: "catalog/1",
    id: "broken",
    version: "1",
    rigs: { courier: { ...courier, animations: Object.fromEntries(kept) } },
    slots: Object.fromEntries(parts.map(([, { slot }]) => [slot, { kind: "gear" }])),
    ramps: main.ramps,
    channels: main.channels,
    bodies: { reed: { ...main.bodies.reed, growsInto: undefined } },
    parts: Object.fromEntries(parts),
  };
  // Without the keys that are left out.
  return { source: JSON.parse(JSON.stringify(source)), drawn: Object.keys(all) };
}

const { source, drawn } = await readSource();

/** Reads a source that is right by its form; the same source once. */
export function catalogOf(from: Source): Catalog {
  const known = catalogs.get(from);
  if (known !== undefined) return known;
  const { catalog, problems } = readCatalog(from);
  if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
  catalogs.set(from, catalog);
  return catalog;
}

const catalogs = new WeakMap<Source, Catalog>();

/** The picture, with the rows of the animations that are kept. */
async function readPicture(path: string): Promise<Image> {
  const image = decodePng(await readFile(join(demoFolder, path)));
  const kept = createImage(image.width, animations.length * 240);
  for (const [to, id] of animations.entries()) {
    const rows = { x: 0, y: drawn.indexOf(id) * 240, width: image.width, height: 240 };
    pasteImage(kept, cropImage(image, rows), 0, to * 240);
  }
  return kept;
}

const missing = checkArt(catalogOf(source), new Map()).map(({ place }) => place.file ?? "");

/** All of it as it should be. */
export const whole: Art = {
  source,
  pictures: new Map(await Promise.all(missing.map(async (path) => [path, await readPicture(path)] as const))),
};

export const art = (name: string) => `art/reed/${name}.png`;

/** The pictures of a part, in the order of its layers. */
export function picturesOf(part: string): readonly string[] {
  return (source.parts[part]?.layers ?? []).map(({ image }) => image.replace("{body}", "reed"));
}

export function pictureIn({ pictures }: Art, path: string): Image {
  const image = pictures.get(path);
  if (image === undefined) throw new Error(`There is no ${path}`);
  return image;
}

/** The same art with another picture. */
export function withPicture({ source, pictures }: Art, path: string, image: Image): Art {
  return { source, pictures: new Map(pictures).set(path, image) };
}

/** The same art with a layer that says more, or something else. */
export function withLayer({ source, pictures }: Art, path: string, more: Partial<Layer>): Art {
  const parts = Object.entries(source.parts).map(([id, part]) => [
    id,
    {
      ...part,
      layers: part.layers.map((layer) =>
        layer.image.replace("{body}", "reed") === path ? { ...layer, ...more } : layer,
      ),
    },
  ]);
  return { source: { ...source, parts: Object.fromEntries(parts) }, pictures };
}

/** The same art on a rig that says something else. */
export function withRig({ source, pictures }: Art, more: Record<string, unknown>): Art {
  const courier = { ...source.rigs.courier, ...more } as Source["rigs"]["courier"];
  return { source: { ...source, rigs: { courier } }, pictures };
}

/** Where a frame lies; all of its row without one. */
export function cellAt(animation: string, facing: string, frame?: number): Rectangle {
  const y = (animations.indexOf(animation) * 3 + facings.indexOf(facing)) * 80;
  return { x: (frame ?? 0) * 64, y, width: frame === undefined ? 512 : 64, height: 80 };
}

/** The frames of an animation. */
export function framesOf(animation: string): readonly number[] {
  const count = catalogOf(source).rigs.get("courier")?.animations.get(animation)?.frames ?? 0;
  return Array.from({ length: count }, (_, frame) => frame);
}

/** A copy of a picture in which something was changed. */
export function changed(image: Image, change: (copy: Image) => void): Image {
  const copy = cropImage(image, { x: 0, y: 0, width: image.width, height: image.height });
  change(copy);
  return copy;
}

export function clear(image: Image, { x, y, width, height }: Rectangle): void {
  pasteImage(image, createImage(width, height), x, y);
}

/** Puts cells in the place of others, each taken from the picture as it was. */
export function exchange(image: Image, pairs: readonly (readonly [from: Rectangle, to: Rectangle])[]): Image {
  return changed(image, (copy) => {
    for (const [from, to] of pairs) pasteImage(copy, cropImage(image, from), to.x, to.y);
  });
}

/** The pairs that put two rows in the place of one another. */
export function rowsExchanged(one: Rectangle, other: Rectangle): readonly (readonly [Rectangle, Rectangle])[] {
  return [
    [one, other],
    [other, one],
  ];
}

/** A picture with its cells laid out anew: `at` says where each goes. */
export function laidOut(
  image: Image,
  size: readonly [width: number, height: number],
  at: (column: number, row: number) => readonly [x: number, y: number],
): Image {
  const other = createImage(...size);
  for (let cell = 0; cell < (image.width / 64) * (image.height / 80); cell += 1) {
    const [column, row] = [cell % (image.width / 64), Math.floor(cell / (image.width / 64))];
    const [x, y] = at(column, row);
    pasteImage(other, cropImage(image, { x: column * 64, y: row * 80, width: 64, height: 80 }), x, y);
  }
  return other;
}

/** Everything that is found: in sizes first, as the command line does it. */
export async function findAll({ source, pictures }: Art, parts: ReadonlySet<string>): Promise<readonly Problem[]> {
  const catalog = catalogOf(source);
  const sizes = new Map([...pictures].map(([path, { width, height }]) => [path, { width, height }]));
  const sized = checkArt(catalog, sizes);
  return sized.length > 0 ? sized : surveyArt(catalog, async (path) => pictures.get(path), { parts });
}

/** Whether two arts are the same, pixel by pixel. */
export function isSame(one: Art, other: Art): boolean {
  if (one.source !== other.source || one.pictures.size !== other.pictures.size) return false;
  return [...one.pictures].every(([path, image]) => {
    const beside = other.pictures.get(path);
    return (
      image === beside ||
      (beside !== undefined && Buffer.from(image.data.buffer).equals(Buffer.from(beside.data.buffer)))
    );
  });
}
