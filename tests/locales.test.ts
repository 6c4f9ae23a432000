import { describe, expect, test } from "@jest/globals";
import { catalogTitles, checkLoadout, createCharacter, format } from "zealous-mantle";
import * as ar from "zealous-mantle/locales/ar";
import * as de from "zealous-mantle/locales/de";
import * as en from "zealous-mantle/locales/en";
import * as es from "zealous-mantle/locales/es";
import * as fr from "zealous-mantle/locales/fr";
import * as ja from "zealous-mantle/locales/ja";
import { demo } from "./demo-catalog.ts";

const english: Readonly<Record<string, string>> = { ...en.texts, ...en.messages };

/** What a template speaks of: the names of its places, but of numbers that are only put into words. */
const placesOf = (template: string) =>
  [...new Set([...template.matchAll(/\{([a-z]+)(?::(?!.*=)[a-z]+)?\}/gi)].map(([, name]) => name))].sort();

describe.each([ar, de, es, fr, ja])("the language $language", ({ language, texts, messages }) => {
  const all: Readonly<Record<string, string>> = { ...texts, ...messages };

  test("says everything that English says, of the same things, in words of its own", () => {
    const untold = Object.entries(all).filter(
      ([code, text]) => String(placesOf(text)) !== String(placesOf(english[code] ?? "")),
    );
    expect(untold).toEqual([]);
    const same = Object.entries(all).filter(
      ([code, text]) => text === english[code] && /\p{L}/u.test(text.replace(/\{.*?\}/g, "")),
    );
    // Words that both languages have.
    expect(same.map(([code]) => code).filter((code) => !["outfits", "name"].includes(code))).toEqual([]);
  });

  test("has a word for each plural category, wherever it has one for any", () => {
    const categories = new Intl.PluralRules(language).resolvedOptions().pluralCategories;
    const words = Object.values(all).flatMap((text) =>
      [...text.matchAll(/\{[a-z]+:([^{}]*=[^{}]*)\}/g)].map(([, option]) => option ?? ""),
    );
    for (const option of words) {
      const given = option.split(";").map((each) => each.split("=")[0]);
      expect(given).toContain("other");
      // "many" of French and Spanish is for millions, and "zero" of Arabic reads as what is counted by hundreds.
      expect(categories.filter((each) => !given.includes(each) && each !== "many" && each !== "zero")).toEqual([]);
    }
  });

  test("names things by their titles, without quotation marks", () => {
    const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
    const [problem] = checkLoadout(demo, { ...wren, loadout: { ...wren.loadout, neck: "hood-up", hat: "storm-hat" } });
    const said = problem === undefined ? "" : format({ ...problem, more: [] }, messages, catalogTitles(demo, language));
    expect(said).toMatch(/(Storm hat|Südwester|Sturmhut)/);
    expect(said).not.toMatch(/["“”„«»「」{}\u00a0]/);
  });
});
