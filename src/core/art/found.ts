import type { FixCode, Message, ProblemCode } from "../base/message.ts";
import type { Problem, Severity } from "../base/problem.ts";
import type { Point } from "../catalog/model/catalog.ts";
import type { Image } from "../raster/image.ts";

/** What was found in art that was handed over, whatever kind of file it came in. */
export interface Found {
  readonly parts: readonly FoundPart[];
  readonly problems: readonly Problem[];
}

export interface FoundPart {
  /** What it is called: by its file, its layer, or its place. */
  readonly name: string;
  /** The slot it goes in, where the art says so. */
  readonly slot: string | undefined;
  /** Back to front. */
  readonly layers: readonly FoundLayer[];
}

export interface FoundLayer {
  /** 0 to 1. */
  readonly opacity: number;
  readonly frames: readonly FoundFrame[];
}

/** One frame of a layer; what is `undefined` is the same for all. */
export interface FoundFrame {
  readonly animation: string | undefined;
  readonly facing: string | undefined;
  /** Counted from 0. */
  readonly frame: number | undefined;
  readonly image: Image;
  /** Where its upper left corner lies in the rig's frame. */
  readonly at: Point;
}

/** A finding about a file that was handed over. */
export function artFinding(
  file: string,
  severity: Severity,
  { code, params }: Message<ProblemCode>,
  ...fixes: readonly Message<FixCode>[]
): Problem {
  return { code, params, severity, place: { file, pointer: "" }, fixes };
}
