import { filesImporter } from "./files/files-importer.ts";
import type { Found } from "./found.ts";
import { figuresImporter } from "./gaps/figures-importer.ts";
import type { ArtOptions, ArtSetting, Importer } from "./importer.ts";
import { drawingImporter } from "./layered/drawing-importer.ts";
import { sheetImporter } from "./sheet/sheet-importer.ts";
import { tableImporter } from "./table/table-importer.ts";

/** All ways of reading art, in the order in which they are asked. An importer is added here. */
const importers: readonly Importer[] = [tableImporter, filesImporter, drawingImporter, figuresImporter, sheetImporter];

/**
 * Reads files of art, each in the way that its name and the options ask for: a packed picture with its table, one file for each frame, a drawing in
 * layers, figures between gaps, or a sheet.
 *
 * @param files - their bytes, by their names: paths below the folder that they are all in.
 * @throws MantleError for a file that cannot be read.
 * @example
 * const found = readArt(new Map([["storm-hat.png", bytes]]), { rig, slots: new Set(catalog.slots.keys()) }, { still: true })
 * const plan = planImport(catalog, found, { rig, slot: "hat" })
 */
export function readArt(files: ReadonlyMap<string, Uint8Array>, setting: ArtSetting, options: ArtOptions = {}): Found {
  const importerOf = (name: string) => importers.find((each) => each.reads(name, options)) ?? sheetImporter;
  const [first = ""] = files.keys();
  const whole = importerOf(first);
  if (whole.isForAll) return whole.read(files, setting, options);
  const each = [...files].map((file) => importerOf(file[0]).read(new Map([file]), setting, options));
  return { parts: each.flatMap(({ parts }) => parts), problems: each.flatMap(({ problems }) => problems) };
}
