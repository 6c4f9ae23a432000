import { Unzlib } from "fflate";
import { joinBytes } from "../../base/join-bytes.ts";
import { limits } from "../../base/limits.ts";
import { createImage, type Image } from "../image.ts";
import { badPicture, isSigned, readChunks } from "./chunks.ts";
import { unfilter } from "./unfilter.ts";

interface Header {
  readonly width: number;
  readonly height: number;
  /** Bits of a sample. */
  readonly depth: number;
  /** Samples of a pixel. */
  readonly channels: number;
  readonly isIndexed: boolean;
  readonly isInterlaced: boolean;
}

/**
 * Reads a PNG of any color type and depth as RGBA (ISO/IEC 15948). Its checksums are checked, and no more is unpacked than its header
 * promises, so that a small file cannot fill the memory.
 *
 * @throws MantleError `bad-picture` when the bytes are not a whole PNG, or one of more than `limits.pixels` pixels.
 */
export function decodePng(bytes: Uint8Array): Image {
  return decodePngBy(bytes, unpack);
}

/**
 * The same, with an unpacker of the platform's that is done at once.
 *
 * @param inflate - unpacks exactly so many bytes (RFC 1950) and checks their checksum; throws `badPicture` where it cannot.
 */
export function decodePngBy(bytes: Uint8Array, inflate: (packed: Uint8Array, length: number) => Uint8Array): Image {
  const png = readPng(bytes);
  return paintPng(png, inflate(png.packed, png.length));
}

/**
 * The same, with one that takes its time.
 *
 * @param inflate - unpacks exactly so many bytes (RFC 1950) and checks their checksum; throws `badPicture` where it cannot.
 */
export async function decodePngWith(
  bytes: Uint8Array,
  inflate: (packed: Uint8Array, length: number) => Promise<Uint8Array>,
): Promise<Image> {
  const png = readPng(bytes);
  return paintPng(png, await inflate(png.packed, png.length));
}

/** A picture as indices into its colors. */
export interface IndexedRows {
  readonly width: number;
  readonly height: number;
  /** The indices, row by row. */
  readonly plane: Uint8Array;
  /** Where the first row begins in it, and how far apart rows are. */
  readonly first: number;
  readonly stride: number;
  /** RGBA of each index, as `0xAABBGGRR`. */
  readonly colors: readonly number[];
}

/** As `decodePngWith`, but of a picture with a palette its indices, which is far less to read. @throws as it does. */
export async function decodeIndexedWith(
  bytes: Uint8Array,
  inflate: (packed: Uint8Array, length: number) => Promise<Uint8Array>,
): Promise<Image | IndexedRows> {
  const png = readPng(bytes);
  const { header, palette, transparency, passes, packed, length } = png;
  const plane = await inflate(packed, length);
  const stride = passes[0]?.stride ?? 0;
  if (!header.isIndexed || palette === undefined || header.depth !== 8 || header.isInterlaced)
    return paintPng(png, plane);
  unfilter(plane, stride, header.height, 1);
  // An index beyond the palette is a transparent pixel.
  const colors = [...colorsOf(palette, transparency)];
  return { width: header.width, height: header.height, plane, first: 1, stride: stride + 1, colors };
}

/** What a PNG says of itself, and its pixels, still packed. */
interface Png {
  readonly header: Header;
  readonly palette: Uint8Array | undefined;
  readonly transparency: Uint8Array | undefined;
  readonly passes: readonly ReturnType<typeof passOf>[];
  readonly packed: Uint8Array;
  /** How many bytes they are, unpacked. */
  readonly length: number;
}

function readPng(bytes: Uint8Array): Png {
  let header: Header | undefined;
  let palette: Uint8Array | undefined;
  let transparency: Uint8Array | undefined;
  const packed: Uint8Array[] = [];
  for (const { type, data } of readChunks(bytes)) {
    if (header === undefined && type !== "IHDR") throw badPicture("its header is missing");
    if (type === "IHDR") header = readHeader(data);
    else if (type === "PLTE") palette = data;
    else if (type === "tRNS") transparency = data;
    else if (type === "IDAT") packed.push(data);
  }
  if (header === undefined) throw badPicture("its header is missing");
  if (header.isIndexed && palette === undefined) throw badPicture("its palette is missing");
  const own = header;
  const passes = header.isInterlaced ? adam7.map((pass) => passOf(own, pass)) : [passOf(header, [0, 0, 1, 1])];
  const length = passes.reduce((sum, { stride, height }) => sum + (stride + 1) * height, 0);
  const whole = packed.length === 1 ? (packed[0] as Uint8Array) : joinBytes(...packed);
  return { header, palette, transparency, passes, packed: whole, length };
}

