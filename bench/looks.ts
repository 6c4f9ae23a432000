import {
  type Catalog,
  type Character,
  createCharacter,
  describeProblem,
  type Image,
  type Images,
  type Look,
  readCatalog,
} from "zealous-mantle";
import { messages } from "zealous-mantle/locales/en";
import { createImage } from "zealous-mantle/raster";
import { randomBelow } from "./catalogs.ts";

const cell = 64;
const frames = 16;
const animations = ["one", "two", "three", "four"];
const facings = ["south", "west", "north", "east"];
export const layerCount = 12;
const key = [0x141414, 0x3c3c3c, 0x6e6e6e, 0xa2a2a2, 0xd6d6d6];
const hex = (color: number) => `#${color.toString(16).padStart(6, "0")}`;

/** A character of twelve layers, each a sheet of 256 cells of 64×64 of which about an eighth is covered, and all its colors. */
export interface Figure {
  readonly catalog: Catalog;
  readonly images: Images;
  /** In the order in which they lie, back to front. */
  readonly pictures: readonly Image[];
  /** Someone with every channel painted at random. */
  readonly painted: (seed: number) => Character;
}

export const sheetSize = { width: frames * cell, height: animations.length * facings.length * cell };

export function makeFigure(ramps = 60): Figure {
  const below = randomBelow(7);
  const channels = Array.from({ length: layerCount }, (_, layer) => `channel-${layer}`);
  const rampIds = Array.from({ length: ramps }, (_, ramp) => `ramp-${ramp}`);
  const { catalog, problems } = readCatalog({
    mantle: "catalog/1",
    id: "figure",
    version: "1",
    rigs: {
      rig: {
        frame: { width: cell, height: cell },
        origin: [cell / 2, cell - 4],
        facings,
        animations: Object.fromEntries(animations.map((id) => [id, { frames, fps: 12 }])),
      },
    },
    ramps: Object.fromEntries(rampIds.map((id) => [id, key.map(() => hex(below(0x1000000)))])),
    channels: Object.fromEntries(
      channels.map((id) => [id, { ramps: rampIds, default: rampIds[0], key: key.map(hex) }]),
    ),
    bodies: {
      body: {
        rig: "rig",
        art: channels.map((channel, layer) => ({ image: `${channel}.png`, depth: layer, channel })),
      },
    },
  });
  if (catalog === undefined) throw new Error(problems.map((problem) => describeProblem(problem, messages)).join("\n"));
  const pictures = channels.map((_, layer) => drawSheet(layer, below));
  return {
    catalog,
    pictures,
    images: new Map(channels.map((id, layer) => [`${id}.png`, pictures[layer] ?? createImage(1, 1)])),
    painted: (seed) => {
      const pick = randomBelow(seed);
      const colors = Object.fromEntries(channels.map((id) => [id, rampIds[pick(ramps)] ?? ""]));
      return { ...createCharacter(catalog, { body: "body" }), colors };
    },
  };
}

/** A blob of five tones with a dark rim, at a place of the layer's own, that moves a little from frame to frame. */
function drawSheet(layer: number, below: (count: number) => number): Image {
  const sheet = createImage(sheetSize.width, sheetSize.height);
  const pixels = new Uint32Array(sheet.data.buffer);
  const home = { x: 20 + ((layer * 7) % 25), y: 16 + ((layer * 11) % 33) };
  const [across, down] = layer % 3 === 0 ? [9, 18] : layer % 3 === 1 ? [16, 10] : [13, 12.6];
  for (let top = 0; top < sheetSize.height; top += cell) {
    for (let left = 0; left < sheetSize.width; left += cell) {
      const [x0, y0] = [home.x + below(5) - 2, home.y + below(5) - 2];
      for (let y = 0; y < cell; y += 1) {
        for (let x = 0; x < cell; x += 1) {
          const away = Math.hypot((x - x0) / across, (y - y0) / down);
          if (away > 1) continue;
          const tone = away > 0.9 ? 0 : Math.min(4, 1 + Math.floor((1 - away) * 4 + below(2)));
          pixels[(top + y) * sheetSize.width + left + x] = (0xff000000 | swapped(key[tone] ?? 0)) >>> 0;
        }
      }
    }
  }
  return sheet;
}

/** `0xRRGGBB` as `0xBBGGRR`, and back. */
export function swapped(color: number): number {
  return ((color & 255) << 16) | (color & 0xff00) | (color >> 16);
}

/** What a developer would keep: the sheets of a look with its colors already in them. */
export function recoloredSheets({ pictures }: Figure, look: Look): readonly Image[] {
  return pictures.map((picture, layer) => recolored(picture, look.layers[layer]?.recolor?.colors ?? []));
}

/** Key colors replaced pixel by pixel. */
export function recolored(picture: Image, colors: readonly number[]): Image {
  const data = new Uint8ClampedArray(picture.data);
  for (let at = 0; at < data.length; at += 4) {
    if (data[at + 3] === 0) continue;
    const place = key.indexOf(((data[at] ?? 0) << 16) | ((data[at + 1] ?? 0) << 8) | (data[at + 2] ?? 0));
    const color = colors[place];
    if (color === undefined) continue;
    data[at] = color >> 16;
    data[at + 1] = (color >> 8) & 255;
    data[at + 2] = color & 255;
  }
  return { ...picture, data };
}

/** Layers laid over one another, every pixel of every layer in turn. */
export function composedPlainly(sheets: readonly Image[]): Image {
  const { width, height } = sheetSize;
  const target = createImage(width, height);
  const { data } = target;
  for (const sheet of sheets) {
    const from = sheet.data;
    for (let at = 0; at < from.length; at += 4) {
      const alpha = (from[at + 3] ?? 0) / 255;
      if (alpha === 0) continue;
      const under = (data[at + 3] ?? 0) / 255;
      const whole = alpha + under * (1 - alpha);
      for (let channel = 0; channel < 3; channel += 1) {
        const mixed = (from[at + channel] ?? 0) * alpha + (data[at + channel] ?? 0) * under * (1 - alpha);
        data[at + channel] = mixed / whole;
      }
      data[at + 3] = whole * 255;
    }
  }
  return target;
}

export function sameBytes(one: ArrayLike<number>, other: ArrayLike<number>): boolean {
  if (one.length !== other.length) return false;
  for (let at = 0; at < one.length; at += 1) if (one[at] !== other[at]) return false;
  return true;
}
