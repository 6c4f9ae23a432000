import type { Layer, Point, Rig, Size } from "../catalog/catalog.ts";

/**
 * How the cells of a layer's picture lie: rows are the animations in order, and within each the drawn facings in order;
 * columns are frames.
 */
export interface SheetLayout {
  readonly columns: number;
  readonly rows: number;
  /** The size of one cell, in pixels. */
  readonly cell: Size;
  /** Where a cell's upper left corner lies in the rig's frame. */
  readonly at: Point;
  readonly animations: readonly string[];
  /** The facings that are drawn, not mirrored. */
  readonly facings: readonly string[];
}

/** Derives the layout of a layer's picture from its rig. */
export function layoutSheet(rig: Rig, layer: Pick<Layer, "animations" | "grid">): SheetLayout {
  const animations = layer.animations ?? [...rig.animations.keys()];
  const facings = [...rig.facings.values()].filter(({ mirrored }) => !mirrored).map(({ id }) => id);
  return {
    columns: Math.max(...animations.map((id) => rig.animations.get(id)?.frames ?? 1)),
    rows: animations.length * facings.length,
    cell: layer.grid?.cell ?? rig.frame,
    at: layer.grid?.at ?? { x: 0, y: 0 },
    animations,
    facings,
  };
}

/** The row that holds an animation in a drawn facing; `undefined` when it is not in the picture. */
export function rowOf(layout: SheetLayout, animation: string, facing: string): number | undefined {
  const group = layout.animations.indexOf(animation);
  const within = layout.facings.indexOf(facing);
  return group < 0 || within < 0 ? undefined : group * layout.facings.length + within;
}
