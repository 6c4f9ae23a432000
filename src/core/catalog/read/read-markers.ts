import { getOrInsert } from "../../base/get-or-insert.ts";
import type { ParamsOf } from "../../base/message.ts";
import type { Problem } from "../../base/problem.ts";
import type { Point, PointTable } from "../model/drawn.ts";
import type { RigSource } from "../schema/art-schema.ts";
import { drawnFacings } from "./drawn-facings.ts";
import { adviceOn } from "./findings.ts";
import type { PointImage } from "./point-images.ts";

/**
 * Reads named points from a marker picture, laid out like any sheet of the rig: in each cell, the one opaque pixel of a point's
 * color is where the point is in that frame; a cell without one does not show the point.
 */
export function readMarkers(
  path: string,
  picture: PointImage,
  colors: Readonly<Record<string, string>>,
  rig: RigSource,
): { readonly table: PointTable; readonly problems: readonly Problem[] } {
  const { width, height } = rig.frame;
  const animations = Object.entries(rig.animations);
  const facings = drawnFacings(rig);
  const columns = Math.max(...animations.map(([, { frames }]) => frames));
  const rows = animations.length * facings.length;
  if (picture.width !== columns * width || picture.height !== rows * height) {
    const found = { width: picture.width, height: picture.height };
    const expected = { columns, rows, cellWidth: width, cellHeight: height };
    return { table: new Map(), problems: [markerProblem(path, "markers-mismatch", { ...found, ...expected })] };
  }
  const problems: Problem[] = [];
  const names = new Map(Object.entries(colors).map(([name, color]) => [Number.parseInt(color.slice(1), 16), name]));
  const cells = marksByCell(picture, width, height, names);
  const table = new Map(
    Object.keys(colors).map((name) => [name, new Map<string, Map<string, (Point | undefined)[]>>()]),
  );
  for (const [group, [animation, { frames }]] of animations.entries()) {
    for (const [within, facing] of facings.entries()) {
      const places = Array.from({ length: frames }, (_, frame) => {
        const { found, smeared } = cells.get(cellKey(frame, group * facings.length + within)) ?? nothing;
        for (const name of smeared) {
          problems.push(markerProblem(path, "smeared-point", { frame, animation, facing, point: name }));
        }
        return found;
      });
      for (const [name, byAnimation] of table) {
        const byFacing = byAnimation.get(animation) ?? new Map<string, (Point | undefined)[]>();
        byAnimation.set(animation, byFacing);
        byFacing.set(
          facing,
          places.map((found) => found.get(name)),
        );
      }
    }
  }
  return { table, problems };
}

/** The points marked in one cell, and those marked more than once. */
interface Cell {
  readonly found: Map<string, Point>;
  readonly smeared: Set<string>;
}

const nothing: Cell = { found: new Map(), smeared: new Set() };

const cellKey = (column: number, row: number) => `${column},${row}`;

function marksByCell(
  { marks }: PointImage,
  width: number,
  height: number,
  names: ReadonlyMap<number, string>,
): ReadonlyMap<string, Cell> {
  const cells = new Map<string, Cell>();
  for (const [x, y, color] of marks) {
    const name = names.get(color);
    if (name === undefined) continue;
    const { found, smeared } = getOrInsert(cells, cellKey(Math.floor(x / width), Math.floor(y / height)), () => ({
      found: new Map(),
      smeared: new Set(),
    }));
    if (found.has(name)) smeared.add(name);
    else found.set(name, { x: x % width, y: y % height });
  }
  return cells;
}

function markerProblem<Code extends "markers-mismatch" | "smeared-point">(
  file: string,
  code: Code,
  params: ParamsOf<Code>,
): Problem {
  return { code, params, severity: "error", place: { file, pointer: "" }, fixes: adviceOn(code) };
}
