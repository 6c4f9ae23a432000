import { formatColor, parseColor } from "../base/color/color.ts";
import { fitRamp, makeRamp } from "../base/color/ramp.ts";
import { getOwn } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { isOffered } from "../rules/is-offered.ts";
import type { Recolor } from "./look.ts";

/**
 * The colors a character shows in a channel; `undefined` for a channel or ramp the catalog does not have.
 *
 * Where the channel allows it, a color of the character's own makes a ramp of its own.
 *
 * @param instead - a ramp that is shown whatever the character chose.
 */
export function recolorFor(
  catalog: Catalog,
  character: Pick<Character, "colors">,
  id: string,
  instead?: string,
): Recolor | undefined {
  const channel = catalog.channels.get(id);
  if (channel === undefined) return undefined;
  const { key, match } = channel;
  const chosen = getOwn(character.colors, id) ?? channel.default;
  const painted = instead ?? (isOffered(channel, chosen) ? chosen : channel.default);
  const color = parseColor(painted);
  if (color !== undefined) {
    const ramp = formatColor(color);
    const colors = makeRamp(ramp, { steps: key.length }).map((each) => parseColor(each) ?? 0);
    return { channel: id, ramp, match, key, colors };
  }
  const ramp = catalog.ramps.get(painted);
  return ramp === undefined ? undefined : { channel: id, ramp: ramp.id, match, key, colors: fitRamp(ramp.colors, key) };
}
