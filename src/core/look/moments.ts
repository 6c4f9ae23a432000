import { requireKnown } from "../base/require-known.ts";
import type { Animation } from "../catalog/model/catalog.ts";
import type { Look, Moment } from "./look.ts";

/** Nearly an end of a frame is that end: 0.7 s at 10 frames a second comes out as 6.999…. */
const tolerance = 1e-9;

/** The frame an animation shows at a time in seconds; a time on the border of two frames shows the later one. */
export function frameAt(animation: Pick<Animation, "sequence" | "ends" | "loop">, time: number): number {
  return animation.sequence[placeAt(animation, time)] as number;
}

/** The place in its sequence that an animation shows at a time in seconds; a time on the border of two shows the later one. */
export function placeAt({ ends, loop }: Pick<Animation, "ends" | "loop">, time: number): number {
  const last = ends.length - 1;
  const length = ends[last] as number;
  let within = time * (1 + 1e-12) + tolerance;
  if (loop && !(within >= 0 && within < length)) within -= Math.floor(within / length) * length;
  // Frames are mostly of one length, so that the first guess is right.
  let at = Math.max(0, Math.min(last, Math.floor((within / length) * ends.length)));
  while (at < last && within >= (ends[at] as number)) at += 1;
  while (at > 0 && within < (ends[at - 1] as number)) at -= 1;
  return at;
}

/** The first frame of the first animation, as the first facing shows it. */
export function firstMoment({ rig }: Pick<Look, "rig">): Moment {
  const animation = rig.animations.keys().next().value ?? "";
  return { animation, facing: rig.facings.keys().next().value ?? "", time: 0 };
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
  return animationOf(look, animation).ends.at(-1) ?? 0;
}

/** Whether an animation that does not loop has come to its end, from where it stays on its last frame. */
export function hasEnded(look: Pick<Look, "rig" | "animations">, { animation, time }: Moment): boolean {
  return !animationOf(look, animation).loop && time * (1 + 1e-12) + tolerance >= durationOf(look, animation);
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
  const from = durationOf(before, moment.animation);
  const to = durationOf(after, moment.animation);
  return from === to ? moment : { ...moment, time: (moment.time / from) * to };
}

/**
 * The words that an animation of a look emits between two times: those of each frame that began after the one and not after the other, in their
 * order, each once, however many frames lie between.
 *
 * @param from - in seconds; less than 0 for what the very first frame emits. Of a pause longer than a run, what the last run emitted.
 * @throws MantleError `unknown-animation`.
 * @example
 * eventsBetween(look, "walk", 0.1, 0.5) // → ["step"]
 */
export function eventsBetween(
  look: Pick<Look, "rig" | "animations">,
  animation: string,
  from: number,
  to: number,
): readonly string[] {
  const { sequence, ends, loop, events } = animationOf(look, animation);
  if (events.size === 0 || to <= from) return none;
  const length = ends.at(-1) ?? 0;
  // A frame has begun when it is shown, so both ends are rounded as `frameAt` rounds them.
  const [start, until] = [from, to].map((time) => time * (1 + 1e-12) + tolerance) as [number, number];
  const isPause = loop && to - Math.max(from, 0) > length + tolerance;
  const after = isPause ? until - length : start;
  const emitted: string[] = [];
  const last = loop ? Math.floor(until / length) : 0;
  for (let run = loop ? Math.max(0, Math.floor(after / length)) : 0; run <= last; run += 1)
    for (const [at, frame] of sequence.entries()) {
      const begins = run * length + (ends[at - 1] ?? 0);
      if (begins > after && begins <= until) emitted.push(...(events.get(frame) ?? none));
    }
  return emitted;
}

const none: readonly string[] = [];

/** What one run of an animation shows, one drawn frame after another. */
export function timedFrames({ sequence, ends }: Pick<Animation, "sequence" | "ends">): readonly TimedFrame[] {
  return sequence.map((frame, at) => {
    const time = ends[at - 1] ?? 0;
    return { frame, time, duration: (ends[at] as number) - time };
  });
}

/** A drawn frame, when it is first shown in a run, and for how long; in seconds. */
export interface TimedFrame {
  readonly frame: number;
  readonly time: number;
  readonly duration: number;
}