function paintPng({ header, palette, transparency, passes }: Png, rows: Uint8Array): Image {
  const image = createImage(header.width, header.height);
  const paint = painterOf(header, image, palette, transparency);
  const step = Math.max(1, (header.channels * header.depth) >> 3);
  let at = 0;
  for (const { stride, width, height, place } of passes) {
    const own = rows.subarray(at, at + (stride + 1) * height);
    unfilter(own, stride, height, step);
    for (let row = 0; row < height; row += 1)
      paint(own.subarray(row * (stride + 1) + 1, (row + 1) * (stride + 1)), width, row, place);
    at += own.length;
  }
  return image;
}

/** Width and height from the first bytes of a PNG (IHDR), without reading its pixels; `undefined` when it is none. */
export function pngSize(bytes: Uint8Array): { readonly width: number; readonly height: number } | undefined {
  if (bytes.length < 24 || !isSigned(bytes)) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

/** By color type: samples of a pixel, and the depths there are (table 11.1). */
const colorTypes: ReadonlyMap<number, readonly [channels: number, depths: readonly number[]]> = new Map([
  [0, [1, [1, 2, 4, 8, 16]]],
  [2, [3, [8, 16]]],
  [3, [1, [1, 2, 4, 8]]],
  [4, [2, [8, 16]]],
  [6, [4, [8, 16]]],
]);

function readHeader(data: Uint8Array): Header {
  if (data.length !== 13) throw badPicture("its header is damaged");
  const view = new DataView(data.buffer, data.byteOffset, 13);
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  const [depth = 0, type = 0, compression, filter, interlace = 0] = data.subarray(8);
  const [channels, depths] = colorTypes.get(type) ?? [0, []];
  if (width === 0 || height === 0 || !depths.includes(depth) || compression !== 0 || filter !== 0 || interlace > 1)
    throw badPicture("its header is damaged");
  if (width * height > limits.pixels)
    throw badPicture(`it has ${width}×${height} pixels, and ${limits.pixels.toLocaleString("en")} in all is the most`);
  return { width, height, depth, channels, isIndexed: type === 3, isInterlaced: interlace === 1 };
}

/** The pixels of a pass: where it begins, and how far apart they are, across and down. */
type Place = readonly [x: number, y: number, across: number, down: number];

/** The passes of an interlaced picture (clause 8.2). */
const adam7: readonly Place[] = [
  [0, 0, 8, 8],
  [4, 0, 8, 8],
  [0, 4, 4, 8],
  [2, 0, 4, 4],
  [0, 2, 2, 4],
  [1, 0, 2, 2],
  [0, 1, 1, 2],
];

function passOf(header: Header, place: Place) {
  const [x, y, across, down] = place;
  const width = Math.ceil((header.width - x) / across);
  const height = width > 0 ? Math.max(0, Math.ceil((header.height - y) / down)) : 0;
  return { place, width, height, stride: Math.ceil((width * header.channels * header.depth) / 8) };
}

/** Unpacks exactly so many bytes (RFC 1950), slice by slice, and stops as soon as there are more. */
function unpack(whole: Uint8Array, length: number): Uint8Array {
  const rows = new Uint8Array(length);
  let filled = 0;
  const unzip = new Unzlib((chunk) => {
    if (filled + chunk.length > length) throw badPicture("it holds more than its header says");
    rows.set(chunk, filled);
    filled += chunk.length;
  });
  try {
    for (let at = 0; at < whole.length; at += sliceLength)
      unzip.push(whole.subarray(at, at + sliceLength), at + sliceLength >= whole.length);
  } catch (error) {
    throw error instanceof Error && "code" in error && error.code === "bad-picture"
      ? error
      : badPicture(`its pixels are damaged (${error instanceof Error ? error.message : String(error)})`);
  }
  const view = new DataView(whole.buffer, whole.byteOffset, whole.byteLength);
  if (filled < length || whole.length < 6) throw badPicture("its end is missing");
  if (view.getUint32(whole.length - 4) !== adler32(rows)) throw badPicture("a checksum does not match");
  return rows;
}

/** Bytes of packed pixels that are unpacked at a time; a slice becomes at most about a thousand times as many. */
const sliceLength = 2 ** 14;

/** The checksum of unpacked bytes (RFC 1950). */
function adler32(bytes: Uint8Array): number {
  let low = 1;
  let high = 0;
  for (let at = 0; at < bytes.length; ) {
    // So many that the sums stay within 31 bits, which is where they are quick.
    const end = Math.min(bytes.length, at + 2_000);
    for (; at < end; at += 1) {
      low += bytes[at] as number;
      high += low;
    }
    low %= 65_521;
    high %= 65_521;
  }
  return ((high << 16) | low) >>> 0;
}

type Paint = (row: Uint8Array, width: number, number: number, place: Place) => void;

/** What lays a row of samples into a picture. */
function painterOf(
  { depth, channels, isIndexed }: Header,
  image: Image,
  palette: Uint8Array | undefined,
  transparency: Uint8Array | undefined,
): Paint {
  const pixels = new Uint32Array(image.data.buffer);
  const target = ([x, y, across, down]: Place, column: number, row: number) =>
    (y + row * down) * image.width + x + column * across;
  if (palette !== undefined && isIndexed) {
    const colors = colorsOf(palette, transparency);
    // Most of a sheet is the one color that a picture has already.
    const blank = colors.indexOf(0);
    return (row, width, number, place) => {
      const across = place[2];
      const indices = depth === 8 ? row : Uint8Array.from({ length: width }, (_, at) => sampleAt(row, at, depth));
      const start = target(place, 0, number);
      for (let column = 0; column < width; column += 1) {
        const index = indices[column] as number;
        if (index !== blank) pixels[start + column * across] = colors[index] as number;
      }
    };
  }
  if (depth === 8 && channels === 4)
    return (row, width, number, place) => {
      for (let column = 0; column < width; column += 1)
        image.data.set(row.subarray(column * 4, column * 4 + 4), target(place, column, number) * 4);
    };
  const peak = 2 ** depth - 1;
  const clear = channels % 2 === 0 ? undefined : clearSamples(transparency, channels);
  return (row, width, number, place) => {
    for (let column = 0; column < width; column += 1) {
      const raw = Array.from({ length: channels }, (_, channel) => sampleAt(row, column * channels + channel, depth));
      const [one = 0, two = 0, three = 0, four = peak] = raw.map((value) => Math.round((value * 255) / peak));
      const isClear = clear?.every((value, at) => value === raw[at]) === true;
      const alpha = isClear ? 0 : channels === 2 ? two : channels === 4 ? four : 255;
      const color = channels < 3 ? [one, one, one, alpha] : [one, two, three, alpha];
      image.data.set(color, target(place, column, number) * 4);
    }
  };
}

/** The color of every byte there can be, so that an index beyond the palette is a transparent pixel. */
function colorsOf(palette: Uint8Array, transparency: Uint8Array | undefined): Uint32Array {
  const colors = new Uint32Array(256);
  for (let index = 0; index * 3 + 2 < palette.length && index < 256; index += 1) {
    const [red = 0, green = 0, blue = 0] = palette.subarray(index * 3, index * 3 + 3);
    const alpha = transparency?.[index] ?? 255;
    colors[index] = (alpha << 24) | (blue << 16) | (green << 8) | red;
  }
  return colors;
}

/** The one color that is transparent, where there is one (clause 11.3.1.1). */
function clearSamples(transparency: Uint8Array | undefined, channels: number): readonly number[] | undefined {
  if (transparency === undefined || transparency.length < channels * 2) return undefined;
  return Array.from({ length: channels }, (_, at) => sampleAt(transparency, at, 16));
}

function sampleAt(row: Uint8Array, at: number, depth: number): number {
  if (depth === 8) return row[at] ?? 0;
  if (depth === 16) return ((row[at * 2] ?? 0) << 8) | (row[at * 2 + 1] ?? 0);
  const bit = at * depth;
  return ((row[bit >> 3] ?? 0) >> (8 - depth - (bit & 7))) & (2 ** depth - 1);
}
