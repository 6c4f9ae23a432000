import { type Catalog, type Character, checkLoadout } from "zealous-mantle";
import { rollCharacter } from "zealous-mantle/solver";
import { type Below, makeSource, randomBelow, readSource, type Source, wearing } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

/** A valid character at random, where few random characters are valid. */
export const roll: Row = {
  name: "roll",
  work: "make a valid character at random in a tight catalog",
  against: "drawing until one is valid",
  unit: "ms",
  goal: { atLeast: 60 },
  async measure() {
    const catalog = readSource(tight(makeSource({ slots: 20, parts: 200, tags: 30, rules: 70 })));
    const below = randomBelow(3);
    let seed = 0;
    const ours = () => {
      seed += 1;
      return rollCharacter(catalog, { seed, emptyChance: 0.25 });
    };
    for (let turn = 0; turn < 50; turn += 1) agree(checkLoadout(catalog, ours()).length === 0, "a roll is not valid");
    return sideBySide({ run: ours, times: 50 }, { run: () => drawUntilValid(catalog, below), times: 3 }, 9);
  },
};

/** The source with rules that few loadouts meet: light, warm, and with something of each of some kinds. */
function tight(source: Source): Source {
  const kinds = [3, 7, 11, 19, 23].map((number) => ({ count: `tag:tag-${number}`, atLeast: 1 }));
  const rules = [{ total: "weight", atMost: 16 }, { total: "warmth", atLeast: 16 }, ...kinds];
  return { ...source, rules: [...source.rules, ...rules] };
}

function drawUntilValid(catalog: Catalog, below: Below): Character {
  for (;;) {
    const loadout: Record<string, string> = {};
    for (const slot of catalog.slots.values()) {
      const part = below(4) === 0 ? undefined : slot.parts[below(slot.parts.length)];
      if (part !== undefined) loadout[slot.id] = part.id;
    }
    const character = wearing(catalog, loadout);
    if (checkLoadout(catalog, character).length === 0) return character;
  }
}
