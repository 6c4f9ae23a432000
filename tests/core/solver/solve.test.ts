import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  allOptions,
  applyEdit,
  type Catalog,
  type Character,
  checkLoadout,
  createCharacter,
  type Edit,
  MantleError,
} from "zealous-mantle";
import { surveyRules } from "zealous-mantle/authoring";
import { completeLoadout, countLoadouts, repairLoadout, rollCharacter, solver } from "zealous-mantle/solver";
import { brokenSlowly, isValidSlowly, isWornSet, wornSlowly } from "../../oracles/judge-slowly.ts";
import { runs } from "../../runs.ts";
import { catalogOf, loadoutIn, pool, worlds } from "../generated-worlds.ts";

const picks = fc.array(fc.nat({ max: 11 }), { minLength: 4, maxLength: 4 });
const bodies = fc.constantFrom("plain", "tall");
const facts = fc.constantFrom<Character["facts"]>({}, { trade: "pilot" }, { trade: "smith" });

/** In how many slots two loadouts differ, the default of a required slot being no choice. */
function distance(
  one: Character["loadout"],
  other: Character["loadout"],
  defaults: Readonly<Record<string, string>>,
): number {
  const shown = (loadout: Character["loadout"], slot: string) => loadout[slot] ?? defaults[slot];
  const slots = [...new Set([...Object.keys(one), ...Object.keys(other)])];
  return slots.filter((slot) => shown(one, slot) !== shown(other, slot)).length;
}

function afterEdits(catalog: Catalog, character: Character, edits: readonly Edit[]): Character {
  return edits.reduce<Character>((before, edit) => {
    const result = applyEdit(catalog, before, edit);
    if (!result.ok) throw new Error(`${JSON.stringify(edit)}: ${result.problems.map(({ code }) => code).join(" ")}`);
    return result.character;
  }, character);
}

test("rolls of seeds next to each other are not alike", () => {
  const parts = { "a-cap": { slot: "a" }, "a-hood": { slot: "a" }, "b-boots": { slot: "b" }, "b-clogs": { slot: "b" } };
  const slots = { a: { required: true }, b: { required: true } };
  const world = { parts, slots, rules: [], bodies: { plain: { carry: 3 } } };
  const times = new Map<string, number>();
  for (let seed = 1; seed <= 400; seed += 1) {
    const rolled = Object.values(rollCharacter(catalogOf(world), { seed, body: "plain" }).loadout).join(" ");
    times.set(rolled, (times.get(rolled) ?? 0) + 1);
  }
  // Each of the four in about a hundred; so far off as this, one in a million draws would be.
  expect(times.size).toBe(4);
  for (const count of times.values()) expect(Math.abs(count - 100)).toBeLessThan(45);
});

