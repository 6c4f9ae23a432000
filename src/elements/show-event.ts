import type { Look } from "../core/look/look.ts";

/** What a screen shows of the figure now, for a stage of the game's own; `undefined` for nobody. */
export class ShowEvent extends Event {
  readonly look: Look | undefined;

  constructor(look: Look | undefined) {
    super("mantle-show", { bubbles: true, composed: true });
    this.look = look;
  }
}

/** The event of screens with one figure. */
export interface ShowEvents {
  readonly "mantle-show": ShowEvent;
}
