import { getOrInsert } from "../../base/get-or-insert.ts";
import type { FixCode, Message, ProblemCode } from "../../base/message.ts";
import type { Severity } from "../../base/problem.ts";
import type { Rectangle, Size } from "../../catalog/model/catalog.ts";
import type { DrawnMask, FigureFacts } from "./art-facts.ts";
import { boundsOf, type Mask } from "./mask.ts";
import { depthIn, type SharedDepths } from "./shared-depths.ts";

/** Something that pixels show to be wrong, in one place. */
export interface ArtSign {
  /** Signs of one cause have one key: they become one finding, about the first of them. */
  readonly cause: string;
  /** The part, or the body, that has it. */
  readonly owner: string;
  readonly severity: Severity;
  /** The picture that has to be mended. */
  readonly path: string;
  readonly finding: Message<ProblemCode>;
  readonly fix: Message<FixCode>;
  /** Where it is seen. */
  readonly at: SeenAt | undefined;
}

/** A frame, and the pixels of it that a finding is about: plain data, so that it can come from another thread. */
export interface SeenAt {
  /** The parts that are worn, by id; none for the bare body. */
  readonly parts: readonly string[];
  readonly frame: Pick<DrawnMask, "animation" | "facing" | "time">;
  readonly pixels: Mask;
}

/** One kind of thing that is looked for, in a part on a body. */
export interface ArtCheck {
  /** What is looked for, in a few words. */
  readonly name: string;
  /** What a part shows by itself. @param figure - the part, or the bare body itself; `bare` is the body it is worn on. */
  find?(figure: FigureFacts, bare: FigureFacts): Iterable<ArtSign>;
  /** What is seen of all figures on a body beside one another. */
  compare?(figures: readonly FigureTrace[]): Iterable<ArtSign>;
}

/** What is kept of a figure when its pictures are not: enough to compare it with others. */
export interface FigureTrace {
  readonly owner: string;
  readonly slot: string | undefined;
  /** The slots whose parts are not seen beside it: it takes them as well, or hides what is in them. */
  readonly without: readonly string[];
  /** The pictures in which something is drawn. */
  readonly pictures: readonly PictureTrace[];
  /** The layers whose depth others have, too. */
  readonly tied: readonly TiedLayer[];
}

/** A layer in a facing in which its depth is that of a layer of another slot. */
export interface TiedLayer {
  readonly path: string;
  readonly facing: string;
  readonly depth: number;
  readonly frames: readonly DrawnMask[];
}

/** What is kept of a picture. */
export interface PictureTrace {
  readonly path: string;
  readonly content: string;
  /** The box around what it shows, the mean of all its frames, in pixels of the rig's frame. */
  readonly box: Rectangle;
}

/** What is kept of a figure. @param shared - the depths that layers of several slots have. */
export function traceOf(figure: FigureFacts, shared: SharedDepths): FigureTrace {
  const pictures = figure.layers.flatMap(({ path, series }): PictureTrace[] => {
    const content = figure.pictures.find((each) => each.path === path)?.content;
    const bounds = series.flatMap(({ frames }) => frames.flatMap(({ mask }) => boundsOf(mask) ?? []));
    if (content === undefined || bounds.length === 0) return [];
    const mean = (of: (box: Rectangle) => number) => bounds.reduce((sum, box) => sum + of(box), 0) / bounds.length;
    const size = { width: mean(({ width }) => width), height: mean(({ height }) => height) };
    return [{ path, content, box: { x: mean(({ x }) => x), y: mean(({ y }) => y), ...size } }];
  });
  const { part, slot } = figure;
  const without = [...(part?.occupies ?? []), ...(part?.hides ?? []).map((hidden) => hidden.slot)];
  return { owner: ownerOf(figure), slot, without, pictures, tied: tiedLayers(figure, shared) };
}

function tiedLayers({ look, layers }: FigureFacts, shared: SharedDepths): readonly TiedLayer[] {
  return layers.flatMap(({ path, series }, number) => {
    const layer = look.layers[number];
    if (layer === undefined) return [];
    const byFacing = new Map<string, DrawnMask[]>();
    for (const { facing, frames } of series) getOrInsert(byFacing, facing, () => []).push(...frames);
    return [...byFacing].flatMap(([facing, frames]) => {
      const depth = depthIn(layer, facing);
      return shared.has(`${facing} ${depth}`) ? [{ path, facing, depth, frames }] : [];
    });
  });
}

/** The size of what some pictures show together, in pixels. */
export function sizeOf(pictures: readonly PictureTrace[]): Size {
  const boxes = pictures.map(({ box }) => box);
  const width = Math.max(...boxes.map((box) => box.x + box.width)) - Math.min(...boxes.map(({ x }) => x));
  return { width, height: Math.max(...boxes.map((box) => box.y + box.height)) - Math.min(...boxes.map(({ y }) => y)) };
}

/** Where a finding about one figure is seen. */
export function seenOn({ part }: FigureFacts, frame: DrawnMask, pixels: Mask = frame.mask): SeenAt {
  return { parts: part === undefined ? [] : [part.id], frame: frameOf(frame), pixels };
}

/** A frame without what is drawn in it. */
export function frameOf({ animation, facing, time }: DrawnMask): SeenAt["frame"] {
  return { animation, facing, time };
}

/** What a figure is called in a finding. */
export function ownerOf({ part, body }: FigureFacts): string {
  return part?.id ?? body.id;
}

/** Where a finding was seen, in its words. */
export function place({ animation, facing, frame }: DrawnMask): { animation: string; facing: string; frame: number } {
  return { animation, facing, frame };
}
