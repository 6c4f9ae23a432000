import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { type Character, checkLoadout, format } from "zealous-mantle";
import { type Item, pairwiseCover } from "zealous-mantle/authoring";
import { messages } from "zealous-mantle/locales/en";
import { demo, demoFolder } from "../../demo-catalog.ts";
import { isValidSlowly, type World, wornSlowly } from "../../oracles/judge-slowly.ts";
import { writtenWorld } from "../../oracles/written-world.ts";
import { isLong, runs } from "../../runs.ts";
import { gear, part, smallCatalog } from "../../small-catalog.ts";
import { worlds } from "../generated-worlds.ts";

type Worn = readonly (readonly [string, string])[];

/** Every two parts of different slots that somebody wears, as texts. */
function pairsOf(worn: Worn): readonly string[] {
  const named = worn.map(([slot, part]) => `${slot}/${part}`).sort();
  return named.flatMap((one, at) => named.slice(at + 1).map((other) => `${one} + ${other}`));
}

function pairsSeen(world: World, characters: readonly Character[]): ReadonlySet<string> {
  return new Set(characters.flatMap((character) => pairsOf(wornSlowly(world, character))));
}

const name = (item: Item) => (item.kind === "part" ? `${item.slot}/${item.part}` : item.kind);

test("on generated catalogs, shows every pair that any valid loadout has, and no others, and says which are apart", () => {
  const answers = [{}, { trade: "pilot" }, { trade: "smith" }];
  fc.assert(
    fc.property(worlds, fc.integer({ min: 1, max: 99 }), ({ world, catalog, valid }, seed) => {
      const filled = [...catalog.slots.values()].filter(({ parts }) => parts.length > 0);
      fc.pre(filled.length > 1);
      const set = pairwiseCover(catalog, { seed });
      expect(set.isProven).toBe(true);
      for (const { body, loadout, facts } of set.characters)
        expect(isValidSlowly(world, { body, loadout, facts })).toBe(true);
      const worn = ["plain", "tall"].flatMap((body) =>
        answers.flatMap((facts) =>
          valid(body, facts).map((loadout) =>
            wornSlowly(world, { body, loadout }).filter(([slot]) => catalog.slots.has(slot)),
          ),
        ),
      );
      const possible = new Set(worn.flatMap(pairsOf));
      expect([...pairsSeen(world, set.characters)].sort()).toEqual([...possible].sort());
      expect(set.pairs).toBe(possible.size);
      expect(set.characters.length).toBeGreaterThanOrEqual(set.lowerBound);
      const single = [...new Set(worn.flatMap((each) => each.map(([slot, part]) => `${slot}/${part}`)))].sort();
      const apart = single.flatMap((one, at) =>
        single
          .slice(at + 1)
          .flatMap((other) => (one.split("/")[0] === other.split("/")[0] ? [] : [`${one} + ${other}`])),
      );
      const named = set.apart.map(({ items }) => items.map(name).sort().join(" + "));
      expect(named.sort()).toEqual(apart.filter((pair) => !possible.has(pair)).sort());
      expect(set.apart.filter(({ because }) => because.length === 0)).toEqual([]);
    }),
    runs(40, 800),
  );
});

/** Every three parts of different slots that somebody wears, as texts. */
function threesOf(worn: Worn): readonly string[] {
  const named = worn.map(([slot, part]) => `${slot}/${part}`).sort();
  return named.flatMap((one, at) =>
    pairsOf(worn.filter(([slot, part]) => named.indexOf(`${slot}/${part}`) > at)).map((pair) => `${one} + ${pair}`),
  );
}

test("on generated catalogs, shows every three that any valid loadout has, where that is asked for", () => {
  fc.assert(
    fc.property(worlds, fc.integer({ min: 1, max: 99 }), ({ world, catalog, valid }, seed) => {
      fc.pre([...catalog.slots.values()].filter(({ parts }) => parts.length > 0).length > 1);
      const set = pairwiseCover(catalog, { seed, strength: 3 });
      const worn = ["plain", "tall"].flatMap((body) =>
        [{}, { trade: "pilot" }, { trade: "smith" }].flatMap((facts) =>
          valid(body, facts).map((loadout) => wornSlowly(world, { body, loadout })),
        ),
      );
      const possible = new Set(worn.flatMap(threesOf));
      const seen = new Set(set.characters.flatMap((character) => threesOf(wornSlowly(world, character))));
      expect([...seen].sort()).toEqual([...possible].sort());
      expect([set.threes, set.isProven]).toEqual([possible.size, true]);
      const pairs = new Set(worn.flatMap(pairsOf));
      expect(set.pairs).toBe(pairs.size);
      expect(set.characters.length).toBeGreaterThanOrEqual(set.lowerBound);
      for (const { items } of set.apart) {
        const named = items.map(name).sort();
        expect([...possible, ...pairs]).not.toContain(named.join(" + "));
        if (items.length === 3)
          for (const left of named) expect(pairs).toContain(named.filter((each) => each !== left).join(" + "));
      }
    }),
    runs(24, 300),
  );
});

