import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  applyEdit,
  type Catalog,
  type Character,
  checkLoadout,
  createCharacter,
  type Edit,
  repairLoadout,
} from "zealous-mantle";
import { everyLoadout, isValidSlowly, type World } from "../oracles/judge-slowly.ts";
import { catalogOf, loadoutIn, worlds } from "./generated-worlds.ts";

const picks = fc.array(fc.nat({ max: 11 }), { minLength: 4, maxLength: 4 });
const bodies = fc.constantFrom("plain", "tall");
const facts = fc.constantFrom<Character["facts"]>({}, { trade: "pilot" }, { trade: "smith" });

/** In how many slots two loadouts differ, the default of a required slot being no choice. */
function distance(one: Character["loadout"], other: Character["loadout"]): number {
  return [...new Set([...Object.keys(one), ...Object.keys(other)])].filter((slot) => one[slot] !== other[slot]).length;
}

function validLoadouts(world: World, body: string, answers: Character["facts"], chosen?: Character["loadout"]) {
  return everyLoadout(world, chosen).filter((loadout) => isValidSlowly(world, { body, loadout, facts: answers }));
}

function afterAll(catalog: Catalog, character: Character, edits: readonly Edit[]): Character {
  return edits.reduce<Character>((before, edit) => {
    const result = applyEdit(catalog, before, edit);
    if (!result.ok)
      throw new Error(`${JSON.stringify(edit)}: ${result.problems.map(({ because }) => because).join(" ")}`);
    return result.character;
  }, character);
}

describe("on generated catalogs, compared with trying everything", () => {
  test("the check finds a loadout valid when nothing is wrong with it", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, facts, (world, pick, body, answers) => {
        const catalog = catalogOf(world);
        const loadout = loadoutIn(world, pick);
        const character = { ...createCharacter(catalog, { body }), loadout, facts: answers };
        expect(checkLoadout(catalog, character).length === 0).toBe(
          isValidSlowly(world, { body, loadout, facts: answers }),
        );
      }),
      { numRuns: 3_000 },
    );
  });

  test("a repair changes as few slots as can be, and its edits can be done in their order", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, facts, (world, pick, body, answers) => {
        const catalog = catalogOf(world);
        const loadout = loadoutIn(world, pick);
        const character = { ...createCharacter(catalog, { body }), loadout, facts: answers };
        const repair = repairLoadout(catalog, character);
        const sizes = validLoadouts(world, body, answers, loadout).map((each) => distance(loadout, each));
        expect(repair.complete).toBe(true);
        expect(repair.edits === undefined).toBe(sizes.length === 0);
        if (repair.edits === undefined) return;
        const mended = afterAll(catalog, character, repair.edits);
        expect(checkLoadout(catalog, mended)).toEqual([]);
        expect(repair.changes).toBe(distance(loadout, mended.loadout));
        expect(repair.changes).toBe(Math.min(...sizes));
      }),
      { numRuns: 2_000 },
    );
  });
});
