import { html } from "lit";
import type { Fitting } from "../core/create/fitting.ts";
import { wornParts } from "../core/rules/worn.ts";
import { isWornWhole, type Page, pagesOf, slotOf } from "./fitting-pages.ts";
import type { ScreenElement } from "./screen-element.ts";
import type { FittingText } from "./texts.ts";

/** The index of the fitting: its pages in groups, each with what is worn there now. */
export function renderIndex(
  screen: ScreenElement<object, FittingText> & { readonly page: Page },
  { catalog, character }: Pick<Fitting, "catalog" | "character">,
  turnTo: (page: Page) => void,
) {
  const worn = new Map(wornParts(catalog, character).map(({ slot, part }) => [slot, part]));
  const parts = new Set([...worn.values()].map(({ id }) => id));
  const now = (page: Page) => {
    if (page === "build") return screen.titleOf(catalog, "bodies", character.body);
    if (page === "outfits")
      return screen.titled([...catalog.outfits.values()].find((outfit) => isWornWhole(outfit, parts))?.title);
    return screen.titled(worn.get(slotOf(catalog, page)?.id ?? "")?.title);
  };
  const entry = (page: Page) => {
    const slot = slotOf(catalog, page);
    const title = slot === undefined ? screen.say(page as "build") : screen.titled(slot.title);
    return html`<button type="button" data-page=${page} aria-current=${page === screen.page ? "page" : "false"} @click=${() => turnTo(page)}>
      <span>${title}</span><small>${now(page) || "–"}</small>
    </button>`;
  };
  const pages = pagesOf(catalog);
  const group = (name: "whole" | "looks" | "gear") =>
    pages[name].length === 0
      ? ""
      : html`<p class="group">${screen.say(name)}</p><div class="entries">${pages[name].map(entry)}</div>`;
  return html`<nav class="index" part="index" aria-label=${screen.say("pages")} data-group>${group("whole")}${group("looks")}${group("gear")}</nav>`;
}
