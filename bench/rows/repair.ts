import { spawnSync } from "node:child_process";
import { repairLoadout } from "zealous-mantle/solver";
import { makeSource, randomBelow, readSource } from "../catalogs.ts";
import { broke, fewestChanges } from "../fewest-changes.ts";
import { agree, median, type Row, sideBySide } from "../measure.ts";
import { charactersOf20 } from "./check.ts";

/** The fewest changes that make broken characters valid; both ways find answers of the same size. */
export const repair: Row = {
  name: "repair",
  work: "mend a broken character of a 40-slot catalog with the fewest changes",
  against: "logic-solver minimizing the same",
  unit: "ms",
  goal: { atLeast: 75 },
  async measure() {
    const source = makeSource({ slots: 40, parts: 240, tags: 60, rules: 120 });
    const catalog = readSource(source);
    const below = randomBelow(5);
    const broken = charactersOf20(catalog, 100).map((character) => broke(catalog, character, below));
    for (const [number, character] of broken.slice(0, 20).entries()) {
      const { changes, isProven } = repairLoadout(catalog, character);
      const theirs = fewestChanges(source, character);
      agree(isProven && changes === theirs, `character ${number}: ${changes} changes against ${theirs}`);
    }
    const some = broken.slice(0, 4);
    return perOne(
      await sideBySide(
        { run: () => broken.map((character) => repairLoadout(catalog, character)), times: 1 },
        { run: () => some.map((character) => fewestChanges(source, character)), times: 1 },
        5,
      ),
      { ours: broken.length, theirs: some.length },
    );
  },
};

function perOne(pair: { ours: number; theirs: number }, count: { ours: number; theirs: number }) {
  return { ours: pair.ours / count.ours, theirs: pair.theirs / count.theirs };
}

/** The same in a program that has repaired nothing yet, as a page has when a player presses the button for the first time. */
export const repairCold: Row = {
  name: "repair-cold",
  work: "the first repair of a program: 240 parts in 40 slots, the model compiled in it",
  against: "the first answer of logic-solver in another program",
  unit: "ms",
  goal: { atLeast: 3 },
  async measure() {
    const first = (way: "ours" | "theirs") => {
      const { stdout } = spawnSync(process.execPath, ["--import", "tsx", "bench/first-repair.ts", way], {
        encoding: "utf8",
      });
      return JSON.parse(stdout) as { readonly changes: number; readonly took: number };
    };
    const turns = Array.from({ length: 9 }, () => [first("ours"), first("theirs")] as const);
    for (const [ours, theirs] of turns) agree(ours.changes === theirs.changes, "how many changes are needed");
    return {
      ours: median(turns.map(([{ took }]) => took)),
      theirs: median(turns.map(([, { took }]) => took)),
      turns: turns.map(([ours, theirs]) => theirs.took / ours.took),
    };
  },
};
