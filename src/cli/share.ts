import { deflateRawSync } from "node:zlib";
import { shareLook } from "../core/save/share.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { readCharacterFile } from "./character-file.ts";
import type { Answer, DefineCommand, Terminal } from "./output.ts";

interface Options extends PackOptions {
  readonly json?: boolean;
}

/** `mantle share`: the look of a character as a short code. */
export const defineShare: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .argument("<character>", "file of the character, or folder of its save")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle share saltmarsh out/wren.json\n  One line of digits and capitals, for mantle receive; its size is said on standard error.",
    )
    .action(async (folder: string, file: string, options: Options) =>
      terminal.answer(await share(placeOf(folder, options), file, terminal), options),
    );
};

async function share(place: CatalogPlace, file: string, terminal: Terminal): Promise<Answer> {
  const catalog = await loadCatalog(place, { art: "none" });
  const character = await readCharacterFile(file);
  const code = shareLook(catalog, character);
  const { body, loadout, colors } = character;
  const bytes = Math.ceil((code.length * 5) / 8);
  const deflated = deflateRawSync(JSON.stringify({ body, loadout, colors }), { level: 9 }).length;
  terminal.note(terminal.colors.dim(`${code.length} letters, ${bytes} bytes; as deflated JSON ${deflated} bytes.`));
  return { lines: [code], data: { code, bytes, deflatedJsonBytes: deflated } };
}
