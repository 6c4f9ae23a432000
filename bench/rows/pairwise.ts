import { type Catalog, type Character, checkLoadout, createCharacter, MantleError, wornParts } from "zealous-mantle";
import { type PairwiseCover, pairwiseCover } from "zealous-mantle/authoring";
import { loadCatalog } from "zealous-mantle/node";
import { rollCharacter } from "zealous-mantle/solver";
import { type Below, makeSource, randomBelow, readSource } from "../catalogs.ts";
import { agree, type Row } from "../measure.ts";

/** So many characters are tried for each that is taken. */
const tries = 50;

/** The demo's parts, every two together that can be, on about as few characters as can be. */
export const pairwise: Row = {
  name: "pairwise",
  work: "characters of the demo on which every two parts are seen together that can be",
  against: `a greedy search with the same solver: character by character, the best of ${tries}, part by part what adds most`,
  unit: "ms",
  goal: { atLeast: 10 },
  async measure() {
    const catalog = await loadCatalog("demo/saltmarsh", { art: "none" });
    const start = performance.now();
    const theirs = greedySet(catalog, randomBelow(7));
    const theirTime = performance.now() - start;
    const times: number[] = [];
    for (let turn = 0; turn < 5; turn += 1) {
      const begun = performance.now();
      const ours = pairwiseCover(catalog, { enough: theirs.length });
      times.push(performance.now() - begun);
      agreeOn(catalog, ours, theirs);
    }
    return { ours: times.toSorted((one, other) => one - other)[2] ?? 0, theirs: theirTime };
  },
};

/** A catalog of a thousand parts: every two together that can be, within a minute. */
export const pairwiseLarge: Row = {
  name: "pairwise-large",
  work: "the same for 20 slots of 50 parts with 100 rules, 474,356 pairs",
  against: "a minute",
  unit: "ms",
  goal: { atMost: 1 },
  async measure() {
    const catalog = readSource(makeSource({ slots: 20, parts: 1_000, tags: 60, rules: 100 }));
    const start = performance.now();
    const { characters, pairs, lowerBound, isProven } = pairwiseCover(catalog);
    const ours = performance.now() - start;
    const seen = new Set(characters.flatMap((each) => [...pairsOf(catalog, each)]));
    agree(isProven && seen.size === pairs && characters.length >= lowerBound, `${seen.size} pairs seen of ${pairs}`);
    agree(
      characters.every((each) => checkLoadout(catalog, each).length === 0),
      "whether all are valid",
    );
    return { ours, theirs: 60_000 };
  },
};

/** Both show the same pairs, on valid characters, and ours are no more. */
function agreeOn(catalog: Catalog, ours: PairwiseCover, theirs: readonly Character[]): void {
  const seen = (characters: readonly Character[]) =>
    [...new Set(characters.flatMap((each) => [...pairsOf(catalog, each)]))].sort().join("\n");
  agree(seen(ours.characters) === seen(theirs), "the pairs that are seen");
  agree(ours.characters.length <= theirs.length, `${ours.characters.length} characters against ${theirs.length}`);
  agree(
    [...ours.characters, ...theirs].every((each) => checkLoadout(catalog, each).length === 0),
    "whether all are valid",
  );
}

function keyOf(one: string, other: string): string {
  return one < other ? `${one} ${other}` : `${other} ${one}`;
}

function* pairsOf(catalog: Catalog, character: Character): Iterable<string> {
  const worn = wornParts(catalog, character).map(({ slot, part }) => `${slot}/${part.id}`);
  for (const [at, one] of worn.entries()) for (const other of worn.slice(at + 1)) yield keyOf(one, other);
}

/** Somebody who wears some parts and is valid, as the solver finds them. */
function validWith(catalog: Catalog, body: string, loadout: Character["loadout"]): Character | undefined {
  const character = { ...createCharacter(catalog, { body }), loadout };
  for (const facts of [{}, { trade: "lamps" }]) {
    try {
      const keep = { character, body: true, slots: Object.keys(loadout) };
      return rollCharacter(catalog, { seed: 1, emptyChance: 1, facts, keep });
    } catch (error) {
      if (!(error instanceof MantleError && error.code === "nothing-to-roll")) throw error;
    }
  }
  return undefined;
}

function greedySet(catalog: Catalog, below: Below): readonly Character[] {
  const items = [...catalog.slots.values()].flatMap(({ id, parts }) =>
    parts.map((part) => ({ slot: id, part: part.id })),
  );
  const bodies = [...catalog.bodies.keys()];
  const left = new Set<string>();
  for (const one of items)
    for (const other of items)
      if (one.slot < other.slot) left.add(keyOf(`${one.slot}/${one.part}`, `${other.slot}/${other.part}`));
  const gain = (character: Character) => [...pairsOf(catalog, character)].filter((pair) => left.has(pair)).length;
  const set: Character[] = [];
  const take = (character: Character) => {
    set.push(character);
    for (const pair of pairsOf(catalog, character)) left.delete(pair);
  };
  for (;;) {
    let best: Character | undefined;
    let most = 0;
    for (let number = 0; number < tries; number += 1) {
      const tried = greedyCharacter(catalog, bodies[below(bodies.length)] ?? "", items, left, below);
      const adds = tried === undefined ? 0 : gain(tried);
      if (adds <= most) continue;
      most = adds;
      best = tried;
    }
    if (best === undefined) break;
    take(best);
  }
  // What is left is looked for pair by pair.
  for (const pair of left) {
    const loadout = Object.fromEntries(pair.split(" ").map((each) => each.split("/")));
    const found = bodies.map((body) => validWith(catalog, body, loadout)).find((each) => each !== undefined);
    if (found !== undefined && gain(found) > 0) take(found);
  }
  return set;
}

/** Slot by slot in random order, after the part that has most pairs left: the part that adds most, if somebody valid wears it with the rest. */
function greedyCharacter(
  catalog: Catalog,
  body: string,
  items: readonly { readonly slot: string; readonly part: string }[],
  left: ReadonlySet<string>,
  below: Below,
): Character | undefined {
  const leftOf = new Map<string, number>();
  for (const pair of left)
    for (const each of pair.split(" ")) leftOf.set(each, (leftOf.get(each) ?? 0) + 1 + below(8) / 100);
  const first = items.reduce((one, other) =>
    (leftOf.get(`${other.slot}/${other.part}`) ?? 0) > (leftOf.get(`${one.slot}/${one.part}`) ?? 0) ? other : one,
  );
  let loadout: Record<string, string> = { [first.slot]: first.part };
  let found = validWith(catalog, body, loadout);
  if (found === undefined) return undefined;
  const slots = [...catalog.slots.keys()].filter((slot) => slot !== first.slot);
  for (let at = slots.length - 1; at > 0; at -= 1) {
    const other = below(at + 1);
    [slots[at], slots[other]] = [slots[other] ?? "", slots[at] ?? ""];
  }
  for (const slot of slots) {
    const chosen = Object.entries(loadout);
    const adds = (part: string) =>
      chosen.filter(([other, worn]) => left.has(keyOf(`${slot}/${part}`, `${other}/${worn}`))).length;
    const ranked = items
      .filter((item) => item.slot === slot)
      .map(({ part }) => ({ part, adds: adds(part) + below(100) / 1_000 }))
      .filter((each) => each.adds >= 1)
      .sort((one, other) => other.adds - one.adds);
    for (const { part } of ranked) {
      const next = validWith(catalog, body, { ...loadout, [slot]: part });
      if (next === undefined) continue;
      loadout = { ...loadout, [slot]: part };
      found = next;
      break;
    }
  }
  return found;
}
