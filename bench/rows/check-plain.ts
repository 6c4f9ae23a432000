import { type Catalog, type Character, checkLoadout } from "zealous-mantle";
import { makeSource, needOf, readSource, type Source } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";
import { charactersOf20, spoiled } from "./check.ts";

/** The judging of rules as one would write it by hand for one catalog: sets of what is worn, and a loop over all rules. */
export const checkPlain: Row = {
  name: "check-plain",
  work: "judge valid characters of 20 worn parts by 200 rules",
  against: "a loop over the rules, written by hand",
  unit: "ms",
  goal: { atMost: 2 },
  async measure() {
    const source = makeSource({ slots: 40, parts: 1_000, tags: 100, rules: 200 });
    const catalog = readSource(source);
    const judge = plainJudge(source);
    const valid = charactersOf20(catalog, 16);
    for (const character of [...valid, ...valid.map((each, number) => spoiled(catalog, each, number))]) {
      const [one, other] = [rulesBroken(catalog, character), judge(character.loadout)].map((numbers) =>
        [...new Set(numbers)].sort().join(),
      );
      agree(one === other, `rules ${one} against ${other}`);
    }
    return sideBySide(
      { run: () => valid.map((character) => checkLoadout(catalog, character)), times: 400 },
      { run: () => valid.map(({ loadout }) => judge(loadout)), times: 400 },
    );
  },
};

function rulesBroken(catalog: Catalog, character: Character): readonly number[] {
  return checkLoadout(catalog, character).flatMap(({ chain }) =>
    chain.flatMap((fact) => (fact.kind === "rule" ? [fact.number] : [])),
  );
}

/** The numbers of the rules that a loadout breaks. */
function plainJudge({ parts, rules }: Source): (loadout: Character["loadout"]) => readonly number[] {
  const tests = rules.map((rule) => {
    const need = needOf(rule);
    const [one = "", other = ""] = rule.never ?? [];
    if (rule.never !== undefined) return (worn: Worn) => worn.there.has(one) && worn.there.has(other);
    if (need !== undefined)
      return (worn: Worn) => worn.there.has(need.when) && !need.any.some((each) => worn.there.has(each));
    const most = rule.atMost ?? 0;
    const { count } = rule;
    if (count !== undefined) return (worn: Worn) => (worn.tags.get(count) ?? 0) > most;
    return (worn: Worn) => worn.weight > most;
  });
  return (loadout) => {
    const worn: Worn = { there: new Set(), tags: new Map(), weight: 0 };
    for (const slot in loadout) {
      const id = loadout[slot] ?? "";
      const part = parts[id];
      if (part === undefined) continue;
      worn.there.add(`part:${id}`);
      worn.there.add(`slot:${slot}`);
      for (const tag of part.tags) {
        const name = `tag:${tag}`;
        worn.there.add(name);
        worn.tags.set(name, (worn.tags.get(name) ?? 0) + 1);
      }
      worn.weight += part.gives["weight"] ?? 0;
    }
    const broken: number[] = [];
    for (let number = 0; number < tests.length; number += 1) if (tests[number]?.(worn)) broken.push(number);
    return broken;
  };
}

interface Worn {
  readonly there: Set<string>;
  readonly tags: Map<string, number>;
  weight: number;
}
