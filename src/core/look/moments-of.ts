import { requireKnown } from "../base/require-known.ts";
import type { Look, Moment } from "./look.ts";
import { animationOf, timedFrames } from "./moments.ts";

export interface MomentsOptions {
  /** @defaultValue all of the rig's, in its order */
  readonly animations?: readonly string[];
  /** @defaultValue all of the rig's, in its order, mirrored ones too */
  readonly facings?: readonly string[];
}

/** A drawn frame, when it is shown first, and the row of its animation and facing among those asked for. */
export interface FrameMoment {
  readonly moment: Moment;
  readonly frame: number;
  readonly row: number;
}

/**
 * Each drawn frame of animations in facings, once, in their order.
 *
 * @throws MantleError `unknown-animation`, `unknown-facing`.
 */
export function momentsOf(look: Look, options: MomentsOptions = {}): readonly FrameMoment[] {
  const { rig } = look;
  const facings = (options.facings ?? [...rig.facings.keys()]).map((id) => requireKnown("facing", id, rig.facings));
  const animations = options.animations ?? [...rig.animations.keys()];
  return animations.flatMap((animation, group) => {
    const shown = new Map(timedFrames(animationOf(look, animation)).map(({ frame, time }) => [frame, time]));
    const inOrder = [...shown].toSorted(([one], [other]) => one - other);
    return facings.flatMap(({ id: facing }, within) =>
      inOrder.map(([frame, time]) => ({
        moment: { animation, facing, time },
        frame,
        row: group * facings.length + within,
      })),
    );
  });
}
