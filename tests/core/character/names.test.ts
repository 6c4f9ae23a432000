import { describe, expect, test } from "@jest/globals";
import { applyEdit, createCharacter, makeName } from "zealous-mantle";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { smallCatalog } from "../../small-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });

describe("a name", () => {
  const codeOf = (rename: string, names: object, catalog = demo) => {
    const result = applyEdit(catalog, wren, { rename }, { names });
    return result.ok ? result.character.name : result.problems.map((problem) => [problem.code, inWords(problem)]);
  };

  test("that someone bears is refused, however it is written", () => {
    const taken = ["Élodie", "Tam"];
    const refusal = (name: string) => [["name-taken", `Someone is called "${name}" already.`]];
    expect(codeOf("TAM", { taken })).toEqual(refusal("TAM"));
    expect(codeOf("e\u0301lodie", { taken })).toEqual(refusal("élodie"));
    expect(codeOf("Ｔａｍ", { taken })).toEqual(refusal("Ｔａｍ"));
    expect(codeOf("Elodie", { taken })).toBe("Elodie");
    expect(codeOf("", { taken: [""] })).toBe("");
  });

  test("keeps one's own when it is given again", () => {
    expect(codeOf(" Wren ", { taken: ["Wren"] })).toBe("Wren");
  });

  test("is refused by the game's own check, with its reason", () => {
    const check = (name: string) => (/\d/.test(name) ? "Couriers have no numbers." : undefined);
    expect(codeOf("Heron 2", { check })).toEqual([
      ["name-refused", 'The name "Heron 2" cannot be used. Couriers have no numbers.'],
    ]);
    expect(codeOf("Heron", { check })).toBe("Heron");
  });

  test("may be as long as the catalog says", () => {
    const catalog = smallCatalog({ names: { longest: 4 } });
    expect(codeOf("Wrens", {}, catalog)).toEqual([["name-too-long", 'The name "Wrens" has 5 letters; 4 is the most.']]);
  });
});

describe("a name that is made up", () => {
  test("is made of the catalog's syllables, is never taken, and is the same for the same seed", () => {
    const { first = [], last = [] } = demo.names ?? {};
    const made = Array.from({ length: 300 }, (_, seed) => makeName(demo, { seed }) ?? "");
    for (const name of made) {
      expect(first.some((each) => name.startsWith(each))).toBe(true);
      expect(last.some((each) => name.endsWith(each))).toBe(true);
    }
    expect(new Set(made).size).toBeGreaterThan(150);
    expect(made.map((_, seed) => makeName(demo, { seed }))).toEqual(made);
    expect(made).not.toContain(makeName(demo, { seed: 1, taken: made.map((name) => name.toUpperCase()) }));
  });

  test("keeps to the greatest length and to the game's check; where nothing can, there is none", () => {
    const catalog = smallCatalog({ names: { longest: 3, first: ["Ab", "Abcd"], last: ["e", "fgh"] } });
    for (let seed = 0; seed < 50; seed += 1) expect(makeName(catalog, { seed })).toBe("Abe");
    expect(makeName(catalog, { seed: 1, taken: ["abe"] })).toBeUndefined();
    expect(makeName(catalog, { seed: 1, check: () => "No." })).toBeUndefined();
    expect(makeName(smallCatalog(), { seed: 1 })).toBeUndefined();
    expect([...new Intl.Segmenter().segment(makeName(demo, { seed: 5 }) ?? "")].length).toBeLessThanOrEqual(16);
  });
});
