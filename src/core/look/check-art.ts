import { type FixCode, type Given, type Message, message, type ProblemCode } from "../base/message.ts";
import type { Fix, Problem } from "../base/problem.ts";
import type { Body, Catalog, Grid, Layer, LayerArt, Rectangle, Size } from "../catalog/model/catalog.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { drawnArt } from "./resolve-look.ts";

/**
 * Finds pictures that are missing, that do not divide into the cells their layer says, and files no layer uses.
 *
 * @param sizes - the size of every picture in the catalog folder, by path; `undefined` for a file that is not a picture.
 */
export function checkArt(catalog: Catalog, sizes: ReadonlyMap<string, Size | undefined>): readonly Problem[] {
  const problems = new Map<string, Problem>();
  const used = new Set<string>();
  for (const { owner, layer, body } of layersOnBodies(catalog)) {
    const { images, art } = drawnArt(layer, body, catalog.tables);
    for (const [number, path] of images.entries()) {
      used.add(path);
      if (problems.has(path)) continue;
      const cells = art.pictures[number]?.cells ?? [];
      const problem =
        checkPicture({ path, owner, grid: art.grid, cells }, sizes) ?? checkCount(path, owner, layer, art);
      if (problem !== undefined) problems.set(path, problem);
    }
  }
  for (const { id, markers } of catalog.bodies.values()) {
    if (markers === undefined) continue;
    used.add(markers);
    if (!sizes.has(markers)) problems.set(markers, missingPicture(markers, id));
  }
  const unused = [...sizes.keys()].filter((path) => !used.has(path));
  return [...problems.values(), ...unused.map((path) => unusedPicture(path))];
}

/** Every layer with each body it is shown on. */
export function* layersOnBodies(catalog: Catalog): Iterable<{ owner: string; layer: Layer; body: Body }> {
  for (const body of catalog.bodies.values()) {
    for (const layer of body.layers) yield { owner: body.id, layer, body };
    for (const form of catalog.forms.values()) {
      if (form.bodies !== undefined && !body.lineage.some((each) => form.bodies?.has(each))) continue;
      for (const layer of form.layers ?? []) yield { owner: form.id, layer, body };
    }
    for (const part of catalog.parts.values()) {
      if (!fitsBody(part, body.id)) continue;
      for (const layer of part.layers) yield { owner: part.id, layer, body };
    }
  }
}

/** A picture as a layer has it. */
interface Used {
  readonly path: string;
  readonly owner: string;
  readonly grid: Grid | undefined;
  readonly cells: readonly Rectangle[];
}

function checkPicture(
  { path, owner, grid, cells }: Used,
  sizes: ReadonlyMap<string, Size | undefined>,
): Problem | undefined {
  if (!sizes.has(path)) return missingPicture(path, owner);
  const size = sizes.get(path);
  if (size === undefined)
    return artProblem(path, message("bad-picture", { reason: message("picture-unreadable") }), fix("mend-bad-picture"));
  return grid === undefined ? checkCells(path, owner, cells, size) : checkGrid(path, owner, grid, size);
}

function checkGrid(path: string, owner: string, grid: Grid, found: Size): Problem | undefined {
  const { columns, rows, cell, size } = grid;
  if (found.width === size.width && found.height === size.height) return undefined;
  const expected = { columns, rows, cellWidth: cell.width, cellHeight: cell.height };
  const params = { owner, ...found, ...expected, allWidth: size.width, allHeight: size.height };
  return artProblem(path, message("grid-mismatch", params), gridAdvice(found, grid));
}

function checkCells(path: string, owner: string, cells: readonly Rectangle[], found: Size): Problem | undefined {
  const outside = cells.filter(({ x, y, width, height }) => x + width > found.width || y + height > found.height);
  const [first] = outside;
  if (first === undefined) return undefined;
  const { x, y, width: cellWidth, height: cellHeight } = first;
  const params = { owner, ...found, x, y, cellWidth, cellHeight };
  return artProblem(path, message("cell-outside", params), fix("mend-cell-outside"));
}

function checkCount(path: string, owner: string, { laid }: Layer, { frames }: LayerArt): Problem | undefined {
  if (laid.cells === undefined) return undefined;
  const count = [...frames.values()].flatMap((byFacing) => [...byFacing.values()].flat()).length;
  if (count === laid.cells.length) return undefined;
  return artProblem(
    path,
    message("cell-count", { owner, count: laid.cells.length, frames: count }),
    fix("mend-cell-count", { frames: count }),
  );
}

function missingPicture(path: string, owner: string): Problem {
  return artProblem(path, message("missing-picture", { owner }), fix("mend-missing-picture"));
}

function gridAdvice({ width, height }: Size, { columns, rows, cell }: Grid): Fix {
  if (width === rows * cell.width && height === columns * cell.height) return fix("swap-rows");
  if (width % columns === 0 && height % rows === 0)
    return fix("say-grid", { width: width / columns, height: height / rows });
  if (width % cell.width === 0 && height % cell.height === 0)
    return fix("list-animations", { columns: width / cell.width, rows: height / cell.height });
  return fix("resize-picture");
}

function unusedPicture(path: string): Problem {
  return { ...artProblem(path, message("unused-picture"), fix("mend-unused-picture")), severity: "warning" };
}

function artProblem(file: string, { code, params }: Message<ProblemCode>, advice: Fix): Problem {
  return { code, params, severity: "error", place: { file, pointer: "" }, fixes: [advice] };
}

function fix<Code extends FixCode>(code: Code, ...[params]: Given<Code>): Fix {
  return { code, params: params ?? {} };
}
