import { MantleError } from "../problem.ts";
import { formatColor, fromOklab, fromOklch, mixOklab, parseColor, toOklab, toOklch } from "./color.ts";

/** How `makeRamp` spreads a ramp. */
export interface MakeRampOptions {
  /** How many colors. @defaultValue `5` */
  readonly steps?: number;
  /** Lightness of the darkest and the lightest in OKLab, 0 to 1. @defaultValue `[0.2, 0.92]` */
  readonly range?: readonly [number, number];
  /** How far shadows turn toward blue and lights toward yellow, in degrees of hue. @defaultValue `18` */
  readonly shift?: number;
}

/**
 * Makes a ramp from one color, dark to light, in OKLCh: lightness in even steps, with the color itself at the step nearest to its
 * own lightness, shadows a little bluer, lights a little yellower, and both paler.
 *
 * @param color - `#rrggbb`.
 * @throws MantleError `bad-color`, `bad-steps`.
 * @example
 * makeRamp("#4a5bb5")
 * // → ["#091039", "#23327c", "#4a5bb5", "#78a1f1", "#d3e7ff"]
 */
export function makeRamp(color: string, options: MakeRampOptions = {}): readonly string[] {
  const { steps = 5, range = [0.2, 0.92], shift = 18 } = options;
  const base = parseColor(color);
  if (base === undefined) throw new MantleError("bad-color", `"${color}" is not a color. Write it as "#rrggbb".`);
  if (!Number.isInteger(steps) || steps < 1 || steps > 256) {
    throw new MantleError("bad-steps", `A ramp cannot have ${steps} colors. Give a whole number from 1 to 256.`);
  }
  const { l, c, h } = toOklch(base);
  const [dark, light] = [Math.min(range[0], l), Math.max(range[1], l)];
  const own = light === dark ? 0 : Math.round(((l - dark) / (light - dark)) * (steps - 1));
  return Array.from({ length: steps }, (_, step) => {
    if (step === own) return formatColor(base);
    // 0 at the color itself, 1 at the end of the ramp.
    const away = step < own ? (own - step) / own : (step - own) / (steps - 1 - own);
    const end = step < own ? dark : light;
    const hue = turned(h, step < own ? 270 : 100, shift * away);
    return formatColor(fromOklch({ l: l + (end - l) * away, c: c * (1 - 0.45 * away ** 2), h: hue }));
  });
}

/** A hue turned toward another by at most so many degrees, the short way round. */
function turned(hue: number, toward: number, degrees: number): number {
  const apart = ((toward - hue + 540) % 360) - 180;
  return (hue + Math.sign(apart) * Math.min(Math.abs(apart), degrees) + 360) % 360;
}

/**
 * The colors of a ramp for each color of a key.
 *
 * Ramp and key of one length go together one by one. Otherwise each key color takes the place it has in its key by lightness, from
 * 0 for the darkest to 1 for the lightest, and the color found at that place of the ramp, between its neighbors on a straight
 * line in OKLab.
 *
 * @param ramp - at least one color `0xRRGGBB`, dark to light.
 * @param key - at least one color `0xRRGGBB`.
 */
export function fitRamp(ramp: readonly number[], key: readonly number[]): readonly number[] {
  if (ramp.length === key.length) return ramp;
  return placesByLightness(key).map((place) => colorAt(ramp, place));
}

/** The color at a place of a ramp, 0 for its darkest and 1 for its lightest color. */
export function colorAt(ramp: readonly number[], place: number): number {
  const places = placesByLightness(ramp);
  const after = places.findIndex((each) => each >= place);
  if (after <= 0 || places.length === 1) return ramp[Math.max(0, after)] ?? ramp.at(-1) ?? 0;
  const [low = 0, high = 1] = places.slice(after - 1, after + 1);
  const [from = 0, to = 0] = ramp.slice(after - 1, after + 1);
  if (place === high) return to;
  return fromOklab(mixOklab(toOklab(from), toOklab(to), (place - low) / (high - low)));
}

/** Where each color lies between the darkest and the lightest of its list; never falling, so that a ramp stays in order. */
export function placesByLightness(colors: readonly number[]): readonly number[] {
  const lights = colors.map((color) => toOklab(color).l);
  const [least, most] = [Math.min(...lights), Math.max(...lights)];
  if (most - least < 1e-6) return colors.map((_, at) => (colors.length === 1 ? 0.5 : at / (colors.length - 1)));
  let highest = 0;
  return lights.map((light) => {
    highest = Math.max(highest, (light - least) / (most - least));
    return highest;
  });
}
