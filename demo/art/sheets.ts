import { createImage, type Image } from "zealous-mantle";
import type { Art, Sculpted, Stamped } from "./art.ts";
import { bodyPieces, sleevedPieces } from "./body.ts";
import { type Build, type Figure, motions, poseFigure } from "./figure.ts";
import { height, project, type Rendering, render, width, yaws } from "./render.ts";

const columns = Math.max(...motions.map(({ frames }) => frames));
const facings = Object.keys(yaws);

/** One posed figure in one facing, and where its cell lies in a sheet. */
export interface Cell {
  readonly figure: Figure;
  readonly facing: string;
  readonly yaw: number;
  readonly x: number;
  readonly y: number;
  /** The depths that split a part into the half before the figure and the half behind. */
  readonly depths: Readonly<Record<Sculpted["against"], Float32Array>>;
}

/** Every cell of a build's sheets, in the order a catalog expects. */
export function cellsOf(build: Build): readonly Cell[] {
  return motions.flatMap(({ id, frames }, group) =>
    facings.flatMap((facing, within) =>
      Array.from({ length: frames }, (_, frame): Cell => {
        const figure = poseFigure(build, id, frame);
        const yaw = yaws[facing] ?? 0;
        const depths = {
          bare: render(bodyPieces(figure), yaw).depth,
          sleeved: render(sleevedPieces(figure), yaw).depth,
        };
        return { figure, facing, yaw, x: frame * width, y: (group * facings.length + within) * height, depths };
      }),
    ),
  );
}

export function blankSheet(): Image {
  return createImage(columns * width, motions.length * facings.length * height);
}

/** A named picture; blank ones are left out. */
export type Sheets = ReadonlyMap<string, Image>;

/** Draws a part in every cell. A part becomes up to one picture for each of: half, top, channel. */
export function drawSheets(art: Art, cells: readonly Cell[]): Sheets {
  const sheets = new Map<string, Image>();
  const sheetNamed = (name: string): Image => {
    let sheet = sheets.get(name);
    if (sheet === undefined) {
      sheet = blankSheet();
      sheets.set(name, sheet);
    }
    return sheet;
  };
  for (const cell of cells) {
    if (art.kind === "stamped") stamp(art, cell, sheetNamed(art.id));
    else drawSculpted(art, cell, sheetNamed);
  }
  return sheets;
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
