import type { Character } from "../core/character/character.ts";

/** A screen is done with a character, or asks for it to be edited elsewhere. */
export class CharacterEvent extends Event {
  /** The finished or chosen one; the one to edit; or, where it was given up, the one the screen began with. */
  readonly character: Character;

  constructor(type: "mantle-finish" | "mantle-leave" | "mantle-edit", character: Character) {
    super(type, { bubbles: true, composed: true });
    this.character = character;
  }
}

/** How a screen for one character ends. */
export interface EndEvents {
  readonly "mantle-finish": CharacterEvent;
  readonly "mantle-leave": CharacterEvent;
}
