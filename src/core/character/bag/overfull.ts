import { limits } from "../../base/limits.ts";
import type { Character } from "../character.ts";
import type { Context } from "../context.ts";
import type { LoadoutProblem } from "../edit.ts";
import { fixBy, loadoutProblem } from "../refuse.ts";
import { stacksIn } from "./bag.ts";

/**
 * The problem of an edit that puts more stacks into the bag than it has places for, or more of one part than any bag may hold; a bag may
 * stay as full as it was.
 */
export function overfull(before: Character, after: Character, { bagPlaces }: Context): readonly LoadoutProblem[] {
  if (after.bag === before.bag) return [];
  const tooMany = Object.keys(after.bag).find((id) => (after.bag[id]?.length ?? 0) > limits.stacks);
  if (tooMany !== undefined) return [bagFull(tooMany, limits.stacks)];
  const stacks = stacksIn(after.bag);
  if (bagPlaces === undefined || stacks <= bagPlaces || stacks <= stacksIn(before.bag)) return [];
  const part = Object.keys(after.bag).find((id) => (after.bag[id]?.length ?? 0) > (before.bag[id]?.length ?? 0)) ?? "";
  return [bagFull(part, bagPlaces)];
}

/** The problem of a bag that has no place left for a part. */
export function bagFull(part: string, places: number): LoadoutProblem {
  return loadoutProblem("bag-full", {
    subject: { kind: "part", id: part },
    at: ["bag", part],
    params: { part, places },
    fixes: [fixBy("make-room")],
  });
}
