import { html } from "lit";
import type { Fitting } from "../core/create/fitting.ts";
import type { ScreenElement } from "./screen-element.ts";
import type { WearingText } from "./texts.ts";

/** The buttons that go back and forth, and back to the beginning; as arrows, which are as short in every language. */
export function renderUndo(screen: ScreenElement<object, WearingText>, fitting: Fitting) {
  const button = (id: "undo" | "redo" | "revert", arrow: string, isOff: boolean, act: () => void) =>
    html`<button type="button" id=${id} class="arrow" aria-label=${screen.say(id)} title=${screen.say(id)} ?disabled=${isOff} @click=${act}>${arrow}</button>`;
  return [
    button("undo", "↶", !fitting.canUndo, () => fitting.undo()),
    button("redo", "↷", !fitting.canRedo, () => fitting.redo()),
    button("revert", "⇤", fitting.character === fitting.original, () => fitting.revert()),
  ];
}
