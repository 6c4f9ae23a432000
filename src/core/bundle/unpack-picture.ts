import { getOrInsert } from "../base/get-or-insert.ts";
import type { Rectangle, SlicedImage } from "../catalog/model/catalog.ts";
import { createImage, type Image } from "../raster/image.ts";
import type { IndexedRows } from "../raster/png/decode-png.ts";
import { CellPacker, indexPixels, prepareSheet, type Sheet, sheetOf } from "../raster/sheet.ts";
import { badBundle, type PageCells } from "./bundle.ts";

/** A page that has come: its pixels as indices into its colors, of which the first is transparent. */
export interface PagePixels {
  readonly width: number;
  readonly height: number;
  readonly plane: Uint8Array | Uint32Array;
  readonly first: number;
  readonly stride: number;
  readonly colors: readonly number[];
}

/** A page, and where the cells of pictures are on it. */
export interface OpenPage {
  readonly pixels: PagePixels;
  readonly cells: PageCells;
}

/** The pixels of a page as it was decoded. */
export function pagePixels(decoded: Image | IndexedRows): PagePixels {
  if (!("plane" in decoded)) {
    const { width, height } = decoded;
    return { width, height, first: 0, stride: width, ...indexPixels(decoded, undefined) };
  }
  const { plane, colors } = decoded;
  const blank = colors.indexOf(0);
  if (blank === 0) return decoded;
  const swapped = plane.map((index) => (index === blank ? 0 : index === 0 ? blank : index));
  return { ...decoded, plane: swapped, colors: colors.with(blank, colors[0] ?? 0).with(0, 0) };
}

/** A part of a picture in which something is drawn, and where it lies on a page. */
interface Part extends Rectangle {
  readonly page: PagePixels;
  readonly left: number;
  readonly top: number;
}

/** How many numbers a picture begins with, and how many say where a cell is. */
const head = 2;
const each = 6;

const unpacked = new WeakMap<Image, readonly Part[]>();

/**
 * Puts a picture together from the pages it is on, as it was but for what no layer shows. Its pixels are copied when somebody reads them: drawing
 * does not, once it is prepared.
 *
 * @throws MantleError `bad-bundle` where the pages do not have it, or not all of it; `picture-too-large`.
 */
export function unpackPicture(path: string, pages: readonly OpenPage[]): Image {
  const own = pages.flatMap(({ pixels, cells }) => {
    const list = Object.hasOwn(cells, path) ? cells[path] : undefined;
    return list === undefined ? [] : [{ pixels, list }];
  });
  const [width = 0, height = 0] = own[0]?.list ?? [];
  const isWhole = own.every(({ list }) => (list.length - head) % each === 0 && list.every(Number.isSafeInteger));
  if (own.length === 0 || !isWhole) throw badBundle(`it does not say where "${path}" is`);
  const parts = own.flatMap(({ pixels, list }) => partsIn(pixels, list));
  if (!parts.every((part) => isInside(part, width, height)))
    throw badBundle(`a part of "${path}" lies outside of its page`);
  let data: Uint8ClampedArray | undefined;
  const picture: Image = {
    width,
    height,
    get data() {
      data ??= copied(createImage(width, height), parts);
      return data;
    },
  };
  unpacked.set(picture, parts);
  return picture;
}

function partsIn(page: PagePixels, list: readonly number[]): readonly Part[] {
  const parts: Part[] = [];
  for (let at = head; at < list.length; at += each) {
    const [x, y, width, height, left, top] = list.slice(at, at + each) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    parts.push({ x, y, width, height, page, left, top });
  }
  return parts;
}

function isInside({ x, y, width, height, page, left, top }: Part, most: number, lowest: number): boolean {
  if (Math.min(x, y, width, height, left, top) < 0) return false;
  return x + width <= most && y + height <= lowest && left + width <= page.width && top + height <= page.height;
}

function copied({ width, data }: Image, parts: readonly Part[]): Uint8ClampedArray {
  const to = new Uint32Array(data.buffer);
  for (const part of parts) {
    const { plane, colors } = part.page;
    for (let row = 0; row < part.height; row += 1) {
      const [source, target] = [startOf(part, row), (part.y + row) * width + part.x];
      for (let column = 0; column < part.width; column += 1)
        to[target + column] = colors[plane[source + column] as number] as number;
    }
  }
  return data;
}

/** Where a row of a part begins in its page. */
function startOf({ page, left, top }: Part, row: number): number {
  return page.first + (top + row) * page.stride + left;
}

/**
 * Prepares a picture for drawing as `sheetOf` does, straight from its page: the colors of a page are looked at once for all pictures on it, and
 * no picture is put together.
 */
export function prepareUnpacked(image: Image, cut: SlicedImage, blank: number | undefined): Sheet {
  return sheetOf(image, cut, blank, sheetOfParts);
}

/** By the page: which index each color has. */
const indexesOf = new WeakMap<PagePixels, ReadonlyMap<number, number>>();

function sheetOfParts(image: Image, cells: readonly Rectangle[], blank: number | undefined): Sheet {
  const parts = unpacked.get(image) ?? [];
  const page = parts[0]?.page;
  const byCell = cells.map((cell) => parts.filter((part) => isOver(part, cell)));
  const isPlain =
    page !== undefined && parts.every((part) => part.page === page) && byCell.every((own) => own.length < 2);
  // Cut in several ways, on several pages, or with a color that means nothing: put together first.
  if (!isPlain || blank !== undefined) return prepareSheet(image, cells, blank);
  const { colors } = page;
  const indexOf = getOrInsert(indexesOf, page, () => new Map(colors.map((color, index) => [color, index])));
  const area = parts.reduce((sum, { width, height }) => sum + width * height, 0);
  const packer = new CellPacker(colors, area);
  for (const [number, cell] of cells.entries()) {
    const part = byCell[number]?.[0];
    if (part !== undefined) addPart(packer, part, cell);
    packer.endCell();
  }
  return { image, table: Uint32Array.from(colors), indexOf, cells: packer.pack(), changed: new Map() };
}

function isOver(one: Rectangle, other: Rectangle): boolean {
  if (one.x >= other.x + other.width || one.y >= other.y + other.height) return false;
  return one.x + one.width > other.x && one.y + one.height > other.y;
}

/** Adds what of a part lies in a cell. */
function addPart(packer: CellPacker, part: Part, cell: Rectangle): void {
  const [left, top] = [Math.max(part.x, cell.x), Math.max(part.y, cell.y)];
  const right = Math.min(part.x + part.width, cell.x + cell.width);
  const bottom = Math.min(part.y + part.height, cell.y + cell.height);
  for (let y = top; y < bottom; y += 1) {
    const start = startOf(part, y - part.y) + left - part.x;
    packer.addRow(y - cell.y, part.page.plane, start, right - left, left - cell.x);
  }
}
