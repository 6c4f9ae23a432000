import type { Image } from "zealous-mantle";
import { createImage } from "zealous-mantle/raster";
import type { Art, Sculpted, Stamped } from "./art.ts";
import { bodyPieces, sleevedPieces } from "./body.ts";
import type { Vector } from "./field.ts";
import { type Build, type Figure, motions, poseFigure } from "./figure.ts";
import { height, project, type Rendering, render, width, yaws } from "./render.ts";

const columns = Math.max(...motions.map(({ frames }) => frames));
const facings = Object.keys(yaws);

/** One posed figure in one facing, and where its cell lies in a sheet. */
export interface Cell {
  readonly figure: Figure;
  readonly facing: string;
  readonly yaw: number;
  /** The same for cells in which the figure stands the same. */
  readonly pose: string;
  readonly x: number;
  readonly y: number;
  /** The depths that split a part into the half before the figure and the half behind. */
  readonly depths: Readonly<Record<Sculpted["against"], Float32Array>>;
}

/** Every cell of a build's sheets, in the order a catalog expects. */
export function cellsOf(build: Build): readonly Cell[] {
  const known = new Map<string, Cell["depths"]>();
  return motions.flatMap(({ id, frames }, group) =>
    facings.flatMap((facing, within) =>
      Array.from({ length: frames }, (_, frame): Cell => {
        const figure = poseFigure(build, id, frame);
        const yaw = yaws[facing] ?? 0;
        const pose = `${facing} ${JSON.stringify(figure, (_key, value) => (typeof value === "number" ? Number(value.toFixed(6)) : value))}`;
        const depths = known.get(pose) ?? {
          bare: render(bodyPieces(figure), yaw).depth,
          sleeved: render(sleevedPieces(figure), yaw).depth,
        };
        known.set(pose, depths);
        return { figure, facing, yaw, pose, x: frame * width, y: (group * facings.length + within) * height, depths };
      }),
    ),
  );
}

export function blankSheet(isStill = false): Image {
  return isStill
    ? createImage(width, facings.length * height)
    : createImage(columns * width, motions.length * facings.length * height);
}

/** Where the crown lies in every cell of a still picture. */
export const stillCrown = { x: 31, y: 28 };

/** Where a point of the figure is seen in its cell, in whole pixels. */
function pixelOf(at: Vector, yaw: number): { readonly x: number; readonly y: number } {
  const { x, y } = project(at, yaw);
  return { x: Math.floor(x), y: Math.floor(y) };
}

export function isStill(art: Art): boolean {
  return art.kind === "stamped" || art.isStill === true;
}

/** The cells of a still picture: the figure as it stands in its first frame, moved so that its crown lies where it should. */
function stillCells(cells: readonly Cell[]): readonly Cell[] {
  return facings.flatMap((facing, row) => {
    const first = cells.find((cell) => cell.facing === facing);
    if (first === undefined) return [];
    const crown = pixelOf(first.figure.head, first.yaw);
    return [{ ...first, x: stillCrown.x - crown.x, y: row * height + stillCrown.y - crown.y }];
  });
}

/** A named picture; blank ones are left out. */
export type Sheets = ReadonlyMap<string, Image>;

/** Draws a part in every cell. A part becomes up to one picture for each of: half, top, channel. */
export function drawSheets(art: Art, cells: readonly Cell[]): Sheets {
  const sheets = new Map<string, Image>();
  const sheetNamed = (name: string): Image => {
    let sheet = sheets.get(name);
    if (sheet === undefined) {
      sheet = blankSheet(isStill(art));
      sheets.set(name, sheet);
    }
    return sheet;
  };
  const drawn = new Map<string, Cell>();
  for (const cell of isStill(art) ? stillCells(cells) : cells) {
    const same = drawn.get(cell.pose);
    if (same !== undefined) copyCell([...sheets.values()], same, cell);
    else if (art.kind === "stamped") stamp(art, cell, sheetNamed(art.id));
    else drawSculpted(art, cell, sheetNamed);
    drawn.set(cell.pose, same ?? cell);
  }
  return sheets;
}

/** Copies what was drawn of one cell to another in which the figure stands the same. */
function copyCell(sheets: readonly Image[], from: Cell, to: Cell): void {
  for (const sheet of sheets) {
    for (let y = 0; y < height; y += 1) {
      const start = ((from.y + y) * sheet.width + from.x) * 4;
      sheet.data.copyWithin(((to.y + y) * sheet.width + to.x) * 4, start, start + width * 4);
    }
  }
}

/** What marks each point of the rig in the marker picture. */
export const markers = { crown: 0xff0000, "hand-left": 0x00ff00, "hand-right": 0x0000ff, back: 0xffff00 } as const;

/** The marker picture: one pixel for each point in every cell. */
export function drawMarkers(cells: readonly Cell[]): Image {
  const sheet = blankSheet();
  for (const cell of cells) {
    const { head, hand, chest, build } = cell.figure;
    const places = {
      back: pixelOf({ ...chest, z: chest.z - build.chest[2] }, cell.yaw),
      "hand-left": pixelOf(hand[0], cell.yaw),
      "hand-right": pixelOf(hand[1], cell.yaw),
      crown: pixelOf(head, cell.yaw),
    };
    const taken = new Set<string>();
    for (const name of ["crown", "hand-right", "hand-left", "back"] as const) {
      const { y } = places[name];
      let { x } = places[name];
      // Two points cannot be marked by one pixel.
      while (taken.has(`${x},${y}`)) x += 1;
      taken.add(`${x},${y}`);
      setPixel(sheet, cell, x, y, markers[name]);
    }
  }
  return sheet;
}

