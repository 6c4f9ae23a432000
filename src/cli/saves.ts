import { stat } from "node:fs/promises";
import type { Colors } from "picocolors/types.js";
import { MantleError, type Problem } from "../core/base/problem.ts";
import { readCharacter } from "../core/character/read-character.ts";
import { unknownEntry } from "../core/play/profile.ts";
import { readSave } from "../core/save/saves.ts";
import { fileStore } from "../node/file-store.ts";
import { type Answer, counted, type DefineCommand, problemData, problemLines } from "./output.ts";

/** `mantle saves`: what a folder of saves holds, and whether it is whole. */
export const defineSaves: DefineCommand = (command, terminal) => {
  command
    .argument("<folder>", "folder of a file store")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle saves out/saves\n  character-wren  Wren, reed, 3 worn, 1 carried\n  profile         seat 1: wren\n  2 saves, all whole.",
    )
    .action(async (folder: string, options: { json?: boolean }) =>
      terminal.answer(await saves(folder, terminal.colors), options),
    );
};

async function saves(folder: string, colors: Colors): Promise<Answer> {
  const found = await stat(folder).catch(() => undefined);
  if (!found?.isDirectory())
    throw new MantleError(
      "unreadable-file",
      `There is no folder ${folder}. Name the folder that a file store writes to.`,
    );
  const store = fileStore(folder);
  const { keys, unknown } = await store.list();
  const entries: { key: string; says: string }[] = [];
  const problems: Problem<unknown>[] = unknown.map(unknownEntry);
  for (const key of keys) {
    const save = await readSave(store, key, key.startsWith("character-") ? "character" : "profile");
    problems.push(...save.problems);
    entries.push({ key, says: save.content === undefined ? "cannot be used" : summarize(key, save.content) });
  }
  const width = Math.max(0, ...keys.map(({ length }) => length));
  const verdict = problems.length === 0 ? "all whole" : `${counted(problems.length, "problem")} found`;
  const lines = entries.map(({ key, says }) => `${key.padEnd(width)}  ${says}`);
  return {
    lines: [
      ...lines,
      ...problemLines(problems, colors),
      keys.length === 0 ? "No saves." : `${counted(keys.length, "save")}, ${verdict}.`,
    ],
    data: { saves: entries, problems: problemData(problems) },
    exitCode: problems.length > 0 ? 1 : 0,
  };
}

function summarize(key: string, content: unknown): string {
  const { character } = readCharacter(content);
  if (character !== undefined) {
    const carried = Object.values(character.bag)
      .flat()
      .reduce((sum, count) => sum + count, 0);
    return `${character.name || "unnamed"}, ${character.body}, ${Object.keys(character.loadout).length} worn, ${carried} carried`;
  }
  if (key !== "profile" || typeof content !== "object" || content === null || !("seats" in content))
    return "of a form this version does not know";
  const seats = Object.entries(content.seats as Record<string, string>).map(([number, id]) => `seat ${number}: ${id}`);
  return seats.length === 0 ? "no seats taken" : seats.join(", ");
}
