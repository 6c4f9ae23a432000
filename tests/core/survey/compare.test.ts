import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { createCharacter } from "zealous-mantle";
import { compareCharacter, comparePictures, compareSources, type EntryChange } from "zealous-mantle/authoring";
import { createImage } from "zealous-mantle/raster";
import { runs } from "../../runs.ts";
import { gear, smallCatalog } from "../../small-catalog.ts";

const id = fc.constantFrom("hat", "coat", "a/b", "c~d");
const source = fc.record(
  {
    version: fc.constantFrom("1.0.0", "1.1.0"),
    parts: fc.dictionary(id, fc.dictionary(id, fc.jsonValue({ maxDepth: 2 }), { maxKeys: 3 }), { maxKeys: 3 }),
    rules: fc.uniqueArray(fc.record({ if: id, needs: id }), { maxLength: 4, selector: (rule) => JSON.stringify(rule) }),
  },
  { requiredKeys: [] },
);
const turned: Readonly<Record<EntryChange["fate"], string>> = {
  added: "removed",
  removed: "added",
  changed: "changed",
};
const byName = (one: object, other: object) => (JSON.stringify(one) < JSON.stringify(other) ? -1 : 1);

describe("sources that are compared", () => {
  test("are the same as themselves, in whatever order and files their entries stand", () => {
    fc.assert(
      fc.property(source, ({ parts = {}, rules = [], ...rest }) => {
        const turnedRound = Object.fromEntries(Object.entries(parts).reverse());
        const apart = [rest, { parts: turnedRound }, { rules: [...rules].reverse() }];
        expect(compareSources([{ parts, rules, ...rest }], apart)).toEqual([]);
      }),
      runs(200),
    );
  });

  test("tell the opposite the other way round", () => {
    fc.assert(
      fc.property(source, source, (one, other) => {
        const back = compareSources([other], [one]).map(({ fate, keys, ...entry }) => ({
          ...entry,
          fate: turned[fate],
          keys: keys.map(({ pointer, before, after }) => ({ pointer, before: after, after: before })).sort(byName),
        }));
        const there = compareSources([one], [other]).map(({ keys, ...entry }) => ({
          ...entry,
          keys: [...keys].sort(byName),
        }));
        expect(there.sort(byName)).toEqual(back.sort(byName));
        expect(there.length === 0).toBe(JSON.stringify(sorted(one)) === JSON.stringify(sorted(other)));
      }),
      runs(300),
    );
  });
});

/** The same, in an order of its own; empty sections say nothing. */
function sorted({
  version,
  parts = {},
  rules = [],
}: {
  version?: string;
  parts?: object;
  rules?: readonly object[];
}): unknown {
  const inOrder = (value: unknown): unknown =>
    typeof value === "object" && value !== null && !Array.isArray(value)
      ? Object.entries(value)
          .sort(([one], [other]) => (one < other ? -1 : 1))
          .map(([key, each]) => [key, inOrder(each)])
      : value;
  return [version, inOrder(parts), rules.map((rule) => JSON.stringify(inOrder(rule))).sort()];
}

test("pictures differ where a pixel that is seen does, and where only one has any", () => {
  const [one, other] = [createImage(3, 2), createImage(4, 2)];
  one.data.set([10, 20, 30, 255], 0);
  other.data.set([10, 20, 30, 255], 0);
  one.data.set([99, 99, 99, 0], 4);
  expect(comparePictures(one, other)).toBeUndefined();
  other.data.set([10, 20, 40, 255], 0);
  other.data.set([1, 1, 1, 128], 12);
  const difference = comparePictures(one, other);
  expect([difference?.count, difference?.image.width]).toEqual([2, 4]);
  expect([...(difference?.image.data.subarray(0, 4) ?? [])]).toEqual([0x9c, 0x3b, 0x2e, 116]);
});

test("a character is told what is wrong now and was not before, what is gone, and the fewest edits that mend it", () => {
  const layers = [{ image: "part.png", depth: 1 }];
  const parts = { cap: { slot: "hat", layers }, cloak: { slot: "coat", layers }, hood: { slot: "hat", layers } };
  const slots = { hat: gear, coat: gear };
  const older = smallCatalog({ parts, slots, rules: [{ never: ["part:hood", "part:cloak"] }] });
  const { hood, ...fewer } = parts;
  const newer = smallCatalog({ parts: fewer, slots, rules: [{ never: ["part:cap", "part:cloak"] }] });
  const [body = ""] = older.bodies.keys();
  const of = (loadout: Readonly<Record<string, string>>) =>
    compareCharacter(older, newer, { ...createCharacter(older, { body }), loadout });
  expect(of({ hat: "cap" })).toEqual({ problems: [], lost: [], edits: [] });
  const both = of({ hat: "cap", coat: "cloak" });
  expect([both.problems.map(({ code }) => code), both.edits?.length]).toEqual([["never-together"], 1]);
  expect(of({ hat: "hood" }).lost).toEqual(["part:hood"]);
  expect(
    compareCharacter(newer, newer, { ...createCharacter(newer, { body }), loadout: { hat: "cap", coat: "cloak" } }),
  ).toEqual({
    problems: [],
    lost: [],
    edits: [],
  });
});
