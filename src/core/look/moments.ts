import { requireKnown } from "../base/require-known.ts";
import type { Animation } from "../catalog/model/catalog.ts";
import type { Look, Moment } from "./look.ts";

/** The frame an animation shows at a time in seconds; a time on the border of two frames shows the later one. */
export function frameAt({ frames, fps, loop }: Pick<Animation, "frames" | "fps" | "loop">, time: number): number {
  // Nearly a whole number of frames is that number: 0.7 s at 10 frames a second comes out as 6.999….
  const count = Math.floor(time * fps * (1 + 1e-12) + 1e-9);
  if (!loop) return Math.max(0, Math.min(frames - 1, count));
  const frame = count % frames;
  return frame < 0 ? frame + frames : frame;
}

/**
 * The animation a look shows when one is asked for: the one itself, or what the active form puts in its place.
 *
 * @throws MantleError `unknown-animation`.
 */
export function animationOf(look: Pick<Look, "rig" | "animations">, animation: string): Animation {
  const asked = requireKnown("animation", animation, look.rig.animations);
  return look.rig.animations.get(look.animations.get(animation) ?? "") ?? asked;
}

/**
 * How long one run of an animation of a look lasts, in seconds.
 *
 * @throws MantleError `unknown-animation`.
 */
export function durationOf(look: Pick<Look, "rig" | "animations">, animation: string): number {
  const { frames, fps } = animationOf(look, animation);
  return frames / fps;
}

/** Whether an animation that does not loop has come to its end, from where it stays on its last frame. */
export function hasEnded(look: Pick<Look, "rig" | "animations">, { animation, time }: Moment): boolean {
  const { frames, fps, loop } = animationOf(look, animation);
  return !loop && time * fps * (1 + 1e-12) + 1e-9 >= frames;
}

/**
 * The same moment under another look of the same figure: after a change of clothes, body or form.
 *
 * The same animation goes on at the same time. Where the looks show different animations, the pose goes on at the same part of
 * its run, so that a walk that becomes a trudge does not start over with the same foot.
 */
export function keepPose(
  before: Pick<Look, "rig" | "animations">,
  after: Pick<Look, "rig" | "animations">,
  moment: Moment,
): Moment {
  const from = animationOf(before, moment.animation);
  const to = animationOf(after, moment.animation);
  if (from.frames === to.frames && from.fps === to.fps) return moment;
  return { ...moment, time: ((moment.time * from.fps) / from.frames) * (to.frames / to.fps) };
}