/** The light around a lantern: rings, paler outward. */
export function drawGlow(): Image {
  const glow = createImage(40, 40);
  for (let y = 0; y < 40; y += 1) {
    for (let x = 0; x < 40; x += 1) {
      const away = Math.hypot(x - 19.5, y - 19.5);
      const alpha = away < 9 ? 88 : away < 14 ? 52 : away < 19.5 ? 26 : 0;
      if (alpha > 0) glow.data.set([255, 214, 120, alpha], (y * 40 + x) * 4);
    }
  }
  return glow;
}

/** Water around the legs: ripples in two frames, before and behind. */
export function drawRipples(): Image {
  const ripples = createImage(columns * width, motions.length * facings.length * height);
  for (let row = 0; row < motions.length * facings.length; row += 1) {
    for (let frame = 0; frame < (motions[Math.floor(row / facings.length)]?.frames ?? 0); frame += 1) {
      const reach = 13 + (frame % 3);
      for (let y = 62; y < 80; y += 1) {
        for (let x = 2; x < 62; x += 1) {
          const away = Math.hypot((x + 0.5 - 32) / reach, (y + 0.5 - 73) / (reach * 0.4));
          const isRim = away > 0.84 && away <= 1;
          if (away > 1) continue;
          const color = isRim ? [0xd7, 0xee, 0xf0, 190] : [0x2f, 0x6f, 0x8a, 150];
          ripples.data.set(color, ((row * height + y) * ripples.width + frame * width + x) * 4);
        }
      }
    }
  }
  return ripples;
}

function drawSculpted(art: Sculpted, cell: Cell, sheetNamed: (name: string) => Image): void {
  const pieces = art.pieces(cell.figure);
  const main = pieces.find(({ material }) => material.channel !== undefined)?.material.channel;
  const rendering = tidy(render(pieces, cell.yaw));
  const front = cell.depths[art.against];
  const top = art.topFrom?.(cell.figure) ?? Number.POSITIVE_INFINITY;
  for (let at = 0; at < width * height; at += 1) {
    const number = rendering.piece[at] ?? -1;
    if (number < 0) continue;
    const material = pieces[number]?.material;
    const channel = material?.channel ?? main;
    const behind = (rendering.depth[at] ?? 0) < (front[at] ?? 0) - 0.05 || isTucked(rendering, cell, at);
    const name = [
      art.id,
      channel === main ? "" : `-${channel}`,
      (rendering.level[at] ?? 0) > top ? "-top" : "",
      behind ? "-back" : "",
    ].join("");
    setPixel(sheetNamed(name), cell, at % width, Math.floor(at / width), material?.tones[rendering.tone[at] ?? 0] ?? 0);
  }
}

/** Off the figure, what is farther away than its middle belongs to the half behind. */
function isTucked(rendering: Rendering, { yaw, depths }: Cell, at: number): boolean {
  if ((depths.bare[at] ?? -48) > -48) return false;
  const level = rendering.level[at] ?? 0;
  const middle = project({ x: 0, y: level, z: 0 }, yaw).depth;
  return (rendering.depth[at] ?? 0) < middle - 2;
}

/** Takes away single pixels of another tone, which read as dirt at this size. */
function tidy(rendering: Rendering): Rendering {
  const { piece, tone } = rendering;
  const before = tone.slice();
  for (let at = width; at < width * (height - 1); at += 1) {
    if ((piece[at] ?? -1) < 0 || before[at] === 0) continue;
    const around = [at - 1, at + 1, at - width, at + width].map((each) =>
      piece[each] === piece[at] ? before[each] : undefined,
    );
    const [first] = around;
    if (first !== undefined && first !== 0 && around.every((each) => each === first)) tone[at] = first;
  }
  return rendering;
}

function stamp(art: Stamped, cell: Cell, sheet: Image): void {
  const drawn = art.stamps[cell.facing];
  if (drawn === undefined) return;
  const middle = project(cell.figure.head, cell.yaw);
  const left = Math.floor(middle.x) + drawn.x;
  const top = Math.floor(middle.y) + drawn.y;
  for (const [dy, row] of drawn.rows.entries()) {
    for (const [dx, mark] of [...row].entries()) {
      if (mark !== ".") setPixel(sheet, cell, left + dx, top + dy, art.tones[Number(mark)] ?? 0);
    }
  }
}

function setPixel(sheet: Image, cell: Cell, x: number, y: number, color: number): void {
  if (cell.x + x < 0 || cell.x + x >= sheet.width) return;
  sheet.data.set([color >> 16, (color >> 8) & 255, color & 255, 255], ((cell.y + y) * sheet.width + cell.x + x) * 4);
}

/** Draws the bare body, with its mouth, and the shadow it stands on. */
export function drawBody(cells: readonly Cell[], mouth: Stamped): { readonly body: Image; readonly shadow: Image } {
  const sculpted = drawSheets({ kind: "sculpted", id: "body", against: "bare", pieces: bodyPieces }, cells);
  const body = sculpted.get("body");
  if (body === undefined) throw new Error("The body came out blank");
  const shadow = createImage(body.width, body.height);
  for (const cell of cells) {
    stamp(mouth, cell, body);
    const half = cell.figure.build.shoulderWidth + 4.5;
    for (let y = 70; y < 80; y += 1) {
      for (let x = 0; x < width; x += 1) {
        if (((x + 0.5 - 32) / half) ** 2 + ((y + 0.5 - 75.5) / 3) ** 2 < 1) setPixel(shadow, cell, x, y, 0x16323a);
      }
    }
  }
  return { body, shadow };
}
