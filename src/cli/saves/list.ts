import type { Problem } from "../../core/base/problem.ts";
import { readCharacter } from "../../core/character/read-character.ts";
import { unknownEntry } from "../../core/play/profile.ts";
import { readSave } from "../../core/save/saves.ts";
import { removedKind } from "../../core/save/seal.ts";
import { counted, problemData, problemLines } from "../output.ts";
import type { SavesAction } from "./action.ts";

/** What saves a store has, and whether each is whole. */
export const listAction: SavesAction = {
  name: "list",
  does: "list the saves and check that each is whole",
  async run({ store, migrations, colors }) {
    const { keys, unknown } = await store.list();
    const entries: { key: string; says: string }[] = [];
    const problems: Problem<unknown>[] = unknown.map(unknownEntry);
    for (const key of keys) {
      const save = await readSave(store, key, kindOf(key), { migrations });
      problems.push(...save.problems);
      const says = save.content === undefined ? withoutContent(save.kind) : summarize(save.kind ?? "", save.content);
      entries.push({ key, says });
    }
    const width = Math.max(0, ...keys.map(({ length }) => length));
    const verdict = problems.length === 0 ? "all whole" : `${counted(problems.length, "problem")} found`;
    return {
      lines: [
        ...entries.map(({ key, says }) => `${key.padEnd(width)}  ${says}`),
        ...problemLines(problems, colors),
        keys.length === 0 ? "No saves." : `${counted(keys.length, "save")}, ${verdict}.`,
      ],
      data: { saves: entries, problems: problemData(problems) },
      exitCode: problems.length > 0 ? 1 : 0,
    };
  },
};

function withoutContent(kind: string | undefined): string {
  return kind === removedKind ? "removed" : "cannot be used";
}

/** What a session keeps under a key; `undefined` for a key of the game's own. */
export function kindOf(key: string): string | undefined {
  if (key.startsWith("character-")) return "character";
  return key === "profile" ? "profile" : undefined;
}

/** What a save holds, in a few words. */
function summarize(kind: string, content: unknown): string {
  const { character } = readCharacter(content);
  if (character !== undefined) {
    const carried = Object.values(character.bag)
      .flat()
      .reduce((sum, count) => sum + count, 0);
    return `${character.name || "unnamed"}, ${character.body}, ${Object.keys(character.loadout).length} worn, ${carried} carried`;
  }
  if (kind !== "profile") return kind === "character" ? "of a form this version does not know" : `of the kind ${kind}`;
  if (typeof content !== "object" || content === null || !("seats" in content))
    return "of a form this version does not know";
  const seats = Object.entries(content.seats as Record<string, string>).map(([number, id]) => `seat ${number}: ${id}`);
  return seats.length === 0 ? "no seats taken" : seats.join(", ");
}
