import { message } from "../../base/message.ts";
import type { Problem } from "../../base/problem.ts";
import { pointerTo } from "../../base/problem.ts";
import { checkForm } from "../../base/schema/check-form.ts";
import * as f from "../../base/schema/forms.ts";
import { artFinding } from "../found.ts";
import type { ListedPicture } from "./listed-picture.ts";

const box = f.looseObject({ x: f.number(), y: f.number(), w: f.number(f.min(0)), h: f.number(f.min(0)) });
const pair = f.looseObject({ x: f.number(), y: f.number() });

const entry = {
  frame: box,
  rotated: f.optional(f.boolean()),
  spriteSourceSize: f.optional(f.looseObject({ x: f.number(), y: f.number() })),
  sourceSize: f.optional(f.looseObject({ w: f.number(f.min(0)), h: f.number(f.min(0)) })),
  /** From 0 (left, top) to 1 (right, bottom) of the whole picture. */
  anchor: f.optional(pair),
  pivot: f.optional(pair),
};

/** The JSON form that the loaders of several game engines share: frames as a map by name, or as a list of such that have a name. */
const mapForm = f.looseObject({ frames: f.record(f.string(), f.looseObject(entry)) });
const listForm = f.looseObject({ frames: f.array(f.looseObject({ filename: f.string(), ...entry })) });
const pagesForm = f.looseObject({ textures: f.array(listForm) });

type Entry = f.Valid<typeof mapForm>["frames"][string];

/** Reads the table of a packed picture that game engines read. */
export function readEngineTable(
  file: string,
  json: unknown,
): { readonly pictures: readonly ListedPicture[]; readonly problems: readonly Problem[] } {
  const form = formOf(json);
  const { mismatches } = checkForm(form, json);
  const problems = mismatches.map(
    ({ path, ...mismatch }): Problem => ({
      ...mismatch,
      severity: "error",
      place: { file, pointer: pointerTo(...path) },
    }),
  );
  if (problems.length > 0) return { pictures: [], problems };
  if (form === mapForm) {
    const { frames } = json as f.Valid<typeof mapForm>;
    return { pictures: Object.entries(frames).map(([name, each]) => listed(name, each)), problems };
  }
  const lists = form === listForm ? [json as f.Valid<typeof listForm>] : (json as f.Valid<typeof pagesForm>).textures;
  // What lies on further pages belongs to further pictures, which are handed over one by one.
  const [first, ...further] = lists;
  const left = further.map(({ frames }) => frames.length).reduce((sum, count) => sum + count, 0);
  const finding = artFinding(file, "warning", message("pages-left", { count: left }), message("mend-pages-left"));
  return {
    pictures: (first?.frames ?? []).map(({ filename, ...each }) => listed(filename, each)),
    problems: left > 0 ? [finding] : [],
  };
}

function formOf(json: unknown): typeof mapForm | typeof listForm | typeof pagesForm {
  if (typeof json !== "object" || json === null) return mapForm;
  if ("textures" in json) return pagesForm;
  return "frames" in json && Array.isArray(json.frames) ? listForm : mapForm;
}

function listed(name: string, each: Entry): ListedPicture {
  const { frame, rotated = false, spriteSourceSize: offset, sourceSize, anchor = each.pivot } = each;
  const size = sourceSize === undefined ? undefined : { width: sourceSize.w, height: sourceSize.h };
  const corner = offset === undefined ? { x: 0, y: 0 } : { x: offset.x, y: offset.y };
  const whole = size ?? { width: frame.w, height: frame.h };
  return {
    name,
    // A picture that lies turned is listed upright.
    rectangle: { x: frame.x, y: frame.y, width: rotated ? frame.h : frame.w, height: rotated ? frame.w : frame.h },
    isTurned: rotated,
    whole: size,
    offset: offset && corner,
    feet:
      anchor === undefined
        ? undefined
        : { x: Math.round(anchor.x * whole.width) - corner.x, y: Math.round(anchor.y * whole.height) - corner.y },
  };
}
