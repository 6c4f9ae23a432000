import type { Fix, Problem } from "../base/problem.ts";
import type { Body, Catalog, Layer, Size } from "../catalog/model/catalog.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { pictureOf } from "./picture-of.ts";
import { layoutSheet, type SheetLayout } from "./sheet-layout.ts";

/**
 * Finds pictures that are missing, that do not divide into the cells their layer says, and files no layer uses.
 *
 * @param sizes - the size of every picture in the catalog folder, by path; `undefined` for a file that is not a picture.
 */
export function checkArt(catalog: Catalog, sizes: ReadonlyMap<string, Size | undefined>): readonly Problem[] {
  const problems = new Map<string, Problem>();
  const used = new Set<string>();
  for (const { owner, layer, body } of layersOnBodies(catalog)) {
    const path = pictureOf(layer, body);
    used.add(path);
    if (problems.has(path)) continue;
    const problem = checkPicture(path, owner, layoutSheet(body.rig, layer), sizes);
    if (problem !== undefined) problems.set(path, problem);
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

function checkPicture(
  path: string,
  owner: string,
  layout: SheetLayout,
  sizes: ReadonlyMap<string, Size | undefined>,
): Problem | undefined {
  if (!sizes.has(path)) {
    return missingPicture(path, owner);
  }
  const size = sizes.get(path);
  if (size === undefined)
    return artProblem("bad-picture", path, "This is not a PNG that can be read.", "Save it again as a PNG.");
  const { columns, rows, cell } = layout;
  if (size.width === columns * cell.width && size.height === rows * cell.height) return undefined;
  const expected = `${columns} columns by ${rows} rows of ${cell.width}×${cell.height} pixels, ${columns * cell.width}×${rows * cell.height} in all`;
  const because = `The picture of "${owner}" is ${size.width}×${size.height} pixels; its layer says ${expected}.`;
  return artProblem("grid-mismatch", path, because, ...gridAdvice(size, layout));
}

function missingPicture(path: string, owner: string): Problem {
  const because = `"${owner}" needs this picture, and it is not there.`;
  return artProblem("missing-picture", path, because, "Draw it, or correct the path in its layer.");
}

function gridAdvice({ width, height }: Size, { columns, rows, cell }: SheetLayout): readonly string[] {
  if (width === rows * cell.width && height === columns * cell.height)
    return ["Rows and columns are swapped: lay frames out in columns, and animations and facings in rows."];
  if (width % columns === 0 && height % rows === 0) {
    const found = `{ "width": ${width / columns}, "height": ${height / rows} }`;
    return [
      `If its cells are ${width / columns}×${height / rows} pixels, say so in the layer: "grid": { "cell": ${found} }.`,
    ];
  }
  if (width % cell.width === 0 && height % cell.height === 0) {
    const foundRows = height / cell.height;
    return [
      `It holds ${width / cell.width} columns by ${foundRows} rows; if some animations are not drawn, list those that are in "animations".`,
    ];
  }
  return ["Make the picture the size its layer says; a row or a column is cut short."];
}

function unusedPicture(path: string): Problem {
  const because = "No layer uses this picture.";
  return {
    ...artProblem("unused-picture", path, because, "Name it in a layer, or remove the file."),
    severity: "warning",
  };
}

function artProblem(code: string, file: string, because: string, ...advice: readonly string[]): Problem {
  const fixes: readonly Fix[] = advice.map((say) => ({ say }));
  return { code, severity: "error", place: { file, pointer: "" }, because, fixes };
}
