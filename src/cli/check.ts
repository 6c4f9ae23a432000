import type { Command } from "commander";
import pc from "picocolors";
import { textIn } from "../core/catalog/text.ts";
import { checkLoadout } from "../core/loadout/check-loadout.ts";
import { checkPresets } from "../core/loadout/check-presets.ts";
import { surveyRules } from "../core/loadout/survey-rules.ts";
import { inspectCatalog, loadCatalog } from "../node/load-catalog.ts";
import { readCharacterFile } from "./character-file.ts";
import { type Answer, counted, printAnswer, problemLines } from "./output.ts";

/** `mantle check`: everything that is wrong with a catalog, or with a character under it. */
export function addCheck(program: Command): void {
  program
    .command("check")
    .description(
      "Find everything that is wrong with a catalog (its files, its references, its art), or with a character's loadout.",
    )
    .argument("<catalog>", "folder with catalog.json")
    .argument("[character]", "file of a character, or of its save, to judge under the catalog")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle check demo/saltmarsh\n  Saltmarsh Post 1.0.0: 4 bodies, 19 slots, 76 parts, 4 outfits, 13 rules. Nothing is wrong.",
    )
    .action(async (folder: string, character: string | undefined, options: { json?: boolean }) =>
      printAnswer(character === undefined ? await check(folder) : await checkCharacter(folder, character), options),
    );
}

async function check(folder: string): Promise<Answer> {
  const { catalog, problems: found } = await inspectCatalog(folder);
  const survey = catalog === undefined ? undefined : surveyRules(catalog);
  const presets = catalog === undefined ? [] : checkPresets(catalog);
  const problems = [...found, ...(survey?.problems ?? []), ...presets];
  const errors = problems.filter(({ severity }) => severity === "error").length;
  const warnings = problems.length - errors;
  const holds =
    catalog === undefined
      ? `The catalog in ${folder}`
      : `${textIn(catalog.title)} ${catalog.version}: ${[
          counted(catalog.bodies.size, "body", "bodies"),
          counted(catalog.slots.size, "slot"),
          counted(catalog.parts.size, "part"),
          counted(catalog.outfits.size, "outfit"),
          counted(catalog.rules.length, "rule"),
        ].join(", ")}.`;
  const verdict =
    problems.length === 0
      ? pc.green("Nothing is wrong.")
      : `${[errors > 0 ? counted(errors, "error") : "", warnings > 0 ? counted(warnings, "warning") : ""].filter(Boolean).join(" and ")} found.`;
  return {
    text: [
      ...problemLines(problems),
      ...(survey?.complete === false ? ["The rules are too many to survey; dead ones may be left."] : []),
      catalog === undefined ? `${holds} cannot be used: ${verdict}` : `${holds} ${verdict}`,
    ].join("\n"),
    data: { catalog: catalog === undefined ? null : { id: catalog.id, version: catalog.version }, problems },
    exitCode: errors > 0 ? 1 : 0,
  };
}

async function checkCharacter(folder: string, file: string): Promise<Answer> {
  const catalog = await loadCatalog(folder);
  const character = await readCharacterFile(file);
  const problems = checkLoadout(catalog, character);
  const errors = problems.filter(({ severity }) => severity === "error").length;
  const verdict =
    problems.length === 0 ? pc.green("Nothing is wrong.") : `${counted(problems.length, "problem")} found.`;
  return {
    text: [...problemLines(problems), `${character.name || character.id}: ${verdict}`].join("\n"),
    data: { character: character.id, problems },
    exitCode: errors > 0 ? 1 : 0,
  };
}
