import type { Facing, Layer, Point, Rig, Size } from "../catalog/model/catalog.ts";

/**
 * How the cells of a layer's picture lie: rows are the animations in order, and within each the drawn facings in order;
 * columns are frames. A still picture has one column, and a row for each facing.
 */
export interface SheetLayout {
  readonly columns: number;
  readonly rows: number;
  /** The size of one cell, in pixels. */
  readonly cell: Size;
  /** Where a cell's upper left corner lies in the rig's frame. */
  readonly at: Point;
  /** Empty for a still picture, which shows in all of them. */
  readonly animations: readonly string[];
  /** The facings that are drawn; `"any"` for one row that shows in all of them. */
  readonly facings: readonly string[] | "any";
}

/** Derives the layout of a layer's picture from its rig. */
export function layoutSheet(rig: Rig, layer: Pick<Layer, "animations" | "grid" | "facings" | "still">): SheetLayout {
  const animations = layer.still ? [] : (layer.animations ?? [...rig.animations.keys()]);
  const facings = layer.facings ?? [...rig.facings.values()].filter(({ mirrored }) => !mirrored).map(({ id }) => id);
  return {
    columns: Math.max(1, ...animations.map((id) => rig.animations.get(id)?.frames ?? 1)),
    rows: (layer.still ? 1 : animations.length) * (facings === "any" ? 1 : facings.length),
    cell: layer.grid?.cell ?? rig.frame,
    at: layer.grid?.at ?? { x: 0, y: 0 },
    animations,
    facings,
  };
}

/** The row that holds an animation in a facing, and whether it is to be mirrored; `undefined` when it is not in the picture. */
export function rowOf(
  { animations, facings }: SheetLayout,
  animation: string,
  facing: Facing,
): { readonly row: number; readonly flip: boolean } | undefined {
  const group = animations.length === 0 ? 0 : animations.indexOf(animation);
  const own = facings === "any" ? -1 : facings.indexOf(facing.id);
  const within = facings === "any" ? 0 : own >= 0 ? own : facings.indexOf(facing.drawnAs);
  if (group < 0 || within < 0) return undefined;
  return { row: group * (facings === "any" ? 1 : facings.length) + within, flip: own < 0 && facing.mirrored };
}
