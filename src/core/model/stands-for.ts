import type { Recolor } from "../look/look.ts";

/** The color of a ramp that is taken for all of it: of four, the third. */
export function standsFor({ colors }: Pick<Recolor, "colors">): number {
  return colors[Math.floor(colors.length * 0.6)] ?? 0;
}
