import { join } from "node:path";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { packCatalog } from "../node/pack-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { type Answer, counted, type DefineCommand, problemData, problemLines, type Terminal } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly out: string;
  readonly json?: boolean;
}

/** `mantle pack`: a catalog in few files, for a game that fetches it. */
export const definePack: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .requiredOption(
      "--out <folder>",
      "where to write the bundle; files of an earlier one are left for those who still play with it",
    )
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      '\nExample:\n  $ mantle pack saltmarsh --out public/saltmarsh\n  Packed: 747 files, 4.4 MB, in 10 files, 2.7 MB\n  Then fetchCatalog("saltmarsh/") reads it as it reads the folder.',
    )
    .action(async (folder: string, options: Options) =>
      terminal.answer(await pack(placeOf(folder, options), options, terminal), options),
    );
};

async function pack(place: CatalogPlace, { out }: Options, terminal: Terminal): Promise<Answer> {
  const began = Date.now();
  let noted = 0;
  const { files, problems, before } = await packCatalog(place, ({ done, total }) => {
    const now = Date.now();
    if (now - began < 1_000 || now - noted < 3_000) return;
    noted = now;
    terminal.note(`${done} of ${counted(total, "picture")}`);
  });
  const written = [];
  for (const [path, bytes] of files) {
    const file = join(out, path);
    await writeOutput(file, bytes);
    written.push({ file, bytes: bytes.length });
  }
  const bytes = written.reduce((sum, file) => sum + file.bytes, 0);
  const lines = [
    ...problemLines(problems, terminal.colors),
    ...written.map(({ file, bytes: own }) => `Written: ${file}, ${size(own)}`),
    `Packed: ${counted(before.files, "file")}, ${size(before.bytes)}, in ${counted(written.length, "file")}, ${size(bytes)}`,
  ];
  return { lines, data: { files: written, before, problems: problemData(problems) } };
}

function size(bytes: number): string {
  return bytes < 1e6 ? `${(bytes / 1e3).toFixed(1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
}