describe("on generated catalogs, compared with trying everything", () => {
  test("the check finds a loadout valid when nothing is wrong with it", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, facts, ({ world, catalog }, pick, body, answers) => {
        const loadout = loadoutIn(world, pick);
        const character = { ...createCharacter(catalog, { body }), loadout, facts: answers };
        expect(checkLoadout(catalog, character).length === 0).toBe(
          isValidSlowly(world, { body, loadout, facts: answers }),
        );
      }),
      runs(1_000),
    );
  });

  test("a repair changes as few slots as can be, and its edits can be done in their order", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, facts, ({ world, catalog, valid, defaults }, pick, body, answers) => {
        const loadout = loadoutIn(world, pick);
        const character = { ...createCharacter(catalog, { body }), loadout, facts: answers };
        const repair = repairLoadout(catalog, character);
        const sizes = valid(body, answers, loadout).map((each) => distance(loadout, each, defaults));
        expect(repair.isProven).toBe(true);
        expect(repair.edits === undefined).toBe(sizes.length === 0);
        if (repair.edits === undefined) return;
        const mended = afterEdits(catalog, character, repair.edits);
        expect(checkLoadout(catalog, mended)).toEqual([]);
        expect(repair.changes).toBe(distance(loadout, mended.loadout, defaults));
        expect(repair.changes).toBe(Math.min(...sizes));
      }),
      runs(500),
    );
  });

  test("completing a loadout adds as few parts as can be, and takes nothing off", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, ({ world, catalog, valid, defaults }, pick, body) => {
        const loadout = loadoutIn(world, pick);
        const character = { ...createCharacter(catalog, { body }), loadout };
        const sizes = valid(body, {}, loadout)
          .filter((each) => Object.keys(loadout).every((slot) => each[slot] === loadout[slot]))
          .map((each) => distance(loadout, each, defaults));
        const { edits, changes, isProven } = completeLoadout(catalog, character);
        expect(isProven).toBe(true);
        expect(edits === undefined ? Number.POSITIVE_INFINITY : changes).toBe(Math.min(...sizes));
      }),
      runs(500),
    );
  });

  test("valid loadouts are counted exactly", () => {
    fc.assert(
      fc.property(worlds, bodies, facts, ({ catalog, valid }, body, answers) => {
        const counted = countLoadouts(catalog, { body, facts: answers });
        const count = BigInt(valid(body, answers).length);
        expect(counted).toEqual({ count, upperBound: count, isProven: true });
      }),
      runs(1_000),
    );
  });

  test("a roll is valid, and brings up every part that some valid loadout has", () => {
    fc.assert(
      fc.property(worlds, bodies, ({ world, catalog, valid }, body) => {
        const loadouts = valid(body);
        if (loadouts.length === 0) {
          expect(() => rollCharacter(catalog, { seed: 1, body })).toThrow(MantleError);
          return;
        }
        const possible = new Set(loadouts.flatMap((loadout) => Object.values(loadout)));
        const rolled = new Set<string>();
        for (let seed = 0; seed < 2_000 && (seed < 20 || rolled.size < possible.size); seed += 1) {
          const { loadout } = rollCharacter(catalog, { seed, body });
          if (!isValidSlowly(world, { body, loadout })) throw new Error(`Not valid: ${JSON.stringify(loadout)}`);
          for (const part of Object.values(loadout)) rolled.add(part);
        }
        expect([...rolled].sort()).toEqual([...possible].sort());
      }),
      runs(200),
    );
  });

  test("a survey names the parts nobody can wear and the rules that never fire, and no others", () => {
    const someones = ["plain", "tall"].flatMap((body) =>
      [{}, { trade: "pilot" }, { trade: "smith" }].map((answers) => ({ body, answers })),
    );
    for (const { world, catalog, judged } of pool) {
      const worn = new Set<string>();
      const fires = new Set<number>();
      for (const { body, answers } of someones) {
        for (const { loadout, placesHold, broken, defaults } of judged(body, answers)) {
          if (!placesHold || defaults.length > 0) continue;
          const [only] = broken;
          const all = wornSlowly(world, { body, loadout });
          if (only === undefined) {
            for (const [, part] of all) worn.add(part);
            for (const [number, rule] of world.rules.entries()) if (isWornSet(rule, all, world)) fires.add(number);
          } else if (broken.length === 1) fires.add(only);
        }
      }
      const { problems, isProven } = surveyRules(catalog, { raised: [] });
      const named = (code: string) =>
        problems.filter((problem) => problem.code === code).map(({ place }) => place.pointer.split("/")[2]);
      const deadParts = Object.keys(world.parts).filter((part) => !worn.has(part));
      const deadRules = [...world.rules.keys()].filter((number) => !fires.has(number)).map(String);
      const dead = (code: string) => [...named(code)].sort();
      expect([isProven, named("part-never-worn")]).toEqual([true, deadParts]);
      expect([...dead("rule-never-fires"), ...dead("set-never-worn")].sort()).toEqual(deadRules);
    }
  });

  test("options say what doing the edit and checking comes to, and their ways lead there with the fewest changes", () => {
    const contexts = fc.record(
      {
        wardrobe: fc.constantFrom("open" as const, "bag" as const),
        holdings: fc.dictionary(
          fc.constantFrom("a-one", "b-two", "c-three"),
          fc.constantFrom("secret" as const, "listed" as const),
        ),
        bagPlaces: fc.integer({ min: 2, max: 4 }),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(worlds, picks, bodies, contexts, ({ world, catalog }, pick, body, context) => {
        const loadout = loadoutIn(world, pick);
        const bag = { "b-two": [1], "c-one": [1], "d-one": [1] };
        const character = { ...createCharacter(catalog, { body }), loadout, bag };
        for (const [slot, options] of allOptions(catalog, character, context)) {
          const shown = wornSlowly(world, character).find(([id]) => id === slot)?.[1];
          for (const { part, state, problems, displaced } of options) {
            const result = applyEdit(catalog, character, { wear: part.id, in: slot }, context);
            if (part.id === shown) expect(state).toBe("worn");
            else if (!result.ok) {
              const access = { "not-known": "secret", "not-owned": "locked" };
              const code = result.problems.map(({ code }) => code).find((each) => each in access);
              expect(state).toBe(code === undefined ? "blocked" : access[code as keyof typeof access]);
              expect(problems).toEqual(result.problems);
            } else {
              expect(state).toBe(result.displaced.some((each) => each.slot !== slot) ? "displaces" : "ready");
              expect(displaced).toEqual(result.displaced.filter((each) => each.slot !== slot));
              const before = brokenSlowly(world, character);
              const after = brokenSlowly(world, { body, loadout: result.character.loadout });
              expect(after.filter((number) => !before.includes(number))).toEqual([]);
            }
          }
        }
      }),
      runs(200),
    );
  });

  test("the ways to wear a part are as few as can be, and do it", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, ({ world, catalog, valid, defaults }, pick, body) => {
        const loadout = loadoutIn(world, pick);
        const character = { ...createCharacter(catalog, { body }), loadout };
        const loadouts = valid(body, {}, loadout);
        for (const { part, slot, editsToWear } of [...allOptions(catalog, character, { solver }).values()].flat()) {
          const wearing = loadouts.filter((each) =>
            wornSlowly(world, { body, loadout: each }).some(([id, worn]) => id === slot && worn === part.id),
          );
          const least = Math.min(...wearing.map((each) => distance(loadout, each, defaults)));
          expect(editsToWear === undefined).toBe(wearing.length === 0);
          if (editsToWear === undefined) continue;
          const dressed = afterEdits(catalog, character, editsToWear);
          expect(checkLoadout(catalog, dressed)).toEqual([]);
          expect(distance(loadout, dressed.loadout, defaults)).toBe(least);
        }
      }),
      runs(100),
    );
  });
});
