import type { Point, Rectangle } from "../model/drawn.ts";

/** `#rrggbb` as `0xRRGGBB`. */
export function readColor(source: string): number {
  return Number.parseInt(source.slice(1), 16);
}

export function readPoint([x, y]: readonly [number, number]): Point {
  return { x, y };
}

export function readRectangle([x, y, width, height]: readonly [number, number, number, number]): Rectangle {
  return { x, y, width, height };
}
