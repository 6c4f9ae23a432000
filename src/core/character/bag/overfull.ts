import { limits } from "../../base/limits.ts";
import type { Character } from "../character.ts";
import type { Context } from "../context.ts";
import type { LoadoutProblem } from "../edit.ts";
import { fixOf, loadoutProblem } from "../refuse.ts";
import type { Voice } from "../wording.ts";
import { stacksIn } from "./bag.ts";

/**
 * The problem of an edit that puts more stacks into the bag than it has places for, or more of one part than any bag may hold; a bag may
 * stay as full as it was.
 */
export function overfull(
  voice: Voice,
  before: Character,
  after: Character,
  { bagPlaces }: Context,
): readonly LoadoutProblem[] {
  if (after.bag === before.bag) return [];
  const tooMany = Object.keys(after.bag).find((id) => (after.bag[id]?.length ?? 0) > limits.stacks);
  if (tooMany !== undefined) return [bagFull(voice, tooMany, limits.stacks)];
  const stacks = stacksIn(after.bag);
  if (bagPlaces === undefined || stacks <= bagPlaces || stacks <= stacksIn(before.bag)) return [];
  const part = Object.keys(after.bag).find((id) => (after.bag[id]?.length ?? 0) > (before.bag[id]?.length ?? 0)) ?? "";
  return [bagFull(voice, part, bagPlaces)];
}

/** The problem of a bag that has no place left for a part. */
export function bagFull(voice: Voice, part: string, places: number): LoadoutProblem {
  return loadoutProblem(voice, "bag-full", {
    subject: { kind: "part", id: part },
    at: ["bag", part],
    words: { part, places },
    fixes: [fixOf(voice, "make-room")],
  });
}
