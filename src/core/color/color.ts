import { converter, modeOklab, modeOklch, modeRgb, type Oklab, type Oklch, toGamut, useMode } from "culori/fn";

useMode(modeRgb);
useMode(modeOklab);
useMode(modeOklch);
const oklabOf = converter("oklab");
const oklchOf = converter("oklch");
const rgbOf = converter("rgb");
const fitted = toGamut("rgb", "oklch");

/** A color `0xRRGGBB` for the color library. */
export function rgbColor(color: number) {
  return { mode: "rgb", r: (color >> 16) / 255, g: ((color >> 8) & 255) / 255, b: (color & 255) / 255 } as const;
}

/** Where a color `0xRRGGBB` lies in OKLab (B. Ottosson, 2020). */
export function toOklab(color: number): Oklab {
  return oklabOf(rgbColor(color));
}

export function toOklch(color: number): Oklch {
  return oklchOf(rgbColor(color));
}

/** The nearest `0xRRGGBB` that screens can show: chroma gives way, lightness and hue stay. */
export function fromOk(color: Oklab | Oklch): number {
  const { r, g, b } = rgbOf(fitted(color));
  const byte = (value: number) => Math.round(Math.min(1, Math.max(0, value)) * 255);
  return (byte(r) << 16) | (byte(g) << 8) | byte(b);
}

/** A color part of the way from one to another, on the straight line between them in OKLab. */
export function mixOklab(from: Oklab, to: Oklab, part: number): Oklab {
  const at = (one: number, other: number) => one + (other - one) * part;
  return { mode: "oklab", l: at(from.l, to.l), a: at(from.a, to.a), b: at(from.b, to.b) };
}

const form = /^#[0-9a-f]{6}$/i;

/** `#rrggbb` as `0xRRGGBB`; `undefined` for anything else. */
export function parseColor(text: string): number | undefined {
  return form.test(text) ? Number.parseInt(text.slice(1), 16) : undefined;
}

/** `0xRRGGBB` as `#rrggbb`. */
export function formatColor(color: number): string {
  return `#${color.toString(16).padStart(6, "0")}`;
}
