import { toOklab } from "../base/color/color.ts";
import { getOrInsert } from "../base/get-or-insert.ts";
import { contentHash } from "../raster/content-hash.ts";
import { swapRedAndBlue } from "../raster/sheet.ts";
import type { FoundFrame, FoundPart } from "./found.ts";

/** Two parts of one shape, each color of one standing for one of the other: what a channel is for. */
export interface Recoloring {
  readonly part: FoundPart;
  readonly other: FoundPart;
  /** The colors of the part, dark to light, each `0xRRGGBB`: the key of a channel. */
  readonly key: readonly number[];
  /** The colors of the other, in the same order: a ramp; the same ones when the two are equal. */
  readonly ramp: readonly number[];
}

/** More colors than this are painted, and no ramp. */
const maxColors = 32;

/** Finds parts that are another in other colors, or are equal to it. Of several that are alike, each is compared with the first. */
export function findRecolors(parts: readonly FoundPart[]): readonly Recoloring[] {
  const byShape = new Map<string, FoundPart[]>();
  for (const part of parts) getOrInsert(byShape, shapeOf(part), () => []).push(part);
  return [...byShape.values()].flatMap(([part, ...others]) =>
    part === undefined ? [] : others.flatMap((other) => recoloring(part, other) ?? []),
  );
}

/** The same for parts whose frames lie alike and have the same alpha. */
function shapeOf({ slot = "", layers }: FoundPart): string {
  const pieces = layers.flatMap(({ frames }) =>
    inOrder(frames).flatMap(({ image, at, ...frame }) => [
      [frame.animation, frame.facing, frame.frame, at.x, at.y, image.width, image.height].join(),
      image.data.filter((_, byte) => byte % 4 === 3),
    ]),
  );
  return contentHash(slot, ...pieces.map((piece) => (typeof piece === "string" ? piece : new Uint8Array(piece))));
}

function inOrder(frames: readonly FoundFrame[]): readonly FoundFrame[] {
  const key = ({ animation, facing, frame }: FoundFrame) => [animation, facing, frame].join();
  return frames.toSorted((one, other) => (key(one) < key(other) ? -1 : 1));
}

/** How the colors of one stand for those of the other; `undefined` when they do not, one for one. */
function recoloring(part: FoundPart, other: FoundPart): Recoloring | undefined {
  const there = new Map<number, number>();
  const back = new Map<number, number>();
  for (const [number, layer] of part.layers.entries()) {
    const others = inOrder(other.layers[number]?.frames ?? []);
    for (const [at, frame] of inOrder(layer.frames).entries()) {
      const [own, theirs] = [pixelsOf(frame), pixelsOf(others[at] ?? frame)];
      for (let pixel = 0; pixel < own.length; pixel += 1) {
        const color = own[pixel] as number;
        if (color >>> 24 === 0) continue;
        const [one, two] = [color & 0xffffff, (theirs[pixel] as number) & 0xffffff];
        if (getOrInsert(there, one, () => two) !== two || getOrInsert(back, two, () => one) !== one) return undefined;
      }
      if (there.size > maxColors) return undefined;
    }
  }
  const light = (color: number) => toOklab(swapRedAndBlue(color)).l;
  const key = [...there.keys()].sort((one, two) => light(one) - light(two));
  return {
    part,
    other,
    key: key.map(swapRedAndBlue),
    ramp: key.map((color) => swapRedAndBlue(there.get(color) as number)),
  };
}

function pixelsOf({ image: { data, width, height } }: FoundFrame): Uint32Array {
  return new Uint32Array(data.buffer, data.byteOffset, width * height);
}
