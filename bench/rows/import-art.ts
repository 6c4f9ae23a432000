import { unzipSync, zipSync } from "fflate";
import type { Image } from "zealous-mantle";
import { findRegions, readDrawing } from "zealous-mantle/authoring";
import { createImage, decodePng, encodePng } from "zealous-mantle/raster";
import { makeSource, readSource } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

/** A drawing of twenty layers, four of them slots. */
export const importOra: Row = {
  name: "import-ora",
  work: "readDrawing of 20 layers of 512×512 in an OpenRaster file",
  against: "unzipping it and decoding its pictures alone",
  unit: "ms",
  goal: { atMost: 1.5 },
  async measure() {
    const bytes = drawing();
    const slots = new Set(["hat", "coat", "boots", "hair"]);
    const rig = readSource(makeSource({ slots: 4, parts: 8, tags: 2, rules: 0 })).rigs.get("rig");
    if (rig === undefined) throw new Error("there is no rig");
    const ours = () => readDrawing("courier.ora", bytes, rig, { slots }).parts.length;
    const theirs = () =>
      Object.entries(unzipSync(bytes)).filter(([name, file]) => name.startsWith("data/") && decodePng(file).width > 0)
        .length;
    agree(ours() === theirs(), "the layers are not as many");
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 }, 15);
  },
};

function drawing(): Uint8Array {
  const files: Record<string, Uint8Array> = {};
  const groups = ["Hat", "Coat", "Boots", "Hair"].map((slot, group) => {
    const layers = Array.from({ length: 5 }, (_, at) => {
      const path = `data/${group}-${at}.png`;
      files[path] = encodePng(disc(512, 180 - at * 11, group * 50 + at));
      return `<layer name="${slot} ${at}" src="${path}"${at > 0 ? ' visibility="hidden"' : ""}/>`;
    });
    return `<stack name="${slot}">${layers.join("")}</stack>`;
  });
  const xml = `<?xml version="1.0"?><image w="512" h="512"><stack>${groups.join("")}</stack></image>`;
  return zipSync({ "stack.xml": new TextEncoder().encode(xml), ...files });
}

function disc(side: number, radius: number, seed: number): Image {
  const image = createImage(side, side);
  const pixels = new Uint32Array(image.data.buffer);
  for (let at = 0; at < pixels.length; at += 1) {
    const isInside = Math.hypot((at % side) - side / 2, Math.floor(at / side) - side / 2) < radius;
    if (isInside) pixels[at] = 0xff000000 | (((at * 31 + seed) >> 4) % 0x7f7f7f);
  }
  return image;
}

/** A sheet of figures, and the specks and shadows around them. */
export const importGaps: Row = {
  name: "import-gaps",
  work: "findRegions on a picture of 1,024×1,024 with 400 figures and 2,000 specks",
  against: "a plain two-pass flood fill",
  unit: "ms",
  goal: { atMost: 1 },
  async measure() {
    const image = figures();
    const ours = () => findRegions(image).length;
    const theirs = () => labelTwice(image);
    agree(ours() === theirs(), "the regions are not as many");
    return sideBySide({ run: ours, times: 3 }, { run: theirs, times: 3 }, 15);
  },
};

function figures(): Image {
  const side = 1_024;
  const image = createImage(side, side);
  const pixels = new Uint32Array(image.data.buffer);
  for (let at = 0; at < pixels.length; at += 1) {
    const [x, y] = [at % side, Math.floor(at / side)];
    const [cellX, cellY] = [(x % 51) - 25, (y % 51) - 25];
    if (Math.abs(cellX) + Math.abs(cellY) < 20 && (x * y) % 7 !== 1) pixels[at] = 0xff336699;
  }
  for (let speck = 0; speck < 2_000; speck += 1) pixels[(speck * 48_271) % pixels.length] = 0xff000000;
  return image;
}

/** Connected pixels, corners too: labels in one pass over all pixels, united in a second. */
function labelTwice({ width, height, data }: Image): number {
  const pixels = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const labels = new Int32Array(width * height);
  const parents = [0];
  const root = (label: number): number => {
    let at = label;
    while (parents[at] !== at) at = parents[at] as number;
    return at;
  };
  const unite = (one: number, other: number): number => {
    if (other === 0) return one;
    if (one === 0) return root(other);
    const [first, second] = [root(one), root(other)];
    parents[Math.max(first, second)] = Math.min(first, second);
    return Math.min(first, second);
  };
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const at = y * width + x;
      if ((pixels[at] as number) >>> 24 === 0) continue;
      let own = x > 0 ? unite(0, labels[at - 1] as number) : 0;
      if (y > 0) {
        if (x > 0) own = unite(own, labels[at - width - 1] as number);
        own = unite(own, labels[at - width] as number);
        if (x + 1 < width) own = unite(own, labels[at - width + 1] as number);
      }
      labels[at] = own === 0 ? parents.push(parents.length) - 1 : own;
    }
  const seen = new Set<number>();
  for (let at = 0; at < labels.length; at += 1) if (labels[at] !== 0) seen.add(root(labels[at] as number));
  return seen.size;
}
