import { getOrInsert } from "../base/get-or-insert.ts";
import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import type { Point, Rig } from "../catalog/model/catalog.ts";
import type { Image } from "../raster/image.ts";
import { artFinding, type Found, type FoundFrame } from "./found.ts";
import { isProblem, type NameOptions, type NameParts, NamePattern } from "./name-pattern.ts";

/** A picture of one frame, and the name that says which. */
export interface NamedFrame {
  readonly name: string;
  readonly image: Image;
  /** Where its upper left corner lies in the rig's frame. */
  readonly at: Point;
}

/**
 * Makes parts of frames that are distinguished by their names. Numbers of frames may begin with 0 or 1, or go on from one animation to the
 * next; numbers that are missing leave frames in which nothing is drawn, and are reported.
 *
 * @param file - what the names were found in; parts whose names say no part are called by it.
 */
export function framesOfNames(file: string, named: readonly NamedFrame[], rig: Rig, options: NameOptions): Found {
  const pattern = new NamePattern(rig, options);
  const problems: Problem[] = [];
  const byPart = new Map<string, (NamedFrame & NameParts)[]>();
  for (const each of named) {
    const read = pattern.read(each.name);
    if (isProblem(read)) problems.push(read);
    else getOrInsert(byPart, read.part ?? file, () => []).push({ ...each, ...read });
  }
  const parts = [...byPart].map(([name, frames]) => {
    const numbered = numberFrames(name, frames, rig, problems);
    return { name, slot: undefined, layers: [{ opacity: 1, frames: numbered }] };
  });
  return { parts, problems };
}

function numberFrames(
  part: string,
  all: readonly (NamedFrame & NameParts)[],
  rig: Rig,
  problems: Problem[],
): readonly FoundFrame[] {
  const numbers = all.flatMap(({ frame }) => frame ?? []);
  // The lowest number of all is what the first frame is called, if that is how people count.
  const lowest = Math.min(...numbers);
  const base = lowest === 1 ? 1 : 0;
  const series = new Map<string, (NamedFrame & NameParts)[]>();
  for (const each of all) getOrInsert(series, `${each.animation} ${each.facing}`, () => []).push(each);
  const found: FoundFrame[] = [];
  for (const frames of series.values()) {
    const [{ animation, facing, frame } = { animation: undefined, facing: undefined, frame: undefined }] = frames;
    const count = frame === undefined ? 1 : framesOf(rig, animation);
    const first = Math.min(...frames.map((each) => each.frame ?? 0));
    // Numbers that go on from the animation before begin later, and are all there.
    const start = frames.length === count ? first : base;
    const seen = new Set<number>();
    let beyond = 0;
    for (const each of frames) {
      const number = each.frame === undefined ? undefined : each.frame - start;
      if (number !== undefined && (number < 0 || number >= count)) {
        beyond += 1;
        continue;
      }
      seen.add(number ?? 0);
      found.push({ animation, facing, frame: number, image: each.image, at: each.at });
    }
    const words = { animation: animation ?? "each animation", facing: facing ?? "each facing" };
    if (beyond > 0) {
      const params = { ...words, found: frames.length, frames: count };
      problems.push(artFinding(part, "warning", message("numbers-beyond", params), message("mend-numbers-beyond")));
    }
    const missing = Array.from({ length: count }, (_, number) => number).filter((number) => !seen.has(number));
    if (missing.length > 0) {
      const params = {
        ...words,
        missing: missing.map((number) => String(number + start)),
        found: seen.size,
        frames: count,
      };
      problems.push(artFinding(part, "warning", message("numbers-missing", params), message("mend-numbers-missing")));
    }
  }
  for (const words of missingSeries(all, rig))
    problems.push(artFinding(part, "warning", message("series-missing", words), message("mend-series-missing")));
  return found;
}

/** How many frames an animation has; where none is named, as many as the longest. */
function framesOf(rig: Rig, animation: string | undefined): number {
  const own = rig.animations.get(animation ?? "")?.frames;
  return own ?? Math.max(...[...rig.animations.values()].map(({ frames }) => frames));
}

/** Facings that lack an animation which others have. */
function missingSeries(all: readonly NameParts[], rig: Rig): readonly { animation: string; facing: string }[] {
  const there = new Set(all.map(({ animation, facing }) => `${animation} ${facing}`));
  const animations = [...new Set(all.flatMap(({ animation }) => animation ?? []))];
  const facings = all.every(({ facing }) => facing === undefined)
    ? []
    : [...rig.facings.values()].filter(({ mirrored }) => !mirrored).map(({ id }) => id);
  return animations.flatMap((animation) =>
    facings.filter((facing) => !there.has(`${animation} ${facing}`)).map((facing) => ({ animation, facing })),
  );
}
