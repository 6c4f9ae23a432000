import { make } from "../shared/dom.ts";

/** The size of the square, in pixels of the art. */
export const square = { width: 720, height: 440 };
/** Where the ground begins, under the fronts of the houses. */
export const ground = 84;

/** Something that stands on the square, its lower middle at a place. */
export interface Standing {
  readonly canvas: HTMLCanvasElement;
  readonly x: number;
  readonly y: number;
}

const ink = "#22150c";

/** A number from 0 to 1 that always comes of another. */
function chance(number: number): number {
  return Math.abs(Math.sin(number * 12.9898) * 43758.5453) % 1;
}

function draw(width: number, height: number, paint: (fill: Fill) => void): HTMLCanvasElement {
  const canvas = make("canvas", { width, height });
  const context = canvas.getContext("2d");
  if (context === null) throw new Error("This browser cannot draw on a canvas");
  paint((color, x, y, across, down) => {
    context.fillStyle = color;
    context.fillRect(x, y, across, down);
  });
  return canvas;
}

type Fill = (color: string, x: number, y: number, width: number, height: number) => void;

/** Paving, and behind it the fronts of houses. */
export function paintSquare(): HTMLCanvasElement {
  return draw(square.width, square.height, (fill) => {
    fill("#8a7a5c", 0, 0, square.width, square.height);
    for (let row = 0; ground + row * 9 < square.height; row += 1) {
      for (let x = -chance(row) * 20, stone = 0; x < square.width; stone += 1) {
        const width = 14 + Math.floor(chance(row * 57 + stone) * 10);
        const tone =
          ["#a8977a", "#b09f80", "#b8a787", "#ad9b7c"][Math.floor(chance(row * 31 + stone * 7) * 4)] ?? "#b09f80";
        fill(tone, Math.floor(x), ground + row * 9, width - 1, 8);
        fill("#c2b291", Math.floor(x), ground + row * 9, width - 1, 1);
        x += width;
      }
    }
    const walls = ["#6e8585", "#94744a", "#8a4f41", "#5d7568", "#a3895d", "#7a6a80"];
    for (let house = 0, x = -14; x < square.width; house += 1) {
      const width = 88 + Math.floor(chance(house + 3) * 40);
      paintHouse(fill, x, width, walls[house % walls.length] ?? "#6e8585", house);
      x += width;
    }
    // The step along the houses.
    fill(ink, 0, ground - 4, square.width, 1);
    fill("#cbbd9d", 0, ground - 3, square.width, 2);
    fill("#76684d", 0, ground - 1, square.width, 2);
  });
}

function paintHouse(fill: Fill, x: number, width: number, wall: string, number: number): void {
  fill(ink, x, 0, width, ground - 3);
  fill(wall, x + 1, 0, width - 2, ground - 4);
  for (let y = 6; y < ground - 4; y += 7) fill("rgb(20 12 6 / 22%)", x + 1, y, width - 2, 1);
  fill("rgb(255 240 210 / 16%)", x + 1, 0, 2, ground - 4);
  const door = x + 12 + Math.floor(chance(number * 5) * (width - 50));
  fill(ink, door, ground - 46, 24, 43);
  fill(number % 2 === 0 ? "#7c3226" : "#33505a", door + 2, ground - 44, 20, 41);
  fill("#d8b15a", door + 17, ground - 24, 2, 3);
  for (const [left, top] of [
    [door > x + width / 2 ? x + 14 : x + width - 38, ground - 48],
    [x + 14, 8],
    [x + width - 38, 8],
  ] as const) {
    fill(ink, left, top, 24, 20);
    fill(chance(left + number) > 0.5 ? "#f0cf7c" : "#9db4b4", left + 2, top + 2, 20, 16);
    fill(ink, left + 11, top + 2, 2, 16);
    fill("#cbbd9d", left - 2, top + 20, 28, 2);
  }
}

/** A stall with a striped awning. */
function paintStall(color: string, wares: readonly string[]): HTMLCanvasElement {
  return draw(76, 64, (fill) => {
    for (const x of [4, 69]) {
      fill(ink, x - 1, 16, 5, 46);
      fill("#6b4a2b", x, 16, 3, 45);
    }
    fill(ink, 2, 36, 72, 26);
    fill("#94693d", 3, 37, 70, 6);
    fill("#7a5431", 3, 44, 70, 17);
    for (let x = 10; x < 72; x += 12) fill("#5b3d22", x, 44, 1, 17);
    for (const [number, ware] of wares.entries()) {
      fill(ink, 7 + number * 11, 30, 9, 8);
      fill(ware, 8 + number * 11, 31, 7, 6);
      fill("rgb(255 255 255 / 35%)", 8 + number * 11, 31, 3, 2);
    }
    fill(ink, 0, 2, 76, 18);
    for (let stripe = 0; stripe < 8; stripe += 1) {
      const tone = stripe % 2 === 0 ? color : "#f0e4c8";
      fill(tone, 1 + stripe * 9.25, 3, 9.25, 15);
      fill(tone, 2 + stripe * 9.25, 18, 7, 3);
    }
    fill("rgb(255 255 255 / 25%)", 1, 3, 74, 2);
    fill("rgb(20 12 6 / 30%)", 1, 15, 74, 3);
  });
}

function paintCrates(): HTMLCanvasElement {
  return draw(36, 34, (fill) => {
    for (const [x, y] of [
      [0, 14],
      [17, 14],
      [8, 0],
    ] as const) {
      fill(ink, x, y, 19, 19);
      fill("#94693d", x + 1, y + 1, 17, 17);
      fill("#b98d58", x + 1, y + 1, 17, 3);
      fill("#5b3d22", x + 1, y + 9, 17, 1);
      fill("#5b3d22", x + 8, y + 4, 2, 14);
    }
  });
}

function paintLamp(): HTMLCanvasElement {
  return draw(16, 74, (fill) => {
    fill("#1d262b", 7, 14, 3, 58);
    fill("#1d262b", 4, 70, 9, 4);
    fill("#1d262b", 3, 2, 11, 14);
    fill("#fbd873", 5, 4, 7, 9);
    fill("#fff6c9", 7, 6, 3, 5);
  });
}

/** What people walk around, and stand behind. */
export function thingsOnSquare(): readonly Standing[] {
  const stalls = ["#9c3b2e", "#33606a", "#b98a2f", "#5d7a4a", "#7a4a6a"].map((color, number) =>
    paintStall(
      color,
      ["#c8813a", "#7f9a4e", "#b5483a", "#d8b15a", "#6f8fa3", "#8a5a8a"].slice(number % 2, 5 + (number % 2)),
    ),
  );
  const [crates, lamp] = [paintCrates(), paintLamp()];
  return [
    ...[
      [110, 176],
      [300, 158],
      [520, 186],
      [200, 318],
      [455, 330],
      [640, 300],
    ].map(([x = 0, y = 0], number) => ({ canvas: stalls[number % stalls.length] ?? crates, x, y })),
    ...[
      [62, 250],
      [372, 238],
      [668, 176],
      [330, 400],
    ].map(([x = 0, y = 0]) => ({ canvas: crates, x, y })),
    ...[
      [230, 214],
      [582, 238],
      [96, 376],
    ].map(([x = 0, y = 0]) => ({ canvas: lamp, x, y })),
  ];
}
