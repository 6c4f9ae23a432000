import { requireKnown } from "../base/require-known.ts";
import type { Animation, CatalogIds, Facing, Point } from "../catalog/model/catalog.ts";
import type { Look, Moment } from "./look.ts";
import { animationOf, frameAt } from "./moments.ts";

/**
 * Where a named point of a look is at a moment, in pixels from the figure's origin; `undefined` when it is not seen then, or the
 * body has no such point. In a mirrored facing, left and right stay what they are: the point's twin is mirrored in its place.
 *
 * @throws MantleError `unknown-animation` or `unknown-facing`.
 * @example
 * pointAt(look, "hand-left", { animation: "hail", facing: "south", time: 0.2 }) // → { x: 8, y: -19 }
 */
export function pointAt<Ids extends CatalogIds>(
  look: Look<Ids>,
  point: string,
  moment: Moment<Ids>,
): Point | undefined {
  const animation = animationOf(look, moment.animation);
  const facing = requireKnown("facing", moment.facing, look.rig.facings);
  const found = pointIn(look, point, animation, facing, frameAt(animation, moment.time));
  const { origin } = look.rig;
  return found && { x: found.x - origin.x, y: found.y - origin.y };
}

/** A point in pixels of the rig's frame. An animation without points uses those of the one that the rig shows otherwise. */
export function pointIn(
  { rig, points }: Pick<Look, "rig" | "points">,
  name: string,
  wanted: Animation,
  facing: Facing,
  frame: number,
): Point | undefined {
  const seen = new Set<string>();
  for (let animation: Animation | undefined = wanted; animation !== undefined && !seen.has(animation.id); ) {
    const own = points.get(name)?.get(animation.id)?.get(facing.id);
    if (own !== undefined) return own[frame % own.length];
    const drawn = points
      .get(rig.twins.get(name) ?? name)
      ?.get(animation.id)
      ?.get(facing.drawnAs);
    if (drawn !== undefined) {
      const point = drawn[frame % drawn.length];
      return point && facing.mirrored ? { x: 2 * rig.origin.x - 1 - point.x, y: point.y } : point;
    }
    seen.add(animation.id);
    animation = rig.animations.get(animation.otherwise ?? "");
  }
  return undefined;
}
