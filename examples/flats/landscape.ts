import { make } from "../shared/dom.ts";

/** The flats, in pixels of the art; the water's surface, and where its bottom is. */
export const flats = { width: 1120, height: 270, water: 226, bottom: 237 };

/** What one can stand on: left, top, width. */
export const planks: readonly (readonly [x: number, y: number, width: number])[] = [
  [0, 214, 168],
  [214, 186, 84],
  [338, 156, 70],
  [440, 196, 96],
  [566, 166, 64],
  [640, 128, 60],
  [720, 178, 90],
  [944, 206, 176],
];

/** Where letters lie. */
export const letters: readonly (readonly [x: number, y: number])[] = [
  [254, 170],
  [372, 140],
  [600, 222],
  [670, 112],
  [870, 222],
];

const ink = "#22150c";

type Fill = (color: string, x: number, y: number, width: number, height: number) => void;

function draw(width: number, height: number, paint: (fill: Fill) => void): HTMLCanvasElement {
  const canvas = make("canvas", { width, height });
  const context = canvas.getContext("2d");
  if (context === null) throw new Error("This browser cannot draw on a canvas");
  paint((color, x, y, across, down) => {
    context.fillStyle = color;
    context.fillRect(Math.round(x), Math.round(y), Math.round(across), Math.round(down));
  });
  return canvas;
}

function chance(number: number): number {
  return Math.abs(Math.sin(number * 12.9898) * 43758.5453) % 1;
}

/** Evening over the delta: bands of sky, far islands, reeds, and the mud under the water. */
export function paintFlats(): HTMLCanvasElement {
  const { width, height, water, bottom } = flats;
  return draw(width, height, (fill) => {
    const sky = ["#bd9c97", "#cda695", "#dab295", "#e6c096", "#efcf9a", "#f2d9a8"];
    for (const [number, color] of sky.entries()) fill(color, 0, number * 26, width, 27);
    fill("#f2d9a8", 0, 150, width, 40);
    fill("#fbe9bd", 780, 92, 34, 34);
    fill("#fbe9bd", 776, 98, 42, 22);
    fill("#fbe9bd", 786, 88, 22, 42);
    for (const [from, to, tall] of [
      [60, 300, 16],
      [420, 640, 11],
      [840, 1130, 20],
    ] as const)
      for (let x = from; x < to; x += 1) {
        const high = Math.sin(((x - from) / (to - from)) * Math.PI) * tall + (Math.sin(x * 0.7) > 0.5 ? 2 : 0);
        fill("#a39a97", x, 182 - high, 1, high);
      }
    for (const [number, color] of ["#a9b7ae", "#93a9a6", "#7f9a9c", "#6d8b90"].entries())
      fill(color, 0, 182 + number * 12, width, 60);
    for (let glint = 0; glint < 240; glint += 1)
      fill(
        "rgb(242 217 168 / 55%)",
        chance(glint) * width,
        184 + chance(glint * 3.3) * 40,
        3 + chance(glint * 7) * 9,
        1,
      );
    for (let clump = 0; clump < 26; clump += 1) {
      const x = chance(clump * 2.7) * width;
      for (let blade = 0; blade < 9; blade += 1) {
        const tall = 14 + chance(clump * 9 + blade) * 22;
        fill(blade % 3 === 0 ? "#6d7a45" : "#55633a", x + blade * 2, water + 6 - tall, 1, tall + 14);
      }
    }
    fill("#5c4c38", 0, bottom, width, height - bottom);
    fill("#6d5b43", 0, bottom, width, 2);
    for (let pebble = 0; pebble < 160; pebble += 1)
      fill("#4a3c2b", chance(pebble * 1.9) * width, bottom + 3 + chance(pebble) * 18, 2 + chance(pebble * 5) * 4, 1);
  });
}

/** A stage of planks on posts that stand in the mud. */
export function paintPlanks(top: number, width: number): HTMLCanvasElement {
  const deep = flats.bottom - top + 8;
  return draw(width, deep, (fill) => {
    for (let x = 8; x < width - 8; x += Math.max(34, (width - 22) / Math.max(1, Math.round((width - 22) / 52)))) {
      fill(ink, x - 1, 6, 8, deep - 6);
      fill("#6b4a2b", x, 6, 6, deep - 6);
      fill("#94693d", x, 6, 2, deep - 6);
      fill("#3d4a3a", x, flats.water - top - 4, 6, 14);
    }
    fill(ink, 0, 0, width, 9);
    fill("#a9834f", 0, 1, width, 4);
    fill("#c19a63", 0, 1, width, 1);
    fill("#856339", 0, 5, width, 3);
    for (let x = 13; x < width; x += 17) fill("#4c331d", x, 1, 1, 7);
  });
}

/** The water over what stands in it. Whoever wades has ripples of their own. */
export function paintWater(): HTMLCanvasElement {
  const { width, height, water } = flats;
  return draw(width, height - water, (fill) => {
    fill("rgb(62 96 104 / 55%)", 0, 0, width, height - water);
    fill("rgb(214 226 206 / 80%)", 0, 0, width, 1);
    for (let glint = 0; glint < 120; glint += 1)
      fill("rgb(242 217 168 / 45%)", chance(glint * 4.1) * width, 2 + chance(glint) * 30, 4 + chance(glint * 3) * 8, 1);
  });
}

export function paintLetter(): HTMLCanvasElement {
  return draw(14, 10, (fill) => {
    fill(ink, 0, 0, 14, 10);
    fill("#f4ecdc", 1, 1, 12, 8);
    for (let x = 0; x < 6; x += 1) {
      fill("#b9a98a", 1 + x, 1 + x * 0.8, 1, 1);
      fill("#b9a98a", 12 - x, 1 + x * 0.8, 1, 1);
    }
    fill("#b5483a", 6, 5, 2, 2);
  });
}
