import type { Image } from "zealous-mantle";
import { createImage, cropImage, pasteImage } from "zealous-mantle/raster";

/** A rig of three animations, played forth, back and unevenly, in three drawn facings and a mirrored one. */
export const rig = {
  frame: { width: 6, height: 8 },
  origin: [3, 8],
  facings: ["south", "west", "north", { id: "east", mirror: "west" }],
  animations: {
    idle: { frames: 2, fps: 2 },
    walk: { frames: 4, fps: 8, sequence: "back-and-forth" },
    wave: { frames: 3, sequence: [2, 0, 1, 0], durations: [0.1, 0.3, 0.1, 0.2], loop: false },
  },
};

export const animations = { idle: 2, walk: 4, wave: 3 } as const;
export const facings = ["south", "west", "north"] as const;

/** One frame as it was drawn. */
export interface Drawn {
  readonly animation: string;
  readonly facing: string;
  readonly frame: number;
  readonly image: Image;
}

/** Frames of noise with blank edges, opaque and translucent, none like another. */
export function drawnFrames(seed = 1): readonly Drawn[] {
  let state = seed;
  const next = () => {
    state = (state * 48_271) % 2_147_483_647;
    return state;
  };
  return Object.entries(animations).flatMap(([animation, count]) =>
    facings.flatMap((facing) =>
      Array.from({ length: count }, (_, frame) => {
        const image = createImage(6, 8);
        const [left, top] = [next() % 3, next() % 4];
        for (let y = top; y < 8; y += 1)
          for (let x = left; x < 6; x += 1) {
            if (next() % 4 === 0) continue;
            image.data.set([next() % 256, next() % 256, next() % 256, next() % 3 === 0 ? 120 : 255], (y * 6 + x) * 4);
          }
        return { animation, facing, frame, image };
      }),
    ),
  );
}

/** Lays pictures on one, each with its upper left corner at a place, on a background. */
export function laidOut(
  width: number,
  height: number,
  places: readonly { readonly image: Image; readonly x: number; readonly y: number }[],
  background: readonly number[] = [0, 0, 0, 0],
): Image {
  const sheet = createImage(width, height);
  for (let at = 0; at < width * height; at += 1) sheet.data.set(background, at * 4);
  for (const { image, x, y } of places) pasteImage(sheet, image, x, y);
  return sheet;
}

/** The plain sheet: a row for each animation and facing, a column for each frame. */
export function plainSheet(frames: readonly Drawn[]): Image {
  const rows = Object.keys(animations).flatMap((animation) => facings.map((facing) => `${animation} ${facing}`));
  return laidOut(
    4 * 6,
    rows.length * 8,
    frames.map(({ animation, facing, frame, image }) => ({
      image,
      x: frame * 6,
      y: rows.indexOf(`${animation} ${facing}`) * 8,
    })),
  );
}

/** A picture without its blank edges, and where it was cut; as tools trim pictures. */
export function trimmed(image: Image): { readonly image: Image; readonly x: number; readonly y: number } {
  const columns: number[] = [];
  const rows: number[] = [];
  for (let y = 0; y < image.height; y += 1)
    for (let x = 0; x < image.width; x += 1)
      if ((image.data[(y * image.width + x) * 4 + 3] ?? 0) > 0) {
        columns.push(x);
        rows.push(y);
      }
  const [x, y] = [Math.min(...columns), Math.min(...rows)];
  const [width, height] = [Math.max(...columns) - x + 1, Math.max(...rows) - y + 1];
  return { image: cropImage(image, { x, y, width, height }), x, y };
}
