import type { Document } from "@gltf-transform/core";
import { fill, paper } from "../art/paper.ts";
import { blendPicture } from "../raster/blend-picture.ts";
import { createImage, type Image } from "../raster/image.ts";
import { drawText, lineHeight, textWidth } from "../raster/pixel-font.ts";
import { documentOf } from "./documents.ts";
import { drawPieces, type Stance } from "./draw-model.ts";
import { findPieces, type Piece } from "./find-pieces.ts";
import type { ModelFile } from "./model-file.ts";
import type { ModelPlan, PlannedMesh } from "./plan-model.ts";
import { preparePiece } from "./prepare-piece.ts";
import type { PreparedPiece } from "./prepared-model.ts";
import { heightOf } from "./report-plan.ts";
import { ModelSkeleton } from "./skeleton.ts";
import { Textures } from "./surface.ts";

const cell = { width: 196, height: 256 };
const margin = 14;
const columns = 6;
const head = lineHeight * 2 + 8;
const foot = lineHeight * 2 + 18;

/**
 * Draws each mesh of a planned figure where it is worn, on the figure that is pale, with its name and what becomes of it, so that a wrong guess
 * is seen: skin first, then parts, then what nothing is said of.
 *
 * @param figure - the model that was planned.
 * @throws MantleError `bad-picture` for a texture that cannot be read.
 */
export async function modelSheet(figure: ModelFile, { meshes, choices }: ModelPlan): Promise<Image> {
  const document = documentOf(figure);
  const { pieces: found } = findPieces(document);
  const drawn = await prepareAll(document, found);
  const stance = stanceFor(document, found);
  const pale = draw([...drawn.values()].flat(), stance);
  const planned = new Map(meshes.map((piece) => [piece.name, piece]));
  const shown = found
    .flatMap(({ name }) => planned.get(name) ?? [])
    .toSorted((one, other) => placeOf(one) - placeOf(other));
  const rows = Math.ceil(shown.length / columns);
  const across = Math.min(columns, Math.max(1, shown.length));
  const sheet = createImage(
    margin + across * (cell.width + margin),
    margin + rows * (head + cell.height + foot + margin),
  );
  fill(sheet, 0, 0, sheet.width, sheet.height, paper.sheet);
  for (const [number, piece] of shown.entries()) {
    const x = margin + (number % columns) * (cell.width + margin);
    const y = margin + Math.floor(number / columns) * (head + cell.height + foot + margin);
    drawText(sheet, fitting(piece.name, 2), { x, y, color: paper.ink, size: 2 });
    fill(sheet, x, y + head, cell.width, cell.height, paper.cell);
    blendPicture(sheet, pale, x, y + head, 0.25);
    blendPicture(sheet, draw(drawn.get(piece.name) ?? [], stance), x, y + head);
    drawText(sheet, fitting(choices[piece.name] === null ? "left out" : becomes(piece), 2), {
      x,
      y: y + head + cell.height + 5,
      color: paper.faint,
      size: 2,
    });
  }
  return sheet;
}

/** Skin, parts, and the rest. */
function placeOf({ choice }: PlannedMesh): number {
  return choice === undefined ? 2 : choice.kind === "part" ? 1 : 0;
}

function becomes({ choice }: PlannedMesh): string {
  if (choice === undefined) return "not said";
  return choice.kind === "part" ? `${choice.part} in ${choice.slot}` : `skin, ${choice.region}`;
}

/** As much of a text as a cell has room for. */
function fitting(text: string, size: number): string {
  let fits = text;
  while (textWidth(fits) * size > cell.width) fits = `${fits.replace(/\.+$/, "").slice(0, -1)}..`;
  return fits;
}

async function prepareAll(
  document: Document,
  found: readonly Piece[],
): Promise<ReadonlyMap<string, readonly PreparedPiece[]>> {
  const skeleton = new ModelSkeleton(document);
  const textures = new Textures();
  const all = new Map<string, readonly PreparedPiece[]>();
  for (const { name, node } of found) {
    const own: PreparedPiece[] = [];
    const mesh = { part: undefined, file: "", node: name, attach: undefined, recolors: new Map() };
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const piece = preparePiece(primitive, node, mesh, skeleton, await textures.of(primitive));
      const hang = { joint: undefined, at: node.getWorldMatrix() };
      if (piece !== undefined) own.push(piece.joints === undefined ? { ...piece, hang } : piece);
    }
    all.set(name, own);
  }
  return all;
}

/** At rest, turned a little to the side and seen from a little above, so large that all of it is in a cell. */
function stanceFor(document: Document, found: readonly Piece[]): Stance {
  const reach = Math.max(
    ...found.flatMap(({ box }) => [box.min, box.max].flatMap(([x = 0, , z = 0]) => [Math.abs(x), Math.abs(z)])),
  );
  const size = Math.min(
    (cell.height * 0.84) / Math.max(heightOf(found), 1e-6),
    (cell.width * 0.46) / Math.max(reach, 1e-6),
  );
  const lowest = Math.min(...found.map(({ box }) => box.min[1] ?? 0));
  return {
    pose: new ModelSkeleton(document).pose("", 0),
    view: { turn: -0.45, tilt: 0.15, size, x: cell.width / 2, y: cell.height * 0.92 + lowest * size },
  };
}

function draw(pieces: readonly PreparedPiece[], stance: Stance): Image {
  return drawPieces(pieces, stance, { x: 0, y: 0, ...cell }, { scale: 1, samples: 3, ink: 1 });
}
