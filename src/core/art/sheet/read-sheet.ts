import { message } from "../../base/message.ts";
import { nearestId } from "../../base/nearest-id.ts";
import type { Problem } from "../../base/problem.ts";
import { layoutArt } from "../../catalog/compile/layout-art.ts";
import type { Axis, LayerArt, LayerLayout, Rig, Size } from "../../catalog/model/catalog.ts";
import { flawsOf, readLayout } from "../../catalog/read/read-layout.ts";
import { cropImage, type Image } from "../../raster/image.ts";
import { visibleBounds } from "../../raster/visible-bounds.ts";
import { artFinding, type Found, type FoundFrame, type FoundPart } from "../found.ts";

/** How a sheet or a strip is laid out; what is left out is as it is for layers of a catalog. */
export interface SheetOptions {
  /** The animations drawn, in the order of the picture. @defaultValue all of the rig's */
  readonly animations?: readonly string[];
  /** The facings drawn, in the order of the picture; `"any"` for one that is for all. @defaultValue the drawn ones of the rig */
  readonly facings?: readonly string[] | "any";
  /** One picture for every animation and frame. */
  readonly still?: boolean;
  /** The size of a cell, in pixels. @defaultValue the rig's frame */
  readonly cell?: Size;
  /** Where a cell's upper left corner lies in the rig's frame. */
  readonly at?: readonly [x: number, y: number];
  readonly across?: readonly Axis[];
  readonly down?: readonly Axis[];
  readonly columns?: number;
  readonly rows?: number;
  readonly margin?: number;
  readonly spacing?: number;
  /** Whether the picture holds a part in each line of such rows, or columns: a strip with one hat a row. */
  readonly each?: "row" | "column";
}

/**
 * Cuts a sheet or a strip into frames.
 *
 * @param name - of the file; parts are called by it.
 */
export function readSheet(name: string, image: Image, rig: Rig, options: SheetOptions = {}): Found {
  const wrong = checkOptions(name, rig, options);
  if (wrong.length > 0) return { parts: [], problems: wrong };
  const laid = laidOut(options);
  const first = layoutArt(rig, laid, "");
  const { grid } = first;
  if (grid === undefined) return { parts: [], problems: [] };
  const { margin = 0, spacing = 0, each } = options;
  if (each === undefined) {
    const problem = checkSize(name, image, first, rig, options);
    return { parts: problem === undefined ? [partOf(name, image, first)] : [], problems: [problem ?? []].flat() };
  }
  const [length, cell, lines] =
    each === "row" ? [image.height, grid.cell.height, grid.rows] : [image.width, grid.cell.width, grid.columns];
  const [cross, needed] = each === "row" ? [image.width, grid.size.width] : [image.height, grid.size.height];
  const count = (length - 2 * margin + spacing) / (cell + spacing) / lines;
  if (!Number.isInteger(count) || cross < needed) return { parts: [], problems: [mismatch(name, image, first)] };
  const parts = Array.from({ length: count }, (_, number) => {
    const place = { column: each === "column" ? number * lines : 0, row: each === "row" ? number * lines : 0 };
    return partOf(`${name.replace(/\.png$/i, "")} ${number + 1}`, image, layoutArt(rig, { ...laid, ...place }, ""));
  });
  return { parts: parts.filter(({ layers }) => layers.some(({ frames }) => frames.length > 0)), problems: [] };
}

/** What is said of the layout and cannot be so. */
function checkOptions(
  name: string,
  rig: Rig,
  { animations = [], facings = [], across, down, columns, rows }: SheetOptions,
): readonly Problem[] {
  const unknown = (noun: "animation" | "facing", ids: readonly string[], all: ReadonlyMap<string, unknown>) =>
    ids.flatMap((id) => {
      if (all.has(id)) return [];
      const meant = nearestId(id, [...all.keys()]);
      const advice = meant === undefined ? message("define-id", { id }) : message("meant-id", { meant });
      return [artFinding(name, "error", message(`unknown-${noun}`, { id }), advice)];
    });
  const layout = readLayout({ across: across && [...across], down: down && [...down], columns, rows });
  const wrong = flawsOf(layout).map((code) => artFinding(name, "error", message(code), message(`mend-${code}`)));
  const named = facings === "any" ? [] : unknown("facing", facings, rig.facings);
  return [...unknown("animation", animations, rig.animations), ...named, ...wrong];
}

function laidOut({ animations, facings, still = false, ...layout }: SheetOptions): LayerLayout {
  const { cell, at = [0, 0], across, down, columns, rows, margin, spacing } = layout;
  const source = {
    cell,
    at: [...at] as [number, number],
    across: across && [...across],
    down: down && [...down],
    columns,
    rows,
    margin,
    spacing,
  };
  return {
    animations,
    facings,
    still,
    layout: readLayout(source),
    column: 0,
    row: 0,
    cells: undefined,
    names: new Map(),
    anchor: { x: 0.5, y: 1 },
  };
}

/** The frames of a part in which something is drawn. */
function partOf(name: string, image: Image, { frames, pictures }: LayerArt): FoundPart {
  const found: FoundFrame[] = [];
  for (const [animation, byFacing] of frames)
    for (const [facing, list] of byFacing)
      for (const [frame, drawn] of list.entries()) {
        const cell = drawn && pictures[drawn.picture]?.cells[drawn.cell];
        if (drawn === undefined || cell === undefined) continue;
        const cut = cropImage(image, cell);
        if (visibleBounds(cut) === undefined) continue;
        const isStill = animation === "";
        found.push({
          animation: isStill ? undefined : animation,
          facing: facing === "" ? undefined : facing,
          frame: isStill ? undefined : frame,
          image: cut,
          at: drawn.at,
        });
      }
  return { name, slot: undefined, layers: [{ opacity: 1, frames: found }] };
}

function checkSize(name: string, image: Image, art: LayerArt, rig: Rig, options: SheetOptions): Problem | undefined {
  const { grid } = art;
  if (grid === undefined || (image.width === grid.size.width && image.height === grid.size.height)) return undefined;
  const finding = mismatch(name, image, art);
  const { cell, columns, rows } = grid;
  // Only whole cells of the size that was said: another divisor would tear the picture.
  if (image.width === rows * cell.width && image.height === columns * cell.height && options.across === undefined)
    return { ...finding, fixes: [message("transpose")] };
  const isFramesAcross = options.across === undefined && options.down === undefined && options.columns === undefined;
  const lines = options.facings === "any" ? 1 : rows / (options.animations?.length ?? rig.animations.size);
  if (image.width === cell.width && image.height === lines * cell.height)
    return { ...finding, fixes: [message("say-still")] };
  const facings = rows / (options.animations?.length ?? rig.animations.size);
  const animations = image.height / cell.height / facings;
  if (isFramesAcross && options.still !== true && Number.isInteger(animations) && image.width % cell.width === 0)
    return { ...finding, fixes: [message("say-animations", { rows: image.height / cell.height, count: animations })] };
  return finding;
}

function mismatch(name: string, { width, height }: Image, { grid }: LayerArt): Problem {
  const { columns = 0, rows = 0, cell = { width: 0, height: 0 }, size = { width: 0, height: 0 } } = grid ?? {};
  const expected = {
    columns,
    rows,
    cellWidth: cell.width,
    cellHeight: cell.height,
    allWidth: size.width,
    allHeight: size.height,
  };
  return artFinding(name, "error", message("sheet-mismatch", { width, height, ...expected }), message("say-cell"));
}
