import { type FixCode, type Given, type Message, message, type ProblemCode } from "../base/message.ts";
import { type Fix, type Problem, pointerTo } from "../base/problem.ts";
import type { Body, Catalog, Grid, Layer, LayerArt, Rectangle, Size } from "../catalog/model/catalog.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { isDrawn } from "./is-drawn.ts";
import { drawnArt } from "./look-layer.ts";

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
        checkPicture({ path, owner, grid: art.grid, cells, facings: facingsIn(layer, body) }, sizes) ??
        checkCount(path, owner, layer, art);
      if (problem !== undefined) problems.set(path, problem);
    }
  }
  for (const { id, markers } of catalog.bodies.values()) {
    if (markers === undefined) continue;
    used.add(markers);
    if (!sizes.has(markers)) problems.set(markers, missingPicture(markers, id));
  }
  for (const [rig, found] of otherFrames(catalog, problems)) {
    for (const path of found.paths) problems.delete(path);
    problems.set(`rig ${rig}`, frameOfRig(catalog, rig, found));
  }
  const unused = new Set([...sizes.keys()].filter((path) => !used.has(path)));
  for (const [path, { code }] of problems) {
    const meant = code === "missing-picture" ? [...unused].find((each) => alike(each) === alike(path)) : undefined;
    if (meant === undefined) continue;
    unused.delete(meant);
    problems.set(
      path,
      artProblem(path, message("picture-called-otherwise", { path, meant }), fix("rename-picture", { path })),
    );
  }
  return [...problems.values(), ...[...unused].map((path) => unusedPicture(path))];
}

interface OtherFrame extends Size {
  readonly paths: readonly string[];
}

/** Rigs whose pictures all have cells of another size than the rig's frame, and all of the same: one number is wrong, and not the pictures. */
function otherFrames(catalog: Catalog, problems: ReadonlyMap<string, Problem>): ReadonlyMap<string, OtherFrame> {
  const found = new Map<string, OtherFrame | undefined>();
  const seen = new Set<string>();
  for (const { layer, body } of layersOnBodies(catalog)) {
    const { images, art } = drawnArt(layer, body, catalog.tables);
    const [path = ""] = images;
    // Only pictures in the plain layout say how large the frame is.
    if (art.grid === undefined || art.grid.cell !== body.rig.frame || seen.has(path)) continue;
    seen.add(path);
    const problem = problems.get(path);
    const [advice] = problem?.fixes ?? [];
    const { width, height } = advice?.params ?? {};
    const isOther = problem?.code === "grid-mismatch" && typeof width === "number" && typeof height === "number";
    const known = found.get(body.rig.id);
    const isFirst = !found.has(body.rig.id);
    const isSame = isOther && (isFirst || (known?.width === width && known.height === height));
    found.set(body.rig.id, isSame ? { width, height, paths: [...(known?.paths ?? []), path] } : undefined);
  }
  return new Map(
    [...found].flatMap(([rig, other]) => (other !== undefined && other.paths.length > 1 ? [[rig, other]] : [])),
  );
}

function frameOfRig(catalog: Catalog, rig: string, { width, height, paths }: OtherFrame): Problem {
  const frame = catalog.rigs.get(rig)?.frame ?? { width: 0, height: 0 };
  const params = { rig, width, height, count: paths.length, frameWidth: frame.width, frameHeight: frame.height };
  const finding = artProblem(
    "catalog.json",
    message("frame-of-rig", params),
    fix("mend-frame-of-rig", { width, height }),
  );
  return { ...finding, place: { pointer: pointerTo("rigs", rig, "frame") } };
}

/** The same for paths that differ in case alone, or in how an accent is written. */
function alike(path: string): string {
  return path.normalize("NFC").toLowerCase();
}

/** Every layer with each body it is shown on. */
export function* layersOnBodies(catalog: Catalog): Iterable<{ owner: string; layer: Layer; body: Body }> {
  for (const body of catalog.bodies.values()) {
    if (!isDrawn(body)) continue;
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
  /** How many facings are drawn in it; 1 where one is for all. */
  readonly facings: number;
}

function checkPicture(used: Used, sizes: ReadonlyMap<string, Size | undefined>): Problem | undefined {
  const { path, owner, grid, cells } = used;
  if (!sizes.has(path)) return missingPicture(path, owner);
  const size = sizes.get(path);
  if (size === undefined)
    return artProblem(path, message("bad-picture", { reason: message("picture-unreadable") }), fix("mend-bad-picture"));
  return grid === undefined ? checkCells(path, owner, cells, size) : checkGrid(used, grid, size);
}

function checkGrid({ path, owner, facings }: Used, grid: Grid, found: Size): Problem | undefined {
  const { columns, rows, cell, size } = grid;
  if (found.width === size.width && found.height === size.height) return undefined;
  const expected = { columns, rows, cellWidth: cell.width, cellHeight: cell.height };
  const params = { owner, ...found, ...expected, allWidth: size.width, allHeight: size.height };
  return artProblem(path, message("grid-mismatch", params), gridAdvice(found, grid, facings));
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

function facingsIn({ laid }: Layer, { rig }: Body): number {
  if (laid.facings === "any") return 1;
  return laid.facings?.length ?? [...rig.facings.values()].filter(({ mirrored }) => !mirrored).length;
}

function missingPicture(path: string, owner: string): Problem {
  return artProblem(path, message("missing-picture", { owner }), fix("mend-missing-picture"));
}

function gridAdvice({ width, height }: Size, { columns, rows, cell }: Grid, facings: number): Fix {
  if (width === rows * cell.width && height === columns * cell.height) return fix("swap-rows");
  const isWhole = width % cell.width === 0 && height % cell.height === 0 && height < rows * cell.height;
  const animations = fix("list-animations", { columns: width / cell.width, rows: height / cell.height });
  const isForOne = facings > 1 && rows % facings === 0 && height * facings === rows * cell.height;
  if (isForOne && width === columns * cell.width) return fix("say-any-facing", { held: rows / facings, rows });
  // Rows that are missing come first: another size of cells would tear what is drawn.
  if (isWhole && width === columns * cell.width) return animations;
  const border = borderIn({ width, height }, { columns, rows, cell });
  if (border !== undefined) return fix("say-border", border);
  const factor = width / (columns * cell.width);
  const isScaled = Number.isInteger(factor) || Number.isInteger(1 / factor);
  if (isScaled && height === rows * cell.height * factor)
    return fix("scale-picture", { width: width / columns, height: height / rows, factor });
  if (width % columns === 0 && height % rows === 0)
    return fix("say-grid", { width: width / columns, height: height / rows });
  if (isWhole) return animations;
  return fix("resize-picture");
}

/** Lines between cells, and perhaps around them, that explain the size of a picture. */
function borderIn(
  { width, height }: Size,
  { columns, rows, cell }: Pick<Grid, "columns" | "rows" | "cell">,
): { readonly margin: number; readonly spacing: number } | undefined {
  const [across, down] = [width - columns * cell.width, height - rows * cell.height];
  for (const [margin, lines] of [
    [1, 1],
    [0, -1],
  ] as const) {
    const spacing = across / (columns + lines);
    if (Number.isInteger(spacing) && spacing > 0 && spacing <= 16 && down === spacing * (rows + lines))
      return { margin: margin * spacing, spacing };
  }
  return undefined;
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
