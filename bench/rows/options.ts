import { allOptions, applyEdit, type Catalog, type Character, checkLoadout } from "zealous-mantle";
import { makeSource, readSource } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";
import { charactersOf20 } from "./check.ts";

/** What every part of every slot would come to if it were put on now. */
export const options: Row = {
  name: "options",
  work: "all options of a catalog of 10,000 parts and 2,000 rules",
  against: "doing each edit and checking it",
  unit: "ms",
  goal: { atLeast: 50 },
  async measure() {
    const catalog = readSource(makeSource({ slots: 40, parts: 10_000, tags: 400, rules: 2_000 }));
    const [character] = charactersOf20(catalog, 1);
    if (character === undefined) throw new Error("There is no character");
    const ours = () => [...allOptions(catalog, character).values()].flatMap((list) => list.map(({ state }) => state));
    const [one, other] = [ours(), byEditing(catalog, character)].map((states) => states.join());
    agree(one === other, "the states of options");
    return sideBySide(
      { run: () => allOptions(catalog, character), times: 5 },
      { run: () => byEditing(catalog, character), times: 1 },
      11,
    );
  },
};

/** The state of every option, found by doing the edit and checking what comes of it. */
function byEditing(catalog: Catalog, character: Character): readonly string[] {
  return [...catalog.slots.values()].flatMap((slot) =>
    slot.parts.map((part) => {
      if (character.loadout[slot.id] === part.id) return "worn";
      const result = applyEdit(catalog, character, { wear: part.id, in: slot.id });
      if (!result.ok || checkLoadout(catalog, result.character).length > 0) return "blocked";
      return result.displaced.some((displaced) => displaced.slot !== slot.id) ? "displaces" : "ready";
    }),
  );
}
