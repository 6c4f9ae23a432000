import type { Field } from "../art/field.ts";
import type { Figure } from "../art/figure.ts";
import { headShape } from "../art/shapes.ts";
import type { FinishedSurface } from "./surface.ts";

/** A face drawn by hand, three pixels for one of the pictures: digits are tones, `.` is nothing. */
export interface FaceStamp {
  readonly id: string;
  /** What each digit is: a tone of a channel's ramp, or a color of its own. */
  readonly inks: readonly ({ readonly channel: string; readonly tone: number } | number)[];
  readonly patches: readonly Patch[];
}

interface Patch {
  readonly rows: readonly string[];
  /** Where its upper edge, and the edge next to the nose, lie from the middle of the head. */
  readonly top: number;
  readonly side: number;
  /** Drawn on one side of the face only, from its edge to the right of who looks at it. */
  readonly isSingle?: boolean;
}

const lash = 0x1a1420;
const white = 0xfaf6ee;
const eyeInks: FaceStamp["inks"] = [lash, { channel: "eyes", tone: 0 }, { channel: "eyes", tone: 1 }, white];

const eyes = (id: string, rows: readonly string[], top = 1.2): FaceStamp => ({
  id,
  inks: eyeInks,
  patches: [{ rows, top, side: 1.1 }],
});

const browInks: FaceStamp["inks"] = [
  { channel: "hair", tone: 0 },
  { channel: "hair", tone: 1 },
];

const brows = (id: string, rows: readonly string[], top = 2.7): FaceStamp => ({
  id,
  inks: browInks,
  patches: [{ rows, top, side: 1.1 }],
});

const skinInks: FaceStamp["inks"] = [0, 1, 2].map((tone) => ({ channel: "skin", tone }));

/** What every face has. */
export const mouthStamp: FaceStamp = {
  id: "mouth",
  inks: skinInks,
  patches: [
    { rows: ["22"], top: -2.8, side: -1 / 3, isSingle: true },
    { rows: ["1......1", ".111111."], top: -4.6, side: -4 / 3, isSingle: true },
    { rows: ["22222", "22222"], top: -3.4, side: 3.4 },
  ],
};

export const faceStamps: readonly FaceStamp[] = [
  eyes("eyes-round", [
    "..000000..",
    ".00000000.",
    "0011111100",
    "0311133130",
    ".311133130",
    ".311111130",
    ".31111113.",
    ".32222223.",
    ".32222223.",
    ".32222223.",
    "..222222..",
    "..222222..",
  ]),
  eyes("eyes-narrow", ["0000000000", "0011111100", ".311133130", ".31111113.", ".32222223.", "..222222.."], 0.4),
  eyes("eyes-bright", [
    ".00000000.",
    "0000000000",
    "0311111130",
    "0311133130",
    ".311133130",
    ".311111130",
    ".31222213.",
    ".32233223.",
    ".32222223.",
    "..222222..",
  ]),
  eyes(
    "eyes-sleepy",
    ["0000000000", ".000000000", ".311111130", ".311133130", ".32222223.", ".32222223.", "..222222.."],
    0.2,
  ),
  brows("brows-soft", ["..11111...", ".11111111.", "11......1."]),
  brows("brows-heavy", ["0000000000", "0000000000", "..11111111"]),
  brows("brows-straight", ["1111111111", "1111111111"], 2.4),
  brows("brows-arched", ["....1111..", "..1111111.", "111....11."]),
  { id: "freckles", inks: skinInks, patches: [{ rows: ["2...2...2", "..2...2..", "....2...2"], top: -2.6, side: 2 }] },
  {
    id: "old-scar",
    inks: skinInks,
    patches: [
      {
        rows: [".....1", "....12", "....1.", "...12.", "...1..", "..12..", "..1...", ".12...", ".1...."],
        top: -1,
        side: 3.6,
        isSingle: true,
      },
    ],
  },
  {
    id: "tide-marks",
    inks: [0x2f6f8a, 0x58a6b8],
    patches: [{ rows: ["1111111...", ".11111111.", "..........", "..0000000.", "....00000."], top: -2.6, side: 1.6 }],
  },
];

/** How many pixels of a face there are for one of the pictures. */
const fine = 3;

/** How far before the skin a face is drawn, so that the skin never shows through. */
const lift = 0.1;

/** The surface of each ink of a face: a piece of the head for each run of equal pixels. */
export function stampSurfaces({ inks, patches }: FaceStamp, figure: Figure): readonly (FinishedSurface | undefined)[] {
  const skin = headShape(figure);
  return inks.map((_, ink) => {
    const made = new Quads(skin, figure);
    for (const { rows, top, side, isSingle = false } of patches)
      for (const [row, text] of rows.entries())
        for (const { from, to } of runsOf(text, String(ink))) {
          const [y, left, right] = [top - row / fine, side + from / fine, side + to / fine];
          made.add(left, right, y);
          if (!isSingle) made.add(-right, -left, y);
        }
    return made.surface();
  });
}

/** Runs of a character, three at most, so that they follow the roundness of the head. */
function* runsOf(text: string, wanted: string): Iterable<{ from: number; to: number }> {
  let from = 0;
  while (from < text.length) {
    if (text[from] !== wanted) {
      from += 1;
      continue;
    }
    let to = from + 1;
    while (to < text.length && to < from + 3 && text[to] === wanted) to += 1;
    yield { from, to };
    from = to;
  }
}

/** Four corners each, in pixels. */
class Quads {
  readonly #positions: number[] = [];
  readonly #normals: number[] = [];
  readonly #triangles: number[] = [];
  readonly #skin: Field;
  readonly #head: Figure["head"];

  constructor(skin: Field, { head }: Figure) {
    this.#skin = skin;
    this.#head = head;
  }

  add(left: number, right: number, y: number): void {
    const first = this.#positions.length / 3;
    const bottom = y - 1 / fine;
    for (const [across, up] of [
      [left, bottom],
      [right, bottom],
      [right, y],
      [left, y],
    ] as const) {
      const angle = across / 9.2;
      const [dx, dz] = [Math.sin(angle), Math.cos(angle)];
      const out = this.#outTo(dx, up, dz) + lift;
      const { x, y: middle, z } = this.#head;
      this.#positions.push(x + dx * out, middle + up, z - 1.5 + dz * out);
      this.#normals.push(dx, 0, dz);
    }
    this.#triangles.push(first, first + 1, first + 2, first, first + 2, first + 3);
  }

  /** How far the skin is from the axis of the head. */
  #outTo(dx: number, up: number, dz: number): number {
    let [inside, outside] = [2, 14];
    for (let step = 0; step < 24; step += 1) {
      const middle = (inside + outside) / 2;
      const { x, y, z } = this.#head;
      if (this.#skin(x + dx * middle, y + up, z - 1.5 + dz * middle) < 0) inside = middle;
      else outside = middle;
    }
    return inside;
  }

  surface(): FinishedSurface | undefined {
    if (this.#triangles.length === 0) return undefined;
    const count = this.#positions.length / 3;
    return {
      positions: Float32Array.from(this.#positions),
      normals: Float32Array.from(this.#normals),
      triangles: Uint32Array.from(this.#triangles),
      openness: new Uint8Array(count).fill(255),
      joints: undefined,
      weights: undefined,
    };
  }
}
