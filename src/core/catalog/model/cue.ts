import type { Place } from "../../base/problem.ts";
import type { Text } from "../../base/text.ts";
import type { Edits } from "./edit.ts";
import type { CueVerb } from "./edit-shapes.ts";
import type { Condition } from "./rule.ts";

/** What a cue does to the character of the seat it was raised for. */
export type CueAction =
  | Edits[CueVerb]
  /** Takes off what is worn of an outfit. */
  | { readonly undress: string }
  /** Puts so many of a part in the bag. */
  | { readonly give: string; readonly count?: number }
  /** Shows a form whatever the signals say; `null` leaves it to them again. */
  | { readonly form: string | null }
  /** Passes control to the character whose id stands in this fact of the cue; where that one has a seat, the two exchange. */
  | { readonly control: string }
  /** Raises another word for the same seat. */
  | { readonly raise: string };

/** What follows when the game raises a word. */
export interface Cue {
  /** Its place among the cues of the catalog, from 0. */
  readonly number: number;
  /** What its count is kept under; without one, the count lasts as long as the session. */
  readonly id: string | undefined;
  readonly place: Place;
  readonly on: string;
  /** Facts that have to come with the word, as they stand here. */
  readonly payload: Readonly<Record<string, string | number | boolean>>;
  /** What has to hold of the character. */
  readonly when: Condition | undefined;
  /** The least of stats that it needs. */
  readonly requires: Readonly<Record<string, number>>;
  readonly does: readonly CueAction[];
  /** How often it follows for one seat; infinity for always. */
  readonly times: number;
  /** Seconds until it follows again. */
  readonly cooldown: number;
  /** Seconds after arrival during which it does not follow. */
  readonly grace: number;
  /** The message to players where `when` or `needs` does not hold. */
  readonly message: Text | undefined;
}
