import type { CatalogIds } from "../catalog/model/catalog.ts";
import type { Appearance, Edit, EditResult, Verb } from "../character/edit.ts";

/** A call for every verb: each does one edit. */
export interface FittingCalls<Ids extends CatalogIds = CatalogIds> {
  wear(part: Ids["part"], where?: { readonly in: Ids["slot"] }): EditResult;
  remove(slot: Ids["slot"]): EditResult;
  cycle(slot: Ids["slot"], step: 1 | -1): EditResult;
  paint(channel: Ids["channel"], ramp: Ids["ramp"] | `#${string}`): EditResult;
  dress(outfit: Ids["outfit"]): EditResult;
  changeBody(body: Ids["body"]): EditResult;
  /** Changes the body to the one it grows into. */
  grow(): EditResult;
  rename(name: string): EditResult;
  /** Keeps an answer of the game's own, such as a trade; `null` forgets it. */
  answer(fact: string, value: string | null): EditResult;
  /** Becomes what a preset of the catalog shows. */
  preset(id: Ids["preset"]): EditResult;
  /** Takes the looks of someone: another character, or a look that came with a code. */
  applyAppearance(likeness: Appearance): EditResult;
  /** Makes a stack of its own of so many of a part in the bag. */
  split(part: Ids["part"], count: number): EditResult;
  /** Leaves a part that is in the bag behind, for good: all of it, or so many. */
  drop(part: Ids["part"], count?: number): EditResult;
  /** Pours the stacks of a part in the bag together. */
  merge(part: Ids["part"]): EditResult;
  /** Does several edits as one: they are judged by what they come to, not one by one. */
  together(edits: readonly Edit<Ids>[]): EditResult;
}

type OneForEach<Names extends Readonly<Record<Verb, keyof FittingCalls>>> = Names;

/** The name of each verb's call. The compiler asks for one, and for a call of that name, when a verb is added. */
type CallNames = OneForEach<{
  wear: "wear";
  remove: "remove";
  cycle: "cycle";
  paint: "paint";
  dress: "dress";
  body: "changeBody";
  grow: "grow";
  rename: "rename";
  fact: "answer";
  preset: "preset";
  appearance: "applyAppearance";
  split: "split";
  drop: "drop";
  merge: "merge";
  together: "together";
}>;

/** The calls, made from what does an edit. */
export function fittingCalls<Ids extends CatalogIds>(
  apply: (edit: Edit) => EditResult,
): Pick<FittingCalls<Ids>, CallNames[Verb]> {
  return {
    wear: (part, where) => apply({ wear: part, ...where }),
    remove: (slot) => apply({ remove: slot }),
    cycle: (slot, step) => apply({ cycle: slot, step }),
    paint: (channel, ramp) => apply({ paint: channel, ramp }),
    dress: (outfit) => apply({ dress: outfit }),
    changeBody: (body) => apply({ body }),
    grow: () => apply({ grow: true }),
    rename: (name) => apply({ rename: name }),
    answer: (fact, value) => apply({ fact, value }),
    preset: (id) => apply({ preset: id }),
    applyAppearance: ({ body, loadout, colors }) =>
      apply({ appearance: { ...(body === undefined ? {} : { body }), loadout, colors } }),
    split: (part, count) => apply({ split: part, count }),
    drop: (part, count) => apply({ drop: part, ...(count === undefined ? {} : { count }) }),
    merge: (part) => apply({ merge: part }),
    together: (edits) => apply({ together: edits as readonly Edit[] }),
  };
}
