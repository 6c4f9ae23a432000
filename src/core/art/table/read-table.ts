import { message } from "../../base/message.ts";
import type { Problem } from "../../base/problem.ts";
import { checkForm } from "../../base/schema/check-form.ts";
import type { Point, Rig, Size } from "../../catalog/model/catalog.ts";
import { type FramesSource, framesSchema } from "../../catalog/schema/frames-schema.ts";
import { createImage, cropImage, type Image } from "../../raster/image.ts";
import { artFinding, type Found } from "../found.ts";
import { framesOfNames, type NamedFrame } from "../frames-of-names.ts";
import { withoutEnding } from "../name-id.ts";
import type { NameOptions } from "../name-pattern.ts";
import { readEngineTable } from "./engine-table.ts";
import { readLines } from "./lines-table.ts";
import type { ListedPicture } from "./listed-picture.ts";

export interface TableOptions extends NameOptions {
  /** What a line of a table that is plain text looks like: `"{name} {x} {y} {width} {height} {feet-x} {feet-y}"`. */
  readonly lines?: string;
  /** Where the origin lies in a whole picture that says nothing of its feet, from 0 (left, top) to 1 (right, bottom). */
  readonly anchor?: readonly [x: number, y: number];
}

/**
 * Reads a packed picture by the table that came with it: our own frames table, the JSON form that game engines share, or any text with a
 * rectangle in each line.
 *
 * @param name - what the part is called if names in the table say no part.
 */
export function readTable(name: string, image: Image, table: string, rig: Rig, options: TableOptions): Found {
  const json = parse(table);
  if (isOwn(json)) return readOwn(name, image, json, rig);
  const { pictures, problems } =
    json === undefined ? readLines(name, table, options.lines) : readEngineTable(name, json);
  if (pictures.length === 0 && problems.length === 0)
    return {
      parts: [],
      problems: [artFinding(name, "error", message("table-without-pictures"), message("mend-table"))],
    };
  const named = pictures.map((picture) => cutOut(picture, image, rig, options.anchor));
  const found = framesOfNames(name, named, rig, options);
  return { parts: found.parts, problems: [...problems, ...found.problems] };
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

function isOwn(json: unknown): json is { readonly mantle: unknown } {
  return typeof json === "object" && json !== null && "mantle" in json;
}

function readOwn(name: string, image: Image, json: unknown, rig: Rig): Found {
  const { mismatches } = checkForm(framesSchema, json);
  const problems = mismatches.map(
    ({ path, ...mismatch }): Problem => ({
      ...mismatch,
      severity: "error",
      place: { file: name, pointer: `/${path.join("/")}` },
    }),
  );
  if (problems.length > 0) return { parts: [], problems };
  const { frames, origin } = json as FramesSource;
  const [x, y] = origin ?? [rig.origin.x, rig.origin.y];
  const found = frames.flatMap(({ animation, facing, frame, rect, offset = [0, 0] }) => {
    const [left, top, width, height] = rect;
    const at = { x: rig.origin.x - x + offset[0], y: rig.origin.y - y + offset[1] };
    if (width * height === 0) return [];
    return [{ animation, facing, frame, image: cropImage(image, { x: left, y: top, width, height }), at }];
  });
  return { parts: [{ name, slot: undefined, layers: [{ opacity: 1, frames: found }] }], problems: [] };
}

function cutOut(picture: ListedPicture, image: Image, rig: Rig, anchor: TableOptions["anchor"]): NamedFrame {
  const { rectangle, isTurned, whole, offset, feet } = picture;
  const cut = cropImage(image, rectangle);
  const upright = isTurned ? turnedBack(cut) : cut;
  // What says where it lies, and not in what, lies in the rig's frame.
  const within = whole ?? (offset === undefined ? upright : rig.frame);
  return {
    name: withoutEnding(picture.name),
    image: upright,
    at: cornerOf({ whole: within, offset: offset ?? { x: 0, y: 0 }, feet }, rig, anchor),
  };
}

interface Hung {
  readonly whole: Size;
  readonly offset: Point;
  readonly feet: Point | undefined;
}

function cornerOf({ whole, offset, feet }: Hung, rig: Rig, anchor: TableOptions["anchor"]): Point {
  if (feet !== undefined) return { x: rig.origin.x - feet.x, y: rig.origin.y - feet.y };
  if (anchor === undefined && whole.width === rig.frame.width && whole.height === rig.frame.height) return offset;
  const [across, down] = anchor ?? [0.5, 1];
  const x = rig.origin.x - Math.round(whole.width * across);
  return { x: x + offset.x, y: rig.origin.y - Math.round(whole.height * down) + offset.y };
}

/** A picture turned by a quarter, anticlockwise. */
function turnedBack({ width, height, data }: Image): Image {
  const upright = createImage(height, width);
  for (let y = 0; y < width; y += 1)
    for (let x = 0; x < height; x += 1) {
      const from = (x * width + (width - 1 - y)) * 4;
      upright.data.set(data.subarray(from, from + 4), (y * height + x) * 4);
    }
  return upright;
}
