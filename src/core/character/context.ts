import type { Access } from "../catalog/catalog.ts";
import type { Texts } from "./wording.ts";

/** What a player knows about and owns: how each part stands with them, where that is not as the catalog says. */
export type Holdings = Readonly<Record<string, Access>>;

/** A fact of the running game. */
export type Signal = string | number | boolean;

/** What the game knows and the character does not: everything here may be left out. */
export interface Context {
  /**
   * Where gear comes from when it is put on. `"open"`: gear that is not in the bag is handed out new, as while a character is
   * being created. `"bag"`: only gear that is carried can be put on, as in play.
   *
   * @defaultValue `"open"`
   */
  readonly wardrobe?: "open" | "bag";
  /** Who owns what. Ownership is not looked at when left out; `{}` takes every part as the catalog has it. */
  readonly holdings?: Holdings;
  /** Added to what the body has, by stat: levels, training, a curse. */
  readonly stats?: Readonly<Record<string, number>>;
  /** Facts of the running game that rules may ask about. */
  readonly signals?: Readonly<Record<string, Signal>>;
  /** How many stacks the bag holds; no limit when left out. */
  readonly bagPlaces?: number;
  /** BCP 47 tag of the language that titles and what authors say are given in. @defaultValue `"en"` */
  readonly language?: string;
  /** Sentences to use in place of our English ones. */
  readonly texts?: Texts;
}
