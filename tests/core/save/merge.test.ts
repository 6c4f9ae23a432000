import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { applyEdit, type Character, createFromPreset, type Edit } from "zealous-mantle";
import { rollCharacter } from "zealous-mantle/solver";
import { mergeCharacters, mergeSaved } from "zealous-mantle/sync";
import { demo } from "../../demo-catalog.ts";
import { runs } from "../../runs.ts";

const base: Character = {
  ...createFromPreset(demo, "first-watch", { id: "wren", name: "Wren" }),
  bag: { flare: [3], "sea-boots": [1] },
};

function edited(...edits: readonly Edit[]): Character {
  return edits.reduce((character: Character, edit) => {
    const result = applyEdit(demo, character, edit, { wardrobe: "bag" });
    if (!result.ok) throw new Error(JSON.stringify(result.problems.map(({ code, params }) => [code, params])));
    return result.character;
  }, base);
}

/** Things by part: worn as gear and carried. */
function thingsOf({ loadout, bag }: Character): Readonly<Record<string, number>> {
  const things = new Map<string, number>();
  for (const [slot, part] of Object.entries(loadout))
    if (demo.slots.get(slot)?.kind === "gear") things.set(part, (things.get(part) ?? 0) + 1);
  for (const [part, stacks] of Object.entries(bag))
    things.set(part, (things.get(part) ?? 0) + stacks.reduce((sum, count) => sum + count, 0));
  return Object.fromEntries([...things].sort());
}

describe("two changes of one character", () => {
  test("are both in the merged one when they are of different things", () => {
    const mine = edited({ remove: "hat" }, { paint: "oilcloth", ramp: "indigo" });
    const theirs = edited({ drop: "flare", count: 1 }, { rename: "Wrenna" });
    const { character, conflicts, problems } = mergeCharacters(demo, { base, mine, theirs });
    expect([conflicts, problems]).toEqual([[], []]);
    expect(character).toEqual({
      ...mine,
      name: "Wrenna",
      bag: { "sea-boots": [1], flare: [2], "storm-hat": [1] },
    });
  });

  test("of one slot are a conflict, and what loses its place goes to the bag", () => {
    const both = { ...base, bag: { "reed-cap": [1], "hood-up": [1] }, loadout: { ...base.loadout } };
    const wearing = (part: string) => {
      const result = applyEdit(demo, both, { wear: part }, { wardrobe: "bag" });
      if (!result.ok) throw new Error(part);
      return result.character;
    };
    const versions = { base: both, mine: wearing("reed-cap"), theirs: wearing("hood-up") };
    const { character, conflicts } = mergeCharacters(demo, versions);
    expect(conflicts).toContainEqual({ at: ["loadout", "hat"], mine: "reed-cap", theirs: undefined });
    expect(thingsOf(character)).toEqual(thingsOf(both));
    const other = mergeCharacters(demo, versions, { prefer: "mine" }).character;
    expect(other.loadout["hat"]).toBe("reed-cap");
    expect(thingsOf(other)).toEqual(thingsOf(both));
  });

  test("in which there is one of a thing, and each wears it elsewhere, are a conflict", () => {
    const carried = { ...base, loadout: {}, bag: { "hand-lantern": [1] } };
    const held = (slot: string) => ({ ...carried, loadout: { [slot]: "hand-lantern" }, bag: {} });
    const versions = { base: carried, mine: held("hand-left"), theirs: held("hand-right") };
    for (const [prefer, slot] of [
      ["mine", "hand-left"],
      ["theirs", "hand-right"],
    ] as const) {
      const { character, conflicts } = mergeCharacters(demo, versions, { prefer });
      expect(conflicts).toEqual([{ at: ["loadout", "hand-left"], mine: "hand-lantern", theirs: undefined }]);
      expect([character.loadout, character.bag]).toEqual([{ [slot]: "hand-lantern" }, {}]);
    }
  });

  test("that break a rule together are reported, with the rule", () => {
    const plain = { ...base, loadout: {}, bag: {} };
    const mine = { ...plain, loadout: { coat: "oilskin" } };
    const theirs = { ...plain, loadout: { vest: "cork-vest" } };
    const { problems, conflicts } = mergeCharacters(demo, { base: plain, mine, theirs });
    expect(conflicts).toEqual([]);
    expect(problems.map(({ code }) => code)).toEqual(["never-together"]);
    expect(
      mergeSaved(demo)("character", { base: { ...plain }, mine: { ...mine }, theirs: { ...theirs } }),
    ).toBeUndefined();
  });

  test("of two characters are refused", () => {
    const other = { ...base, id: "heron" };
    expect(() => mergeCharacters(demo, { base, mine: base, theirs: other })).toThrow("not versions of one character");
  });

  test("keep every thing that either side has, and double none, whatever was done", () => {
    const worn = fc.integer({ min: 1, max: 500 }).map((seed) => {
      const { loadout, body } = rollCharacter(demo, { seed, body: "reed" });
      return { loadout, body };
    });
    // All is put on from one wardrobe of things: what is not worn is carried.
    const stock = Object.fromEntries(
      [...demo.parts.values()]
        .filter(({ slots }) => slots.some((slot) => demo.slots.get(slot)?.kind === "gear"))
        .map(({ id }) => [id, 2]),
    );
    const dressed = ({ loadout, body }: Pick<Character, "loadout" | "body">): Character => {
      const left: Record<string, number> = { ...stock };
      for (const [slot, part] of Object.entries(loadout))
        if (demo.slots.get(slot)?.kind === "gear") left[part] = (left[part] ?? 0) - 1;
      const bag = Object.entries(left).map(([part, count]) => [part, count > 0 ? [count] : []] as const);
      return { ...base, body, loadout, bag: Object.fromEntries(bag.filter(([, stacks]) => stacks.length > 0)) };
    };
    fc.assert(
      fc.property(worn, worn, worn, fc.constantFrom("mine" as const, "theirs" as const), (one, two, three, prefer) => {
        const versions = { base: dressed(one), mine: dressed(two), theirs: dressed(three) };
        const { character } = mergeCharacters(demo, versions, { prefer });
        expect(thingsOf(character)).toEqual(thingsOf(versions.base));
        const swapped = { base: versions.base, mine: versions.theirs, theirs: versions.mine };
        const mirrored = mergeCharacters(demo, swapped, { prefer: prefer === "mine" ? "theirs" : "mine" });
        expect(mirrored.character.loadout).toEqual(character.loadout);
      }),
      runs(150),
    );
  });
});
