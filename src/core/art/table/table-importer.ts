import { artPicture, firstFile } from "../art-picture.ts";
import type { Importer } from "../importer.ts";
import { defaultPattern } from "../name-pattern.ts";
import { readTable } from "./read-table.ts";

/** A packed picture, and the table that comes with it. */
export const tableImporter: Importer = {
  reads: (_, { table }) => table !== undefined,
  isForAll: true,
  read(files, { rig }, { table = "", pattern = defaultPattern, blank, ...options }) {
    const [name, bytes] = firstFile(files);
    return readTable(name, artPicture(name, bytes, blank), table, rig, { ...options, pattern });
  },
};
