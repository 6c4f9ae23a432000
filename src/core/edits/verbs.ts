import type { Verb } from "../character/edit.ts";
import type { VerbModule } from "./verb.ts";
import { factVerb } from "./verbs/answer-fact.ts";
import { appearanceVerb, presetVerb } from "./verbs/appearance.ts";
import { bodyVerb, growVerb } from "./verbs/change-body.ts";
import { cycleVerb } from "./verbs/cycle.ts";
import { dressVerb } from "./verbs/dress.ts";
import { paintVerb } from "./verbs/paint.ts";
import { removeVerb } from "./verbs/remove.ts";
import { renameVerb } from "./verbs/rename.ts";
import { dropVerb, mergeVerb, splitVerb } from "./verbs/stack-edits.ts";
import { togetherVerb } from "./verbs/together.ts";
import { wearVerb } from "./verbs/wear.ts";

/** All that can be done to a character. A verb is added here, and the compiler asks for its form. */
export const verbs: { readonly [V in Verb]: VerbModule<V> } = {
  wear: wearVerb,
  remove: removeVerb,
  cycle: cycleVerb,
  paint: paintVerb,
  dress: dressVerb,
  body: bodyVerb,
  grow: growVerb,
  rename: renameVerb,
  fact: factVerb,
  preset: presetVerb,
  appearance: appearanceVerb,
  split: splitVerb,
  drop: dropVerb,
  merge: mergeVerb,
  together: togetherVerb,
};
