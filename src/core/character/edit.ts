import type { Problem } from "../problem.ts";
import type { Character } from "./character.ts";

/** One change to a character, as data. */
export type Edit =
  /** Puts a part on, in the slot named or else in the first of its slots that is free. */
  | { readonly wear: string; readonly in?: string }
  /** Empties a slot. */
  | { readonly remove: string }
  /** Puts the next part that can be worn in a slot, or the one before; wraps, passing by empty unless the slot is required. */
  | { readonly cycle: string; readonly step: 1 | -1 }
  /** Sets a channel to a ramp. */
  | { readonly paint: string; readonly ramp: string }
  /** Puts a whole outfit on: its parts, then its colors. */
  | { readonly dress: string }
  /** Changes the body; whatever does not fit the new one is taken off. */
  | { readonly body: string }
  | { readonly rename: string };

/** A finding about a character; its fixes are edits. */
export type LoadoutProblem = Problem<Edit>;

/** A part that an edit took off, and where it went. */
export interface Displaced {
  readonly part: string;
  readonly slot: string;
  /** Gear goes to the bag; appearance is a free choice and goes nowhere. */
  readonly to: "bag" | "nowhere";
  /** One sentence that says why it had to go. */
  readonly because: string;
}

/** What an edit did, or why it was refused. A refused edit changes nothing: `character` is the very one it was given. */
export type EditResult =
  | { readonly ok: true; readonly character: Character; readonly displaced: readonly Displaced[] }
  | { readonly ok: false; readonly character: Character; readonly problems: readonly LoadoutProblem[] };

/** Where gear comes from when it is put on. */
export interface EditContext {
  /**
   * `"open"`: gear that is not in the bag is handed out new, as while a character is being created.
   * `"bag"`: only gear that is carried can be put on, as in play.
   *
   * @defaultValue `"open"`
   */
  readonly wardrobe?: "open" | "bag";
}
