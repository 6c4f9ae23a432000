import { html } from "lit";
import { wornParts } from "../core/character/worn.ts";
import type { Fitting } from "../core/create/fitting.ts";
import { type Page, pagesOf, slotOf } from "./fitting-pages.ts";
import type { ScreenElement } from "./screen-element.ts";

/** The index of the fitting: its pages in groups, each with what is worn there now. */
export function renderIndex(
  screen: ScreenElement & { readonly page: Page },
  { catalog, shown }: Pick<Fitting, "catalog" | "shown">,
  turnTo: (page: Page) => void,
) {
  const worn = new Map(wornParts(catalog, shown).map(({ slot, part }) => [slot, part]));
  const entry = (page: Page) => {
    const slot = slotOf(catalog, page);
    const body = page === "build" ? screen.titleOf(catalog, "bodies", shown.body) : "";
    const title = slot === undefined ? screen.say(page as "build") : screen.titled(slot.title);
    const now = slot === undefined ? body : screen.titled(worn.get(slot.id)?.title);
    return html`<button type="button" data-page=${page} aria-current=${page === screen.page ? "page" : "false"} @click=${() => turnTo(page)}>
      <span>${title}</span><small>${now || "–"}</small>
    </button>`;
  };
  const pages = pagesOf(catalog);
  const group = (name: "whole" | "looks" | "gear") =>
    pages[name].length === 0
      ? ""
      : html`<p class="group">${screen.say(name)}</p><div class="entries">${pages[name].map(entry)}</div>`;
  return html`<nav class="index" part="index" aria-label=${screen.say("pages")} data-group>${group("whole")}${group("looks")}${group("gear")}</nav>`;
}
