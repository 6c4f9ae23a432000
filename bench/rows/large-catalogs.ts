import { allOptions, applyEdit, type Catalog, type Character, checkLoadout } from "zealous-mantle";
import { rollCharacter } from "zealous-mantle/solver";
import { makeSource, needy, randomBelow, readSource, wearing } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

/** A catalog in which a tenth of the parts require a stat. */
function needyCatalog(parts: number): Catalog {
  return readSource(needy(makeSource({ slots: 40, parts, tags: 400, rules: parts / 10 }), randomBelow(4)));
}

/** Rolls in a catalog of ten times the parts. */
export const roll20k: Row = {
  name: "roll-20k",
  work: "roll a character in 20,000 parts, a tenth of which require a stat",
  against: "a roll in 2,000 parts",
  unit: "ms",
  goal: { atMost: 12 },
  async measure() {
    const [small, large] = [needyCatalog(2_000), needyCatalog(20_000)];
    let seed = 0;
    const rollIn = (catalog: Catalog) => {
      seed += 1;
      return rollCharacter(catalog, { seed });
    };
    for (const catalog of [small, large])
      for (let turn = 0; turn < 20; turn += 1)
        agree(checkLoadout(catalog, rollIn(catalog)).length === 0, "a roll is not valid");
    const pair = await sideBySide({ run: () => rollIn(large), times: 5 }, { run: () => rollIn(small), times: 20 }, 11);
    agree(pair.ours <= 500, `a roll takes ${pair.ours.toFixed(0)} ms, and 500 is the most`);
    return pair;
  },
};

/** What every part would come to, for a character in whom much is broken. */
export const options20k: Row = {
  name: "options-20k",
  work: "all options of a badly broken character in 20,000 parts",
  against: "doing each edit",
  unit: "ms",
  goal: { atLeast: 3 },
  async measure() {
    const catalog = needyCatalog(20_000);
    const below = randomBelow(6);
    const loadout = Object.fromEntries(
      [...catalog.slots.values()].map(({ id, parts }) => [id, parts[below(parts.length)]?.id ?? ""]),
    );
    const character = wearing(catalog, loadout);
    const ours = [...allOptions(catalog, character).values()].flatMap((list) => list.map(({ state }) => state));
    agree(ours.join() === byEditing(catalog, character).join(), "the states of options");
    const pair = await sideBySide(
      { run: () => allOptions(catalog, character), times: 1 },
      { run: () => byEditing(catalog, character), times: 1 },
      5,
    );
    agree(pair.ours <= 1_000, `it takes ${pair.ours.toFixed(0)} ms, and 1000 is the most`);
    return pair;
  },
};

function byEditing(catalog: Catalog, character: Character): readonly string[] {
  return [...catalog.slots.values()].flatMap((slot) =>
    slot.parts.map((part) => {
      if (character.loadout[slot.id] === part.id) return "worn";
      const result = applyEdit(catalog, character, { wear: part.id, in: slot.id });
      if (!result.ok) return "blocked";
      return result.displaced.some((displaced) => displaced.slot !== slot.id) ? "displaces" : "ready";
    }),
  );
}
