import { checkLoadout } from "zealous-mantle";
import { makeSource, readSource, type Source, wearing } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";
import { charactersOf20 } from "./check.ts";

/** The same character and rules, with 49,000 more parts that nobody wears. */
export const checkGrowth: Row = {
  name: "check-growth",
  work: "judge one character in a catalog of 50,000 parts",
  against: "the same in a catalog of 1,000",
  unit: "ms",
  goal: { atMost: 1.3 },
  async measure() {
    const source = makeSource({ slots: 40, parts: 1_000, tags: 100, rules: 200 });
    const more = makeSource({ slots: 40, parts: 50_000, tags: 100, rules: 200, seed: 2 });
    const grown: Source = { ...source, parts: { ...more.parts, ...source.parts } };
    const [small, large] = [readSource(source), readSource(grown)];
    const characters = charactersOf20(small, 16).map(({ loadout }) => loadout);
    const [inSmall, inLarge] = [small, large].map((catalog) => characters.map((loadout) => wearing(catalog, loadout)));
    const judge = (catalog: typeof small, all = inSmall) => (all ?? []).flatMap((one) => checkLoadout(catalog, one));
    agree(judge(small).length === judge(large, inLarge).length, "the number of findings");
    return sideBySide(
      { run: () => judge(large, inLarge), times: 300 },
      { run: () => judge(small, inSmall), times: 300 },
      25,
    );
  },
};
