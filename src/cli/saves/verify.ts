import type { Problem } from "../../core/base/problem.ts";
import { readCharacter } from "../../core/character/read-character.ts";
import { judgeCharacter } from "../../core/save/judge/judge-character.ts";
import { loadCatalog } from "../../node/load-catalog.ts";
import { counted, problemData, problemLines } from "../output.ts";
import type { SavesAction } from "./action.ts";
import { generationsOf } from "./generations.ts";

/** Every generation of every save; with a catalog, every character as well. */
export const verifyAction: SavesAction = {
  name: "verify",
  does: "open every generation of every save; with --catalog judge every character by it as well",
  async run({ store, options, migrations, colors }) {
    const catalog = options.catalog === undefined ? undefined : await loadCatalog(options.catalog, { art: "none" });
    const { keys } = await store.list();
    const damaged: { key: string; revision: number; says: string }[] = [];
    const problems: Problem<unknown>[] = [];
    let count = 0;
    for (const key of keys) {
      const generations = await generationsOf(store, key, migrations);
      count += generations.length;
      for (const { revision, isWhole, says } of generations) if (!isWhole) damaged.push({ key, revision, says });
      const newest = generations.find(({ isWhole }) => isWhole);
      if (catalog === undefined || newest?.kind !== "character") continue;
      const { character, problems: found } = readCharacter(newest.content);
      const judged = character === undefined ? found : judgeCharacter(catalog, JSON.stringify(character)).problems;
      problems.push(...judged.map((problem) => ({ ...problem, place: { ...problem.place, file: key } })));
    }
    const isFine = damaged.length + problems.length === 0;
    const found = [
      damaged.length > 0 ? counted(damaged.length, "damaged generation") : "",
      problems.length > 0 ? counted(problems.length, "problem") : "",
    ].filter(Boolean);
    return {
      lines: [
        ...damaged.map(({ key, revision, says }) => `${key} ${revision}  ${says}`),
        ...problemLines(problems, colors),
        `${counted(keys.length, "save")}, ${counted(count, "generation")}: ${isFine ? "all whole" : found.join(", ")}.`,
      ],
      data: { saves: keys.length, generations: count, damaged, problems: problemData(problems) },
      exitCode: isFine ? 0 : 1,
    };
  },
};
