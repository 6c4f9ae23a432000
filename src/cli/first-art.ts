import { createImage, type Image } from "../core/raster/image.ts";
import { swapRedAndBlue } from "../core/raster/sheet.ts";

/** Frames of 16×24 pixels: two in a row, and a row for each animation and facing. */
const frame = { width: 16, height: 24 };
const skin = [0x5a3422, 0xa8683e, 0xd99a66] as const;
const cloth = [0x16324a, 0x2c6a8a, 0x6ab0c4] as const;

type Tones = readonly [dark: number, middle: number, light: number];

/** One frame: how a person stands in it. */
interface Stance {
  readonly isAside: boolean;
  /** How far the legs are apart, and the body is lifted. */
  readonly step: number;
}

/** The pictures of a new catalog: a person, and what they wear, in the key colors of its channels. */
export function drawFirst(): Readonly<Record<"body" | "shirt" | "cloak" | "cap" | "hood", Image>> {
  return {
    body: sheet((pen, { isAside, step }) => {
      const [near, far] = isAside ? [6 + step, 8 - step] : [5, 9];
      pen.box(skin, far, 16, 3, isAside ? 6 : 6 - step);
      pen.box(skin, near, 16, 3, isAside ? 6 : 5 + step);
      pen.box(skin, 5, 11, 7, 6);
      if (!isAside) pen.box(skin, 3, 11, 2, 6);
      pen.box(skin, isAside ? 7 : 12, 11, isAside ? 3 : 2, 6);
      pen.ball(skin, 8, 6, 4);
      pen.dot(skin[0], isAside ? 5 : 6, 7);
      if (!isAside) pen.dot(skin[0], 10, 7);
    }),
    shirt: sheet((pen, stance) => {
      pen.box(cloth, 5, 10, 7, 7);
      sleeves(pen, stance, 4);
    }),
    cloak: sheet((pen, stance) => {
      pen.box(cloth, 5, 10, 7, 5);
      pen.box(cloth, 4, 14, 9, 6);
      sleeves(pen, stance, 5);
    }),
    cap: sheet((pen, { isAside }) => {
      pen.box(cloth, 5, 1, 7, 3);
      pen.box(cloth, 4, 3, 9, 2);
      if (isAside) pen.box(cloth, 2, 4, 4, 1);
    }),
    hood: sheet((pen, { isAside }) => {
      pen.box(cloth, 5, 1, 7, 2);
      pen.box(cloth, 4, 2, 9, 2);
      if (isAside) pen.box(cloth, 9, 3, 4, 8);
      else for (const x of [3, 12]) pen.box(cloth, x, 3, 2, 8);
    }),
  };
}

function sleeves(pen: Pen, { isAside }: Stance, length: number): void {
  if (isAside) pen.box(cloth, 7, 11, 3, length);
  else for (const x of [3, 12]) pen.box(cloth, x, 11, 2, length);
}

function sheet(draw: (pen: Pen, stance: Stance) => void): Image {
  const image = createImage(frame.width * 2, frame.height * 4);
  for (let row = 0; row < 4; row += 1)
    for (let column = 0; column < 2; column += 1) {
      const isWalking = row >= 2;
      const pen = new Pen(image, column * frame.width, row * frame.height);
      draw(pen, { isAside: row % 2 === 1, step: isWalking ? 2 * column : 1 });
    }
  return image;
}

/** Draws with an outline in the dark tone, and light from the upper left. */
class Pen {
  readonly #pixels: Uint32Array;
  readonly #width: number;
  readonly #x: number;
  readonly #y: number;

  constructor({ data, width }: Image, x: number, y: number) {
    this.#pixels = new Uint32Array(data.buffer);
    this.#width = width;
    this.#x = x;
    this.#y = y;
  }

  dot(color: number, x: number, y: number): void {
    this.#pixels[(this.#y + y) * this.#width + this.#x + x] = (0xff000000 | swapRedAndBlue(color)) >>> 0;
  }

  box(tones: Tones, left: number, top: number, width: number, height: number): void {
    for (let y = 0; y < height; y += 1)
      for (let x = 0; x < width; x += 1) {
        const isEdge = x === width - 1 || y === height - 1 || (x === 0 && width > 2);
        this.dot(isEdge ? tones[0] : x < width * 0.6 ? tones[2] : tones[1], left + x, top + y);
      }
  }

  ball(tones: Tones, middle: number, center: number, radius: number): void {
    for (let y = -radius; y <= radius; y += 1)
      for (let x = -radius; x <= radius; x += 1) {
        const away = Math.hypot(x, y);
        if (away > radius + 0.3) continue;
        this.dot(away > radius - 0.7 ? tones[0] : x + y < radius * 0.75 ? tones[2] : tones[1], middle + x, center + y);
      }
  }
}
