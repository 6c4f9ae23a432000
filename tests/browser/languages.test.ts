import { describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import { englishScreenTexts } from "../../src/elements/texts.ts";
import { isLong } from "../runs.ts";
import { expected } from "./harbor-page.ts";
import { overflowOn } from "./overflow.ts";
import { savedWith, useSite } from "./site.ts";

const site = useSite();

const sizes = [
  { width: 1280, height: 800 },
  { width: 1024, height: 600 },
  { width: 390, height: 844 },
] as const;

/** All that players read on the page, and all that is read to them. */
const words = (page: Page) =>
  page.evaluate(() => {
    const said = new Set<string>();
    const gather = (root: Document | ShadowRoot) => {
      for (const element of root.querySelectorAll(
        "button, h1, h2, label, option, [aria-label], .group, .note, small",
      )) {
        for (const text of [element.textContent, element.getAttribute("aria-label")]) said.add(text?.trim() ?? "");
      }
      for (const element of root.querySelectorAll("*")) if (element.shadowRoot !== null) gather(element.shadowRoot);
    };
    gather(document);
    return [...said];
  });

/** Texts of the screens that read the same in both languages, or are put together from titles alone. */
const shared = new Set(["Name", "×{count}"]);

// What fits the narrow one fits the wide one nearly always.
describe.each(isLong ? sizes : sizes.slice(-1))("in a language of long words, at $width×$height", (viewport) => {
  test.each([
    ["the steps", "/creator/?lang=de", []],
    ["the fitting", "/creator/?lang=de", ["Kopfbedeckung", "Haar", "Fertige Figuren"]],
    ["the equipment", "/bag/?lang=de", ["i"]],
    ["the seats", "/ferry/?lang=de", ["Enter"]],
  ] as const)("%s cut off no word, and speak no other language", async (what, path, presses) => {
    const saved = what === "the fitting" ? { saved: await savedWith(expected) } : {};
    const { page, errors } = await site.visit(path, { viewport, ...saved });
    await page.waitForSelector("body[data-ready]");
    const english = new Set(Object.values(englishScreenTexts).filter((text) => !shared.has(text)));
    const look = async () => {
      expect([what, await overflowOn(page)]).toEqual([what, { cut: [], sideways: 0 }]);
      expect((await words(page)).filter((text) => english.has(text as "Undo"))).toEqual([]);
    };
    for (const press of presses) {
      if (what === "the fitting") await page.click(`.index button:has-text("${press}")`);
      else await page.keyboard.press(press);
      await page.waitForTimeout(50);
      await look();
    }
    if (what !== "the steps") return;
    for (const answer of ["reed", "reed", "braid", "silver", "sand"]) {
      await look();
      await page.click(`[data-card="${answer}"]`);
      await page.click("#next");
    }
    await page.click("#later");
    await page.click('[data-card="lamps"]');
    await page.click("#next");
    expect(await page.textContent("#question")).toBe("Laternen\u00adanzünder: Soll es dabei bleiben?");
    await page.click("#next");
    await look();
    expect(errors).toEqual([]);
  });
});

test("what is worn over what is asked about comes off on the cards, and stays on the character", async () => {
  const { page } = await site.run("elements");
  await page.evaluate(async () => {
    await Reflect.get(globalThis, "openAlone")("drawn");
    document.querySelector("mantle-fitting")?.fitting?.wear("oilskin");
  });
  await page.click('[data-page="slot:shirt"]');
  await page.mouse.move(0, 0);
  await page.waitForFunction(() => {
    const cards = document.querySelector("mantle-fitting")?.shadowRoot?.querySelector("mantle-cards")?.shadowRoot;
    const drawn = [...(cards?.querySelectorAll("canvas") ?? [])].map((canvas) => canvas.toDataURL());
    return drawn.length >= 5 && new Set(drawn).size === drawn.length;
  });
  const loadout = await page.evaluate(() => document.querySelector("mantle-fitting")?.fitting?.character.loadout);
  expect(loadout?.["coat"]).toBe("oilskin");
});
