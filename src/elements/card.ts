import type { Look } from "../core/look/look.ts";

/** One thing to choose, as it is shown. */
export interface Card {
  /** Unlike that of any other card. */
  readonly id: string;
  readonly title: string;
  readonly note: string;
  readonly state: "chosen" | "ready" | "displaces" | "blocked" | "locked";
  /** Whether it is locked and can be bought: it is shown in full color. */
  readonly isForSale?: boolean;
  /** The figure on the card. */
  readonly look: Look | undefined;
  /** What it does, in place of a figure, where nothing of it is seen. */
  readonly does?: readonly string[];
  /** Colors shown in a strip, as CSS. */
  readonly colors?: readonly string[];
  /** The seats whose cursors are here; those that have picked it are marked. */
  readonly marks?: readonly { readonly seat: number; readonly picked: boolean; readonly says: string }[];
}

/**
 * Draws the picture of a card, in pixels of the screen.
 *
 * @param card - what is shown: the parts of a slot, or, without a slot, the whole figure; and how large.
 */
export type DrawCard = (
  look: Look,
  card: { readonly slot: string | undefined; readonly width: number; readonly height: number },
) => Promise<CanvasImageSource>;

/** A card of nothing. */
export const blankCard: Card = { id: "", title: "", note: "", state: "ready", look: undefined };

/** A card was chosen, or is looked at; `undefined` when none is any more. */
export class CardEvent extends Event {
  readonly number: number | undefined;

  constructor(type: "mantle-choose" | "mantle-highlight", number: number | undefined) {
    super(type, { bubbles: true, composed: true });
    this.number = number;
  }
}

/** The events of cards. */
export interface CardEvents {
  readonly "mantle-choose": CardEvent;
  readonly "mantle-highlight": CardEvent;
}
