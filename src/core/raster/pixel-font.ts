import type { Image } from "./image.ts";
import { swapRedAndBlue } from "./sheet.ts";

/** Small capitals of four by six pixels: six rows a letter, each a hexadecimal digit whose bits are pixels. */
const letters: Readonly<Record<string, string>> = {
  A: "699F99",
  B: "E9E99E",
  C: "788887",
  D: "E9999E",
  E: "F8E88F",
  F: "F8E888",
  G: "788B97",
  H: "99F999",
  I: "E4444E",
  J: "111196",
  K: "9ACA99",
  L: "88888F",
  M: "9FF999",
  N: "9DDBB9",
  O: "699996",
  P: "E99E88",
  Q: "6999A5",
  R: "E99EA9",
  S: "78611E",
  T: "E44444",
  U: "999996",
  V: "999966",
  W: "999FF9",
  X: "996699",
  Y: "997116",
  Z: "F1248F",
  "0": "69BD96",
  "1": "4C444E",
  "2": "69124F",
  "3": "E1611E",
  "4": "999F11",
  "5": "F8E11E",
  "6": "68E996",
  "7": "F12244",
  "8": "696996",
  "9": "699716",
  "-": "000E00",
  ".": "000008",
  ":": "008080",
  ",": "000048",
  "/": "112488",
  _: "00000F",
  "(": "488884",
  ")": "844448",
  "×": "00A4A0",
  "!": "888808",
};

/** The height of a line of text, in pixels of its size. */
export const lineHeight = 6;

/** How wide a text is, in pixels of its size. Letters without a drawing take the room of a space. */
export function textWidth(text: string): number {
  return [...text].reduce((sum, letter) => sum + widthOf(letter) + 1, 0) - 1;
}

function widthOf(letter: string): number {
  const rows = letters[letter.toUpperCase()];
  if (rows === undefined) return 2;
  const used = [...rows].reduce((bits, row) => bits | Number.parseInt(row, 16), 0);
  return used & 1 ? 4 : used & 2 ? 3 : used & 4 ? 2 : 1;
}

/** Where a text goes, its color `0xRRGGBB`, and how many pixels each of its own is. */
export interface TextPlace {
  readonly x: number;
  readonly y: number;
  readonly color: number;
  readonly size: number;
}

/** Writes a text in small capitals; what does not fit is cut off. */
export function drawText(image: Image, text: string, { x, y, color, size }: TextPlace): void {
  const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const ink = (0xff000000 | swapRedAndBlue(color)) >>> 0;
  let left = x;
  for (const letter of text) {
    for (const [row, digit] of [...(letters[letter.toUpperCase()] ?? "")].entries())
      for (let column = 0; column < 4; column += 1) {
        if (((Number.parseInt(digit, 16) >> (3 - column)) & 1) === 0) continue;
        for (let at = 0; at < size * size; at += 1) {
          const across = left + column * size + (at % size);
          const down = y + row * size + Math.floor(at / size);
          if (across >= 0 && across < image.width && down >= 0 && down < image.height)
            pixels[down * image.width + across] = ink;
        }
      }
    left += (widthOf(letter) + 1) * size;
  }
}
