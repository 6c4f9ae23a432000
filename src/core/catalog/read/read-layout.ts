import type { Axis, Depth, Layout } from "../model/drawn.ts";
import type { DepthSource, LayoutSource } from "../schema/art-schema.ts";
import type { Findings } from "./findings.ts";
import { readPoint } from "./numbers.ts";
import type { Entry } from "./source.ts";

const all: readonly Axis[] = ["animation", "facing", "frame"];
const noMap: ReadonlyMap<string, never> = new Map<string, never>();

/** Reads a layout. Axes that are not mentioned run where the others leave them room; by default frames run across, all else down. */
export function readLayout(source: LayoutSource): Layout {
  const { cell, at = [0, 0], columns, rows, margin = 0, spacing = 0 } = source;
  const across = source.across ?? (source.down ? rest(source.down) : columns ? all : rows ? [] : (["frame"] as const));
  return { cell, at: readPoint(at), across, down: source.down ?? rest(across), columns, rows, margin, spacing };
}

function rest(taken: readonly Axis[]): readonly Axis[] {
  return all.filter((axis) => !taken.includes(axis));
}

/** Reads a layout, and reports one that does not give every cell a place of its own. */
export function reportLayout(
  entry: Entry<unknown>,
  keys: readonly (string | number)[],
  source: LayoutSource,
  findings: Findings,
): Layout {
  const layout = readLayout(source);
  for (const code of flawsOf(layout)) findings.report(entry, keys, code);
  return layout;
}

/** What is wrong with a layout that does not give every cell a place of its own. */
export function flawsOf({ across, down, columns, rows }: Layout): readonly ("layout-axes" | "layout-fold")[] {
  if (all.join() !== [...across, ...down].sort().join()) return ["layout-axes"];
  const isTorn = (columns !== undefined && down.length > 0) || (rows !== undefined && across.length > 0);
  return isTorn ? ["layout-fold"] : [];
}

/** Reads a depth: one for all facings, or one for some and another for the rest. */
export function readDepth(source: DepthSource): Depth {
  if (typeof source === "number") return { rest: source, byFacing: noMap };
  const byFacing = Object.entries(source).filter(([facing]) => facing !== "default");
  return { rest: source.default, byFacing: byFacing.length === 0 ? noMap : new Map(byFacing) };
}

/** Reports facings of a depth that are not there. */
export function reportDepth(
  entry: Entry<unknown>,
  keys: readonly (string | number)[],
  source: DepthSource | undefined,
  facings: ReadonlySet<string>,
  findings: Findings,
): void {
  if (typeof source !== "object") return;
  for (const facing of Object.keys(source)) {
    if (facing !== "default") findings.known(entry, [...keys, facing], "facing", facing, facings);
  }
}
