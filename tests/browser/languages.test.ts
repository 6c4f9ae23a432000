import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import { globSync } from "tinyglobby";
import type { MantleRoster, MantleSeats } from "zealous-mantle/elements";
import { texts } from "zealous-mantle/locales/en";
import { isLong } from "../runs.ts";
import { overflowOn } from "./overflow.ts";
import { frames, useSite } from "./site.ts";

const site = useSite();

/** Every screen, and presses that lead through what it says. */
const screens = [
  [
    "steps",
    [
      ...["reed", "reed", "braid", "silver", "sand"].flatMap((card) => [`[data-card="${card}"]`, "#next"]),
      "#later",
      '[data-card="lamps"]',
      "#next",
      "#next",
    ],
  ],
  [
    "fitting",
    [
      '[data-page="slot:chain"]',
      "[data-card=watch-chain]",
      '[data-page="outfits"]',
      '[data-page="presets"]',
      "#cancel",
    ],
  ],
  ["bag", ["#quay", "[data-part=watch-chain]"]],
  ["roster", ["#rename", "#keep-old", "#retire", "#page-retired"]],
  ["seats", [".seat.empty button"]],
] as const;

/** All that players read on the page, and all that is read to them, a text each. */
const textsOn = (page: Page) =>
  page.evaluate(() => {
    const said = new Set<string>();
    const gather = (root: Document | ShadowRoot) => {
      for (const element of root.querySelectorAll("*")) {
        if (element.matches("style, script")) continue;
        const own = [...element.childNodes].map((each) => (each instanceof Text ? each.data : "")).join("");
        for (const text of [own, element.getAttribute("aria-label"), element.getAttribute("title")])
          said.add(text?.trim() ?? "");
        if (element.shadowRoot !== null) gather(element.shadowRoot);
      }
    };
    gather(document);
    return [...said].filter((text) => /\p{L}/u.test(text));
  });

/** What the demo, the page and its players call something: every text of their files. */
const names = new Set(["Blank", "A plain page", "The bag", "The quay", "Halric"]);
const addTexts = (value: unknown): void => {
  if (typeof value === "string") names.add(value);
  else if (typeof value === "object" && value !== null) for (const each of Object.values(value)) addTexts(each);
};
for (const file of globSync("demo/saltmarsh/{*.json,parts/*.json}")) addTexts(JSON.parse(readFileSync(file, "utf8")));

/** The long one, which leaves no text out; those that are spoken in the long run. */
const languages = ["long", ...(isLong ? ["ar", "de", "es", "fr", "ja"] : [])];

/** What fits the narrow one fits the wide ones nearly always. */
const sizes = [
  [390, 844],
  ...(isLong
    ? [
        [1024, 600],
        [1280, 800],
      ]
    : []),
] as const;

const all = languages.flatMap((language) => sizes.map(([width, height]) => ({ language, width, height })));

describe.each(all)("in the language $language, at $width×$height", ({ language, width, height }) => {
  test.each(screens)("%s cuts off no word, and speaks no other language", async (name, presses) => {
    const { page, errors } = await site.run("elements");
    await page.setViewportSize({ width, height });
    await page.evaluate(([screen, tag]) => Reflect.get(globalThis, "openAlone")(screen, 0, false, tag), [
      name,
      language,
    ] as const);
    // In German outfits are called so too.
    const english = new Set<string>(Object.values(texts).filter((text) => !names.has(text) && text !== "Outfits"));
    const players: readonly string[] = await page.evaluate(() => {
      const screen = document.querySelector<MantleRoster | MantleSeats>("mantle-roster, mantle-seats");
      return screen?.session?.characters.map((each) => each.name) ?? [];
    });
    for (const press of ["", ...presses]) {
      if (press !== "") await page.click(press);
      if (press === "#quay") await page.keyboard.press("i");
      await frames(page, 2);
      expect([press, await overflowOn(page)]).toEqual([press, { cut: [], sideways: 0 }]);
      const said = await textsOn(page);
      expect(said.filter((text) => english.has(text))).toEqual([]);
      if (language === "long")
        expect(said.filter((text) => !text.includes("⟦") && !names.has(text) && !players.includes(text))).toEqual([]);
    }
    expect(errors).toEqual([]);
  });
});

test.each([
  ["de", "ltr", "Weiter"],
  ["ar", "rtl", "التالي"],
])("a page of the examples speaks the language of its address: %s", async (language, direction, next) => {
  const { page, errors } = await site.visit(`/creator/?lang=${language}`);
  await page.waitForSelector("body[data-ready]");
  expect([await page.evaluate(() => document.dir), (await page.textContent("#next"))?.trim(), errors]).toEqual([
    direction,
    next,
    [],
  ]);
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
