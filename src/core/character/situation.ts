import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "./character.ts";
import type { Context } from "./context.ts";

/** A character, the catalog it is judged by, and what the game knows besides. */
export interface Situation {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly context: Context;
}
