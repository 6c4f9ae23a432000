import { byteOf, parseColor } from "../base/color/color.ts";
import type { LookMesh } from "../look/look.ts";

/** How light falls on a material. */
export interface Shading {
  /** The color of its lines, `0xRRGGBB`. */
  readonly ink: number;
  /** Its tones, dark to light. */
  readonly tones: readonly number[];
  /** How light a place is for each further tone, 0 to 1: one fewer than tones. */
  readonly cuts: readonly number[];
  /** Whether it shines by itself, wherever light comes from. */
  readonly glows: boolean;
}

/** What a glTF file says of a material, in the form it has there. */
export interface MaterialFacts {
  readonly name: string;
  /** Shares of red, green and blue light. */
  readonly color: readonly number[];
  readonly glows: boolean;
  readonly extras: unknown;
}

/** Where light comes from, as one looks, wherever the figure faces: from the upper left, before it. Of length 1. */
export const light = [-0.58, 0.65, 0.49].map((value) => value / Math.hypot(0.58, 0.65, 0.49)) as [
  x: number,
  y: number,
  z: number,
];

/** How much of its light a place loses that lies deep in a fold. */
export const folds = 0.28;

/** Where the light of four tones changes. */
const usualCuts = [0.38, 0.58, 0.86];

/** How light the ink and the tones are of a material that has a color and no ramp: where light falls on it, it has its color. */
const shades = [0.25, 0.4, 0.62, 0.82, 1];

/**
 * How light falls on a material of a look: the ramp that colors it, else the one in its `extras`, else shades of its color.
 *
 * The darkest of a ramp draws the lines, the others are the tones. `extras` may say more: `cuts`, how light a place is for each further
 * tone; `tone`, the one color of the ramp that it always has, as eyes do.
 */
export function shadingOf(
  { name, color, glows, extras }: MaterialFacts,
  { recolors }: Pick<LookMesh, "recolors">,
): Shading {
  const said = saidIn(extras);
  const ramp =
    (recolors.get(name) ?? recolors.get(""))?.colors ?? said.ramp ?? shades.map((shade) => shaded(color, shade));
  const [ink = 0, ...rest] = ramp;
  const flat = said.tone === undefined ? undefined : ramp[Math.min(said.tone, ramp.length - 1)];
  if (flat !== undefined) return { ink, tones: [flat], cuts: [], glows };
  const tones = rest.length > 1 ? rest : ramp;
  const cuts = said.cuts?.length === tones.length - 1 ? said.cuts : cutsFor(tones.length);
  return { ink, tones, cuts, glows };
}

/** The color of a ramp that is taken for all of it, where light has no steps: of four, the third. */
export function standsFor(colors: readonly number[], extras: unknown): number {
  const { tone = Math.floor(colors.length * 0.6) } = saidIn(extras);
  return colors[Math.min(tone, colors.length - 1)] ?? 0;
}

/** What `extras` say, where they have the form it is said in; they are the file's own, so nothing else is wrong with them. */
function saidIn(extras: unknown): { ramp?: readonly number[]; cuts?: readonly number[]; tone?: number } {
  if (typeof extras !== "object" || extras === null) return {};
  const { ramp, cuts, tone } = extras as { ramp?: unknown; cuts?: unknown; tone?: unknown };
  const colors = Array.isArray(ramp)
    ? ramp.map((each) => (typeof each === "string" ? parseColor(each) : undefined))
    : [];
  return {
    ...(colors.length > 0 && colors.every((each) => each !== undefined) && { ramp: colors }),
    ...(Array.isArray(cuts) && cuts.every((each) => typeof each === "number") && { cuts }),
    ...(typeof tone === "number" && tone >= 0 && { tone: Math.floor(tone) }),
  };
}

/** For any number of tones, the steps of four stretched over them. */
function cutsFor(tones: number): readonly number[] {
  if (tones === usualCuts.length + 1) return usualCuts;
  const [first = 0, , last = 1] = usualCuts;
  if (tones <= 2) return usualCuts.slice(1, tones);
  return Array.from({ length: tones - 1 }, (_, step) => first + ((last - first) * step) / (tones - 2));
}

function shaded(color: readonly number[], shade: number): number {
  return color.slice(0, 3).reduce((sum, light) => (sum << 8) + Math.round(byteOf(light) * shade), 0);
}
