import type { Size } from "../catalog/model/catalog.ts";
import type { BakedFrame, FrameTable } from "./bake-sheet.ts";

export interface SheetTableOptions {
  /** How frames are listed: by their names, or one after the other with their names in them. */
  readonly form: "map" | "list";
  /** The size of the sheet, in pixels. */
  readonly size: Size;
  /** The files of the tables of the other sheets of a look, for loaders that fetch all of them when one is asked for. */
  readonly others?: readonly string[];
  /** What the sheet is called where animations name it, for engines that keep pictures by a key. @defaultValue the image's name without its ending */
  readonly key?: string;
}

/**
 * A frames table in the JSON form of sheets that loaders of several engines read.
 *
 * Frames are called `walk/south/0`; each says how long it is shown (`duration`, in milliseconds), and has its anchor at the origin of the figure. In
 * `animations`, each animation in each facing is a list of frames in the order in which they are shown; `anims` says the same with durations and how
 * often it is repeated (-1 for without end). Frame events are in `events`, by frame.
 *
 * @example
 * const [{ image, table }] = bakeSheets(look, images, { packed: true, blank: true })
 * sheetTable({ ...table, image: "wren.png" }, { form: "map", size: image })
 */
export function sheetTable(table: FrameTable, { form, size, key, others = [] }: SheetTableOptions): object {
  const { image = "" } = table;
  const named = table.frames.map((frame) => [nameOf(frame), cellOf(frame, table)] as const);
  const there = new Set(named.map(([name]) => name));
  const runs = runsOf(table, there);
  return {
    frames: form === "map" ? Object.fromEntries(named) : named.map(([filename, cell]) => ({ filename, ...cell })),
    animations: Object.fromEntries(runs.map(({ name, places }) => [name, places.map(({ frame }) => frame)])),
    anims: runs.map(({ name, places, loop }) => ({
      key: name,
      type: "frame",
      repeat: loop ? -1 : 0,
      skipMissedFrames: true,
      frames: places.map(({ frame, duration }) => ({ key: key ?? image.replace(/\.png$/, ""), frame, duration })),
    })),
    meta: {
      image,
      size: { w: size.width, h: size.height },
      format: "RGBA8888",
      scale: "1",
      ...(others.length === 0 ? {} : { related_multi_packs: others }),
    },
  };
}

function nameOf({ animation, facing, frame }: Pick<BakedFrame, "animation" | "facing" | "frame">): string {
  return `${animation}/${facing}/${frame}`;
}

function cellOf(frame: BakedFrame, table: FrameTable): object {
  const [x, y, w, h] = frame.rect;
  const [left, top] = frame.offset;
  const [width, height] = table.size;
  const { sequence = [], durations = [], events } = table.animations[frame.animation] ?? {};
  const seconds = durations[sequence.indexOf(frame.frame)] ?? 0;
  const words = events?.[String(frame.frame)];
  return {
    frame: { x, y, w, h },
    rotated: false,
    trimmed: left !== 0 || top !== 0 || w !== width || h !== height,
    spriteSourceSize: { x: left, y: top, w, h },
    sourceSize: { w: width, h: height },
    anchor: { x: table.origin[0] / width, y: table.origin[1] / height },
    duration: milliseconds(seconds),
    ...(words === undefined ? {} : { events: words }),
  };
}

interface Run {
  readonly name: string;
  readonly loop: boolean;
  readonly places: readonly { readonly frame: string; readonly duration: number }[];
}

/** Each animation in each facing, as far as all of its frames are in the sheet. */
function runsOf({ animations, frames }: FrameTable, there: ReadonlySet<string>): readonly Run[] {
  const facings = [...new Set(frames.map(({ facing }) => facing))];
  return Object.entries(animations).flatMap(([animation, { sequence, durations, loop }]) =>
    facings.flatMap((facing): Run[] => {
      const places = sequence.map((frame, at) => ({
        frame: nameOf({ animation, facing, frame }),
        duration: milliseconds(durations[at] ?? 0),
      }));
      const isWhole = places.every(({ frame }) => there.has(frame));
      return isWhole ? [{ name: `${animation}/${facing}`, loop, places }] : [];
    }),
  );
}

function milliseconds(seconds: number): number {
  return Number((seconds * 1000).toFixed(3));
}
