import type { Colors } from "picocolors/types.js";
import { MantleError } from "../core/base/problem.ts";
import type { Catalog, Part } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Edit, LoadoutProblem } from "../core/character/edit.ts";
import { applyEdit } from "../core/edits/apply-edit.ts";
import { editMessage } from "../core/edits/edit-message.ts";
import { optionsFor } from "../core/loadout/options-for.ts";
import { surveyRules } from "../core/survey/survey-rules.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { readCharacterFile } from "./character-file.ts";
import { type Answer, type DefineCommand, problemData, say, sayWithFixes } from "./output.ts";
import { sayFact } from "./say-data.ts";

/** `mantle why`: whether a character can wear a part now, the chain of facts behind it, and the smallest change. */
export const defineWhy: DefineCommand = (command, terminal) => {
  command
    .argument("<catalog>", "folder with catalog.json")
    .argument("<character>", "file of the character, or folder of its save")
    .argument("<part>", "id of the part")
    .option("--in <slot>", "the slot, for a part that goes in several")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      '\nExample:\n  $ mantle why saltmarsh out/wren.json watch-chain\n  "watch-chain" cannot go in "chain" now.\n  With "watch-chain" there must be "waistcoat". A chain hangs from a waistcoat, or it hangs in the air.\n  What would do it:\n    put on "waistcoat" in slot "vest"\n    put on "watch-chain" in slot "chain"',
    )
    .action(async (folder: string, file: string, part: string, options: { in?: string; json?: boolean }) =>
      terminal.answer(await why(folder, file, part, options.in, terminal.colors), options),
    );
};

async function why(
  folder: string,
  file: string,
  id: string,
  named: string | undefined,
  colors: Colors,
): Promise<Answer> {
  const catalog = await loadCatalog(folder, { art: "none" });
  const character = await readCharacterFile(file);
  const part = catalog.parts.get(id);
  const [refusal] = part === undefined ? problemsOf(catalog, character, { wear: id }) : [];
  if (part === undefined) throw new MantleError("unknown-part", saidOf(refusal));
  const slot = named ?? part.slots[0] ?? "";
  const option = optionsFor(catalog, character, slot).find((each) => each.part === part);
  if (option === undefined) {
    const [wrong] = problemsOf(catalog, character, { wear: id, in: slot });
    throw new MantleError("wrong-slot", saidOf(wrong));
  }
  const { state, displaced, problems } = option;
  const ways = state === "blocked" ? option.ways : undefined;
  const proof = state === "blocked" && ways === undefined ? proofOf(catalog, part) : undefined;
  const lines = [
    verdict(id, slot, state, colors),
    ...displaced.map((each) => `"${each.part}" comes off: ${say(each.because)}`),
    ...problems.flatMap((problem) => [say(problem), ...problem.chain.map((fact) => colors.dim(`  ${sayFact(fact)}`))]),
    ...(proof === undefined ? [] : [proof]),
    ...(state === "blocked" ? waysIn(ways) : []),
  ];
  return {
    lines,
    data: { part: id, slot, state, displaced, problems: problemData(problems), ways: ways ?? null },
    exitCode: state === "blocked" ? 1 : 0,
  };
}

function verdict(id: string, slot: string, state: string, colors: Colors): string {
  if (state === "worn") return colors.green(`"${id}" is worn in "${slot}".`);
  if (state === "blocked") return colors.red(`"${id}" cannot go in "${slot}" now.`);
  return colors.green(`"${id}" can go in "${slot}" now.`);
}

function waysIn(ways: readonly Edit[] | undefined): readonly string[] {
  if (ways === undefined) return ["No change of other slots would do it."];
  return ["What would do it:", ...ways.map((edit) => `  ${say(editMessage(edit))}`)];
}

/** What a survey of the catalog has to say about a part that no edits lead to. */
function proofOf(catalog: Catalog, part: Part): string | undefined {
  const { problems } = surveyRules(catalog);
  const found = problems.find(({ place }) => place.pointer === `/parts/${part.id}`);
  return found && say(found);
}

function problemsOf(catalog: Catalog, character: Character, edit: Edit): readonly LoadoutProblem[] {
  const result = applyEdit(catalog, character, edit);
  return result.ok ? [] : result.problems;
}

function saidOf(problem: LoadoutProblem | undefined): string {
  return problem === undefined ? "" : sayWithFixes(problem);
}
