import type { Colors } from "picocolors/types.js";
import { format } from "../core/base/format.ts";
import { english } from "../core/base/messages/english.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { catalogTitles } from "../core/catalog/titles.ts";
import type { Character } from "../core/character/character.ts";
import type { Edit } from "../core/character/edit.ts";
import { applyEdit } from "../core/edits/apply-edit.ts";
import { editMessage } from "../core/edits/edit-message.ts";
import { checkLoadout } from "../core/loadout/check-loadout.ts";
import { repairLoadout } from "../core/solver/repair-loadout.ts";
import { solver } from "../core/solver/solver.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { openCharacterFile } from "./character-file.ts";
import { positiveNumber } from "./numbers.ts";
import { type Answer, counted, type DefineCommand, problemData, problemLines, say } from "./output.ts";

interface Options extends PackOptions {
  readonly write?: boolean;
  readonly budget?: number;
  readonly json?: boolean;
}

/** `mantle fix`: the fewest edits that make a character valid. */
export const defineFix: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .argument("<character>", "file of the character, or folder of its save")
    .option("--write", "write the mended character to the file")
    .option("--budget <steps>", "search steps before giving up", positiveNumber)
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle fix saltmarsh out/wren.json --write\n  put on Waistcoat in slot Vest\n  Wren: valid with 1 edit. Written: out/wren.json",
    )
    .action(async (folder: string, file: string, options: Options) =>
      terminal.answer(await fix(placeOf(folder, options), file, options, terminal.colors), options),
    );
};

async function fix(
  place: CatalogPlace,
  file: string,
  { write = false, budget }: Options,
  colors: Colors,
): Promise<Answer> {
  const catalog = await loadCatalog(place, { art: "none" });
  const source = await openCharacterFile(file);
  const { character } = source;
  const name = character.name || character.id;
  const { edits, changes, lowerBound, isProven } = repairLoadout(
    catalog,
    character,
    budget === undefined ? {} : { budget },
  );
  if (edits === undefined) {
    const left = checkLoadout(catalog, character, { solver });
    const because = isProven
      ? "No edits make it valid: the catalog has no valid loadout for its body."
      : "None was found within the budget; give a greater --budget.";
    return {
      lines: [...problemLines(left, colors), colors.red(`${name}: ${because}`)],
      data: { character: character.id, edits: null, isProven, written: false, problems: problemData(left) },
      exitCode: 1,
    };
  }
  const mended = afterEdits(catalog, character, edits);
  const written = write && edits.length > 0;
  if (written) await source.replace(mended);
  const verdict =
    edits.length === 0
      ? colors.green("Nothing is wrong.")
      : colors.green(`valid with ${counted(edits.length, "edit")}.`);
  const doubt = isProven
    ? ""
    : ` It is not proved that ${counted(changes, "change")} is the least there can be; no answer has fewer than ${lowerBound}. Give a greater --budget.`;
  const advice = edits.length > 0 && !write ? " Add --write to do it." : "";
  return {
    lines: [
      ...edits.map((edit) => format(editMessage(edit, character.loadout), english, catalogTitles(catalog))),
      `${name}: ${verdict}${doubt}${written ? ` Written: ${file}` : advice}`,
    ],
    data: { character: character.id, edits, changes, lowerBound, isProven, written },
    exitCode: edits.length > 0 && !write ? 1 : 0,
  };
}

function afterEdits(catalog: Catalog, character: Character, edits: readonly Edit[]): Character {
  return edits.reduce<Character>((before, edit) => {
    const result = applyEdit(catalog, before, edit);
    if (!result.ok) throw new MantleError("unfinished", result.problems.map(say).join(" "));
    return result.character;
  }, character);
}
