/** What an intent came from. */
export type Device = "keyboard" | "mouse" | "touch" | "pen" | `gamepad-${number}`;

export type Direction = "left" | "right" | "up" | "down";

/** What a player wants of a screen, whatever device it came from. */
export type Intent = { readonly device: Device } & (
  | { readonly kind: "go"; readonly way: Direction }
  /** What has the focus was pressed, clicked or tapped. */
  | { readonly kind: "choose" }
  /** Out of here, one level. */
  | { readonly kind: "leave" }
  /** Turns the figure; 1 is to the viewer's right. */
  | { readonly kind: "turn"; readonly by: 1 | -1 }
  /** To the next group of controls, or the one before. */
  | { readonly kind: "leaf"; readonly by: 1 | -1 }
  | { readonly kind: "undo" }
  | { readonly kind: "redo" }
);

/** What an intent is without the device it came from. */
export type Wish = Intent extends infer Each ? (Each extends unknown ? Omit<Each, "device"> : never) : never;

/**
 * An intent on its way: sent to what has the focus, from where it rises through every element, shadow roots too. Whoever takes
 * care of it calls `preventDefault`, and what usually follows does not.
 */
export class IntentEvent extends Event {
  static readonly type = "mantle-intent";
  readonly intent: Intent;

  constructor(intent: Intent) {
    super(IntentEvent.type, { bubbles: true, composed: true, cancelable: true });
    this.intent = intent;
  }
}

declare global {
  interface HTMLElementEventMap {
    "mantle-intent": IntentEvent;
  }
}
