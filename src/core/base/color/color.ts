/** A color in OKLab: lightness from 0 to 1, and how far it is from gray toward red and toward yellow. */
export interface Oklab {
  readonly l: number;
  readonly a: number;
  readonly b: number;
}

/** A color in OKLCh: lightness from 0 to 1, how colorful it is, and its hue in degrees. */
export interface Oklch {
  readonly l: number;
  readonly c: number;
  readonly h: number;
}

/** Shares of red, green and blue light, each 0 to 1 where a screen can show the color (IEC 61966-2-1). */
export type LinearRgb = readonly [red: number, green: number, blue: number];

/** The light of each byte of an sRGB color. */
const lightOfByte = Array.from({ length: 256 }, (_, byte) => lightOf(byte / 255));

/** Undoes the curve of sRGB, from 0 to 1; below 0 the curve is turned around. */
export function lightOf(value: number): number {
  const size = Math.abs(value);
  return Math.sign(value) * (size <= 0.04045 ? size / 12.92 : ((size + 0.055) / 1.055) ** 2.4);
}

/** The light of a color `0xRRGGBB`. */
export function toLinear(color: number): LinearRgb {
  const light = (byte: number) => lightOfByte[byte & 255] ?? 0;
  return [light(color >> 16), light(color >> 8), light(color)];
}

/** Where a color `0xRRGGBB` lies in OKLab (B. Ottosson, "A perceptual color space for image processing", 2020). */
export function toOklab(color: number): Oklab {
  const [red, green, blue] = toLinear(color);
  const l = Math.cbrt(0.4122214708 * red + 0.5363325363 * green + 0.0514459929 * blue);
  const m = Math.cbrt(0.2119034982 * red + 0.6806995451 * green + 0.1073969566 * blue);
  const s = Math.cbrt(0.0883024619 * red + 0.2817188376 * green + 0.6299787005 * blue);
  return {
    l: 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    a: 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    b: 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  };
}

export function toOklch(color: number): Oklch {
  const { l, a, b } = toOklab(color);
  return { l, c: Math.hypot(a, b), h: (Math.atan2(b, a) * 180) / Math.PI };
}

/** The color `0xRRGGBB` that screens show for it; what they cannot show is clipped. */
export function fromOklab(color: Oklab): number {
  return linearOf(color).reduce((sum, light) => (sum << 8) | byteOf(light), 0);
}

/** The nearest `0xRRGGBB` that screens can show: chroma gives way, lightness and hue stay. */
export function fromOklch({ l, c, h }: Oklch): number {
  const turn = (h * Math.PI) / 180;
  const at = (chroma: number): Oklab => ({ l, a: chroma * Math.cos(turn), b: chroma * Math.sin(turn) });
  const isShown = (chroma: number) => linearOf(at(chroma)).every((light) => light > -1e-4 && light < 1.0001);
  if (isShown(c)) return fromOklab(at(c));
  let [low, high] = [0, c];
  while (high - low > 1e-4) {
    const middle = (low + high) / 2;
    if (isShown(middle)) low = middle;
    else high = middle;
  }
  return fromOklab(at(low));
}

function linearOf({ l, a, b }: Oklab): LinearRgb {
  const long = (l + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const middle = (l - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const short = (l - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return [
    4.0767416621 * long - 3.3077115913 * middle + 0.2309699292 * short,
    -1.2684380046 * long + 2.6097574011 * middle - 0.3413193965 * short,
    -0.0041960863 * long - 0.7034186147 * middle + 1.707614701 * short,
  ];
}

/** The byte of an sRGB color for so much light, 0 to 1. */
export function byteOf(light: number): number {
  const value = light <= 0.0031308 ? light * 12.92 : 1.055 * light ** (1 / 2.4) - 0.055;
  return Math.round(Math.min(1, Math.max(0, value)) * 255);
}

/** A color part of the way from one to another, on the straight line between them in OKLab. */
export function mixOklab(from: Oklab, to: Oklab, part: number): Oklab {
  const at = (one: number, other: number) => one + (other - one) * part;
  return { l: at(from.l, to.l), a: at(from.a, to.a), b: at(from.b, to.b) };
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
