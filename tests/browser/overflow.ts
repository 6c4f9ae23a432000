import type { Page } from "playwright-core";

interface Overflow {
  readonly cut: readonly (string | undefined)[];
  readonly sideways: number;
}

/** Words of the page that do not fit in the control they stand in, and how far the page can be scrolled sideways. */
export function overflowOn(page: Page): Promise<Overflow> {
  return page.evaluate(() => {
    const all: Element[] = [];
    const gather = (root: Document | ShadowRoot) => {
      for (const element of root.querySelectorAll("*")) {
        all.push(element);
        if (element.shadowRoot !== null) gather(element.shadowRoot);
      }
    };
    gather(document);
    const controls = all.filter((each) =>
      each.matches("button, a, h1, h2, [role=option], [role=option] .words, label"),
    );
    // Lines that are left out on purpose end in three dots, which count as wider than their place.
    const clamped = all.filter((each) => each instanceof HTMLElement && each.matches(".words"));
    for (const each of clamped) (each as HTMLElement).style.webkitLineClamp = "none";
    const cut = controls.filter((each) => each.clientWidth > 1 && each.scrollWidth > each.clientWidth + 1);
    for (const each of clamped) (each as HTMLElement).style.webkitLineClamp = "";
    const { scrollWidth, clientWidth } = document.documentElement;
    return { cut: cut.map(({ textContent }) => textContent?.trim()), sideways: scrollWidth - clientWidth };
  });
}
