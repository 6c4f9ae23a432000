import { Engine, type NestedCondition, type TopLevelCondition } from "json-rules-engine";
import { type Catalog, type Character, checkLoadout } from "zealous-mantle";
import { makeSource, needOf, type RuleSource, randomBelow, readSource, wearing } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

/** One valid character after another, as a server judges them; both ways get the same rules and name the same broken ones. */
export const check: Row = {
  name: "check",
  work: "judge valid characters of 20 worn parts by 200 rules",
  against: "json-rules-engine",
  unit: "ms",
  goal: { atLeast: 500 },
  async measure() {
    const source = makeSource({ slots: 40, parts: 1_000, tags: 100, rules: 200 });
    const catalog = readSource(source);
    const valid = charactersOf20(catalog, 16);
    const engine = new Engine([], { allowUndefinedFacts: true });
    for (const [number, rule] of source.rules.entries()) {
      engine.addRule({ conditions: brokenWhen(rule), event: { type: String(number) } });
    }
    for (const character of [...valid, ...valid.map((each, number) => spoiled(catalog, each, number))]) {
      const theirs = (await engine.run(factsOf(catalog, character))).events.map(({ type }) => Number(type));
      const ours = checkLoadout(catalog, character).flatMap(({ chain }) =>
        chain.flatMap((fact) => (fact.kind === "rule" ? [fact.number] : [])),
      );
      const [one, other] = [ours, theirs].map((numbers) => [...new Set(numbers)].sort().join());
      agree(one === other, `rules ${one} against ${other}`);
    }
    return sideBySide(
      { run: () => valid.map((character) => checkLoadout(catalog, character)), times: 400 },
      {
        run: async () => {
          for (const character of valid) await engine.run(factsOf(catalog, character));
        },
        times: 1,
      },
    );
  },
};

/** Valid characters that wear 20 parts, put together part by part. */
export function charactersOf20(catalog: Catalog, count: number): readonly Character[] {
  const below = randomBelow(count);
  const slots = [...catalog.slots.values()];
  return Array.from({ length: count }, () => {
    let character = wearing(catalog, {});
    for (let tries = 0; Object.keys(character.loadout).length < 20; tries += 1) {
      if (tries > 10_000) throw new Error("No character of 20 parts was found");
      const slot = slots[below(slots.length)];
      const part = slot?.parts[below(slot.parts.length)];
      if (slot === undefined || part === undefined) continue;
      const dressed = wearing(catalog, { ...character.loadout, [slot.id]: part.id });
      if (checkLoadout(catalog, dressed).length === 0) character = dressed;
    }
    return character;
  });
}

/** The character with other parts in some slots, whatever rules say. */
export function spoiled(catalog: Catalog, character: Character, number: number): Character {
  const slots = Object.keys(character.loadout).slice(0, 8);
  const others = slots.map((slot) => {
    const parts = catalog.slots.get(slot)?.parts ?? [];
    return [slot, parts[(number * 7) % parts.length]?.id ?? ""];
  });
  return { ...character, loadout: { ...character.loadout, ...Object.fromEntries(others) } };
}

/** What the engine asks about a character: ids, tags, filled slots, how many have each tag, and the weight. */
function factsOf(catalog: Catalog, { loadout }: Character): Record<string, unknown> {
  const worn = Object.values(loadout).flatMap((id) => catalog.parts.get(id) ?? []);
  const facts: Record<string, unknown> = { part: worn.map(({ id }) => id), slot: Object.keys(loadout) };
  const tags = worn.flatMap(({ tags }) => tags);
  for (const tag of tags) facts[`tag:${tag}`] = Number(facts[`tag:${tag}`] ?? 0) + 1;
  facts["tag"] = tags;
  facts["weight"] = worn.reduce((sum, { gives }) => sum + (gives["weight"]?.add ?? 0), 0);
  return facts;
}

/** The engine's conditions under which a rule is broken. */
function brokenWhen(rule: RuleSource): TopLevelCondition {
  if (rule.never !== undefined) {
    return { all: rule.never.map(there) };
  }
  const need = needOf(rule);
  if (need !== undefined) {
    return { all: [there(need.when), ...need.any.map((pattern) => ({ not: there(pattern) }))] };
  }
  const fact = rule.count ?? rule.total ?? "";
  return { all: [{ fact, operator: "greaterThan", value: rule.atMost }] };
}

function there(pattern: string): NestedCondition {
  return { fact: pattern.slice(0, pattern.indexOf(":")), operator: "contains", value: idOf(pattern) };
}

function idOf(pattern: string): string {
  return pattern.slice(pattern.indexOf(":") + 1);
}
