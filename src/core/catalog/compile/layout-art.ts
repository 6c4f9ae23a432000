import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Axis, LayerLayout, Layout, Point, Rectangle, Rig, Size } from "../model/drawn.ts";
import type { DrawnFrame, Grid, LayerArt, SlicedImage } from "../model/layer-art.ts";

const plain: Layout = {
  cell: undefined,
  at: { x: 0, y: 0 },
  across: ["frame"],
  down: ["animation", "facing"],
  columns: undefined,
  rows: undefined,
  margin: 0,
  spacing: 0,
};

const corner: Point = { x: 0, y: 0 };
/** The same for layers whose frames lie alike. */
export function layoutKey({ animations, facings, still, layout, column, row, cells }: LayerLayout): string {
  return JSON.stringify([animations, facings, still, layout, column, row, cells]);
}

/**
 * Lays out the frames of a layer on a rig.
 *
 * Without more said, rows are the animations in order, and within each the drawn facings in order; columns are frames. A still
 * picture has one column, and a row for each facing.
 *
 * @param key - the same for layers whose frames lie alike.
 */
export function layoutArt(rig: Rig, laid: LayerLayout, key: string): LayerArt {
  const layout = typeof laid.layout === "string" ? rig.layouts.get(laid.layout) : laid.layout;
  return layFrames(rig, laid, layout ?? rig.layout ?? plain, key);
}

/** Which animation, facing and frame, each counted from 0. */
type Place = Readonly<Record<Axis, number>>;

function layFrames(rig: Rig, laid: LayerLayout, layout: Layout, key: string): LayerArt {
  const { across, down, margin, spacing, at } = layout;
  const size = layout.cell ?? rig.frame;
  const animations = laid.still ? [""] : (laid.animations ?? [...rig.animations.keys()]);
  const drawn = laid.facings ?? [...rig.facings.values()].filter(({ mirrored }) => !mirrored).map(({ id }) => id);
  const facings = drawn === "any" ? [""] : drawn;
  const counts = animations.map((id) => rig.animations.get(id)?.frames ?? 1);
  const extent = { counts, facings: facings.length };
  const cells: Rectangle[] = [];
  const numbers = new Map<string, number>();
  let listed = 0;
  const frameIn = (place: Place): DrawnFrame | undefined => {
    const [lineAcross, lineDown] = [countTo(across, place, extent), countTo(down, place, extent)];
    const { columns = Number.POSITIVE_INFINITY, rows = Number.POSITIVE_INFINITY } = layout;
    const found =
      laid.cells === undefined
        ? {
            x: (lineAcross % columns) + Math.floor(lineDown / rows),
            y: (lineDown % rows) + Math.floor(lineAcross / columns),
          }
        : laid.cells[listed];
    listed += 1;
    if (found === undefined) return undefined;
    const column = found.x + laid.column;
    const row = found.y + laid.row;
    const cell = getOrInsert(
      numbers,
      `${column},${row}`,
      () =>
        cells.push({
          x: margin + column * (size.width + spacing),
          y: margin + row * (size.height + spacing),
          width: size.width,
          height: size.height,
        }) - 1,
    );
    return { picture: 0, cell, size, trim: corner, at };
  };
  const frames = new Map(
    animations.map((id, animation) => [
      id,
      new Map(
        facings.map((name, facing) => [
          name,
          Array.from({ length: counts[animation] as number }, (_, frame) => frameIn({ animation, facing, frame })),
        ]),
      ),
    ]),
  );
  const isWhole = laid.cells === undefined && laid.column === 0 && laid.row === 0;
  return { key, pictures: [cut(cells)], frames, grid: isWhole ? gridOf(cells, size, layout) : undefined };
}

interface Extent {
  /** Frames of each animation. */
  readonly counts: readonly number[];
  readonly facings: number;
}

/** How many places come before one on some axes. @param within - the animation that has been settled already. */
function countTo(axes: readonly Axis[], place: Place, extent: Extent, within?: number): number {
  const [axis, ...inner] = axes;
  if (axis === undefined) return 0;
  if (axis !== "animation") return place[axis] * span(inner, extent, within) + countTo(inner, place, extent, within);
  let before = 0;
  for (let animation = 0; animation < place.animation; animation += 1) before += span(inner, extent, animation);
  return before + countTo(inner, place, extent, place.animation);
}

/** How many places there are on some axes. */
function span(axes: readonly Axis[], extent: Extent, within?: number): number {
  const [axis, ...inner] = axes;
  if (axis === undefined) return 1;
  if (axis === "facing") return extent.facings * span(inner, extent, within);
  if (axis === "animation") return extent.counts.reduce((sum, _, each) => sum + span(inner, extent, each), 0);
  // Lines of all animations are as long as the longest.
  const frames = within === undefined ? Math.max(...extent.counts) : (extent.counts[within] as number);
  return frames * span(inner, extent, within);
}

function gridOf(cells: readonly Rectangle[], cell: Size, { margin, spacing, columns, rows }: Layout): Grid {
  const right = Math.max(...cells.map(({ x }) => x)) + cell.width;
  const bottom = Math.max(...cells.map(({ y }) => y)) + cell.height;
  const count = (end: number, length: number) => Math.round((end - margin + spacing) / (length + spacing));
  const [wide, high] = [columns ?? count(right, cell.width), rows ?? count(bottom, cell.height)];
  return {
    columns: wide,
    rows: high,
    cell,
    size: {
      width: 2 * margin + wide * (cell.width + spacing) - spacing,
      height: 2 * margin + high * (cell.height + spacing) - spacing,
    },
  };
}

/** The cells of a picture, with a key that is the same for pictures that are cut alike. */
export function cut(cells: readonly Rectangle[]): SlicedImage {
  return { key: cells.map(({ x, y, width, height }) => `${x},${y},${width},${height}`).join(" "), cells };
}
