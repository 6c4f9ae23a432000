import { type Catalog, type Character, checkLoadout, createCharacter } from "zealous-mantle";
import { loadCatalog } from "zealous-mantle/node";
import { repairLoadout, rollCharacter } from "zealous-mantle/solver";
import { makeSource, needy, randomBelow, readSource, wearing } from "../catalogs.ts";
import { hardCases } from "../hard-catalogs.ts";
import { linearModel } from "../linear.ts";
import { agree, type Row, sideBySide } from "../measure.ts";
import { byHighs, byZ3, endZ3, type Verdict } from "../solvers.ts";
import { charactersOf20 } from "./check.ts";

/** Seconds after which a general solver is given up, and the most that any of ours may take. */
const patience = 20;
const longest = 5;

/** What ours comes to, as the general solvers say it. */
function ours(catalog: Catalog, character: Character): Verdict["least"] {
  const { edits, changes, isProven } = repairLoadout(catalog, character);
  return isProven ? (edits === undefined ? "none" : changes) : undefined;
}

/** Characters of the demo with something in every slot, whatever rules say; both find the fewest changes. */
export const repairDemo: Row = {
  name: "repair-demo",
  work: "mend a badly broken character of the demo with the fewest changes",
  against: "HiGHS",
  unit: "ms",
  goal: { atLeast: 12 },
  async measure() {
    const catalog = await loadCatalog("demo/saltmarsh", { art: "none" });
    const below = randomBelow(21);
    const broken = Array.from({ length: 12 }, () => muddled(catalog, below));
    const models = broken.map((character) => linearModel(catalog, character));
    for (const [number, character] of broken.entries()) {
      const theirs = await byHighs(models[number] ?? linearModel(catalog, character), patience);
      agree(
        ours(catalog, character) === theirs.least,
        `character ${number}: ${ours(catalog, character)} against ${theirs.least}`,
      );
    }
    let spent = 0;
    const pair = await sideBySide(
      { run: () => broken.map((character) => ours(catalog, character)), times: 2 },
      {
        // Its time is what it takes of its own, without the reading of the model.
        run: async () => {
          for (const model of models) spent += (await byHighs(model, patience)).milliseconds;
        },
        times: 1,
      },
      5,
    );
    return { ours: pair.ours / broken.length, theirs: spent / (6 * broken.length) };
  },
};

function muddled(catalog: Catalog, below: (count: number) => number): Character {
  const character = rollCharacter(catalog, { seed: below(1_000) });
  const loadout = Object.fromEntries(
    [...catalog.slots.values()].flatMap(({ id, parts }) => {
      const part = parts[below(parts.length)];
      return part === undefined || below(4) === 0 ? [] : [[id, part.id]];
    }),
  );
  return { ...createCharacter(catalog, { body: character.body }), loadout };
}

/** Catalogs that are hard in seven ways; each answer is proved, and by each peer that ends in time. The geometric mean counts. */
export const repairHard: Row = {
  name: "repair-hard",
  work: "mend characters of seven hard catalogs, by the geometric mean",
  against: "the better of HiGHS and Z3 on each",
  unit: "ms",
  goal: { atLeast: 1 },
  async measure() {
    const times = { ours: [] as number[], theirs: [] as number[] };
    for (const { name, source, loadout } of hardCases()) {
      const catalog = readSource(source);
      const character = wearing(catalog, loadout);
      const model = linearModel(catalog, character);
      const verdicts = [await byHighs(model, patience), await byZ3(model, patience)];
      const least = ours(catalog, character);
      for (const verdict of verdicts)
        agree(verdict.least === undefined || verdict.least === least, `${name}: ${least} against ${verdict.least}`);
      agree(least !== undefined, `${name} is not proved`);
      const mine = medianOf(Array.from({ length: 5 }, () => timed(() => ours(catalog, character))));
      // One that runs out of its time counts as if it had ended then.
      const best = Math.min(
        ...verdicts.map((verdict) => (verdict.least === undefined ? patience * 1_000 : verdict.milliseconds)),
      );
      agree(mine <= longest * 1_000, `${name} takes ${mine.toFixed(0)} ms`);
      agree(best / mine >= 0.3, `${name} takes ${mine.toFixed(0)} ms against ${best.toFixed(0)}`);
      times.ours.push(mine);
      times.theirs.push(best);
    }
    await endZ3();
    return { ours: geometricMean(times.ours), theirs: geometricMean(times.theirs) };
  },
};

function timed(run: () => unknown): number {
  const start = performance.now();
  run();
  return performance.now() - start;
}

function medianOf(numbers: readonly number[]): number {
  return numbers.toSorted((one, other) => one - other)[Math.floor(numbers.length / 2)] ?? 0;
}

function geometricMean(numbers: readonly number[]): number {
  return Math.exp(numbers.reduce((sum, each) => sum + Math.log(each), 0) / numbers.length);
}

/** A character of a catalog of 20,000 parts that is valid but for two slots. */
export const repair20k: Row = {
  name: "repair-20k",
  work: "mend two slots in a catalog of 20,000 parts and 2,000 rules",
  against: "HiGHS",
  unit: "ms",
  goal: { atLeast: 20 },
  async measure() {
    const below = randomBelow(4);
    const catalog = readSource(needy(makeSource({ slots: 40, parts: 20_000, tags: 400, rules: 2_000 }), below));
    const [valid] = charactersOf20(catalog, 1);
    if (valid === undefined) throw new Error("There is no character");
    const character = spoiledTwice(catalog, valid, below);
    const theirs = await byHighs(linearModel(catalog, character), 4 * patience);
    const least = ours(catalog, character);
    agree(
      least !== undefined && (theirs.least === undefined || theirs.least === least),
      `${least} against ${theirs.least}`,
    );
    const mine = medianOf(Array.from({ length: 7 }, () => timed(() => ours(catalog, character))));
    agree(mine <= 1_000, `it takes ${mine.toFixed(0)} ms, and 1000 is the most`);
    return { ours: mine, theirs: theirs.milliseconds };
  },
};

/** The character with other parts in two slots, each of which breaks something. */
function spoiledTwice(catalog: Catalog, character: Character, below: (count: number) => number): Character {
  const slots = [...catalog.slots.values()];
  let spoiled = character;
  const changed = new Set<string>();
  while (changed.size < 2) {
    const slot = slots[below(slots.length)];
    const part = slot?.parts[below(slot.parts.length)];
    if (slot === undefined || part === undefined || changed.has(slot.id)) continue;
    const next = { ...spoiled, loadout: { ...spoiled.loadout, [slot.id]: part.id } };
    if (checkLoadout(catalog, next).length <= checkLoadout(catalog, spoiled).length) continue;
    spoiled = next;
    changed.add(slot.id);
  }
  return spoiled;
}
