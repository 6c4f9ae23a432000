import type { Colors } from "picocolors/types.js";
import { MantleError } from "../core/base/problem.ts";
import { textIn } from "../core/base/text.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Appearance } from "../core/character/edit.ts";
import { tryEdit } from "../core/edits/apply-edit.ts";
import { createCharacter } from "../core/edits/create-character.ts";
import { wornParts } from "../core/rules/worn.ts";
import { readSharedLook } from "../core/save/share.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { readCharacterFile } from "./character-file.ts";
import { type Answer, type DefineCommand, problemData, problemLines, say } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly onto?: string;
  readonly out?: string;
  readonly json?: boolean;
}

/** `mantle receive`: a character with the look that a code holds. */
export const defineReceive: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .argument("<code>", "the code")
    .option("--onto <character>", "file of a character that takes the look; a new one when left out")
    .option("--out <file>", "write the character to this file")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle receive saltmarsh $(mantle share saltmarsh out/wren.json) --out out/twin.json\n  A new character that looks like the one in out/wren.json.",
    )
    .action(async (folder: string, code: string, options: Options) =>
      terminal.answer(await receive(placeOf(folder, options), code, options, terminal.colors), options),
    );
};

async function receive(place: CatalogPlace, code: string, { onto, out }: Options, colors: Colors): Promise<Answer> {
  const catalog = await loadCatalog(place, { art: "none" });
  const { look, problems } = readSharedLook(catalog, code);
  if (look === undefined) {
    return {
      lines: problemLines(problems, colors),
      data: { character: null, problems: problemData(problems) },
      exitCode: 1,
    };
  }
  const given = onto === undefined ? undefined : await readCharacterFile(onto);
  const character = lookingLike(catalog, look, given);
  if (out !== undefined) await writeOutput(out, `${JSON.stringify(character, null, 2)}\n`);
  const worn = wornParts(catalog, character).map(({ part }) => textIn(part.title));
  const lines = [
    ...problemLines(problems, colors),
    `${textIn(catalog.bodies.get(character.body)?.title ?? character.body)}, ${worn.join(", ")}`,
    ...(out === undefined ? [] : [`Written: ${out}`]),
  ];
  return { lines, data: { character, problems: problemData(problems) }, exitCode: problems.length > 0 ? 1 : 0 };
}

function lookingLike(catalog: Catalog, look: Appearance, given: Character | undefined): Character {
  const body = look.body ?? [...catalog.bodies.keys()][0] ?? "";
  const result = tryEdit(catalog, given ?? createCharacter(catalog, { body, id: "received" }), { appearance: look });
  if (result.ok) return given === undefined ? { ...result.character, bag: {} } : result.character;
  throw new MantleError("cannot-receive", result.problems.map(say).join(" "), result.problems);
}
