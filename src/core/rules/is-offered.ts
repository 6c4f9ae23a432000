import type { Channel } from "../catalog/model/catalog.ts";

const colorForm = /^#[0-9a-f]{6}$/i;

/** Whether a channel can be set to this: one of its ramps, or a color `#rrggbb` where it allows colors of the character's own. */
export function isOffered({ ramps, custom }: Pick<Channel, "ramps" | "custom">, ramp: string): boolean {
  return ramps.includes(ramp) || (custom && colorForm.test(ramp));
}