test("says what keeps two parts apart where it is no rule: a slot that must be filled has no room beside them", () => {
  const catalog = smallCatalog({
    slots: { cap: gear, cape: gear, mask: gear, coat: { ...gear, required: true, default: "shawl" } },
    parts: {
      hat: part("cap"),
      visor: part("mask"),
      cloak: part("cape"),
      shawl: part("coat", { occupies: ["cap"] }),
      jacket: part("coat", { occupies: ["mask"] }),
    },
  });
  const { apart } = pairwiseCover(catalog);
  const said = apart.map(({ items, because }) => [
    items.map(name).sort().join(" + "),
    because.map((each) => format(each, messages)),
  ]);
  expect(said).toContainEqual([
    "cap/hat + mask/visor",
    ['Slot "coat" must not be empty.', '"shawl" takes slot "cap".', '"jacket" takes slot "mask".'],
  ]);
});

describe("the demo", () => {
  const set = pairwiseCover(demo);

  test("is seen in no more than 1.15 times as many characters as there have to be, each of them valid", () => {
    expect(set.lowerBound).toBeGreaterThanOrEqual(56);
    expect(set.characters.length).toBeLessThanOrEqual(1.15 * set.lowerBound);
    expect(set.characters.flatMap((character) => checkLoadout(demo, character))).toEqual([]);
    expect(pairwiseCover(demo).characters).toEqual(set.characters);
  });

  test("shows every pair of parts that any valid character has: what is not seen is not found by trying either", async () => {
    const world = await writtenWorld(demoFolder);
    const seen = pairsSeen(world, set.characters);
    expect(seen.size).toBe(set.pairs);
    const worn = [...demo.slots.values()].flatMap((slot) => slot.parts.map(({ id }) => [slot.id, id] as const));
    const unseen = worn.flatMap((one, at) =>
      worn
        .slice(at + 1)
        .filter((other) => one[0] !== other[0] && !seen.has(pairsOf([one, other])[0] ?? ""))
        .map((other) => [one, other]),
    );
    expect(unseen.length).toBe(set.apart.length);
    // Somebody who wears two things may need a third for it, or a fourth.
    const thirds = [[], ...worn.map((each) => [each])];
    const more = isLong ? thirds.flatMap((third) => worn.map((each) => [...third, each])) : thirds;
    for (const pair of unseen) {
      for (const body of isLong ? demo.bodies.keys() : ["reed"]) {
        for (const facts of [{}, { trade: "lamps" }]) {
          const found = more.find((added) =>
            isValidSlowly(world, { body, facts, loadout: Object.fromEntries([...added, ...pair]) }),
          );
          expect([pair, found]).toEqual([pair, undefined]);
        }
      }
    }
  });

  test("has every part on every body that it fits, and in every color, where that is asked for", () => {
    const { characters, isProven, lowerBound } = pairwiseCover(demo, {
      slots: ["hat", "coat"],
      company: ["bodies", "colors"],
    });
    expect([isProven, lowerBound <= characters.length]).toEqual([true, true]);
    const seen = new Set(
      characters.flatMap(({ body, colors, loadout }) => [
        `${loadout["coat"]} ${body}`,
        `${loadout["coat"]} ${colors["oilcloth"]}`,
      ]),
    );
    for (const body of demo.bodies.keys()) expect(seen).toContain(`oilskin ${body}`);
    for (const ramp of ["mustard", "indigo", "madder", "moss"]) expect(seen).toContain(`oilskin ${ramp}`);
    expect(characters.length).toBeLessThan(45);
  });

  test("says what keeps two parts apart", () => {
    const said = new Map(
      set.apart.map(({ items, because }) => [
        items.map(name).join(" + "),
        because.map((each) => format(each, messages)).join(" "),
      ]),
    );
    expect(said.get("hat/lamp-crown + neck/hood-up")).toBe('Never together: "lamp-crown" and "hood-up".');
    expect(said.get("vest/apron + chain/watch-chain")).toBe('With "watch-chain" there must be "waistcoat".');
    expect(said.get("trousers/waders + boots/clogs")).toBe('"waders" takes slot "boots".');
    expect([...said.values()].filter((text) => text === "")).toEqual([]);
  });
});

test("ends where the budget does, and says that it is not complete", () => {
  const { isProven, characters, lowerBound } = pairwiseCover(demo, { budget: 200 });
  expect(lowerBound).toBeLessThanOrEqual(characters.length);
  expect([isProven, characters.length > 0, characters.length < 40]).toEqual([false, true, true]);
  expect(characters.flatMap((character) => checkLoadout(demo, character))).toEqual([]);
});

test("refuses what there is no pair of", () => {
  expect(() => pairwiseCover(demo, { slots: ["hat"] })).toThrow("There is nothing to be seen together");
  expect(() => pairwiseCover(demo, { slots: ["hat", "coats" as "coat"] })).toThrow('"coat"');
});
