import { artPicture, firstFile } from "../art-picture.ts";
import type { Importer } from "../importer.ts";
import { readSheet } from "./read-sheet.ts";

/** A sheet or a strip: whatever no other importer reads. */
export const sheetImporter: Importer = {
  reads: () => true,
  isForAll: false,
  read(files, { rig }, { blank, ...options }) {
    const [name, bytes] = firstFile(files);
    return readSheet(name, artPicture(name, bytes, blank), rig, options);
  },
};
