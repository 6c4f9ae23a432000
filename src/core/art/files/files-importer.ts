import { artPicture, firstFile } from "../art-picture.ts";
import type { Importer } from "../importer.ts";
import { defaultPattern } from "../name-pattern.ts";
import { readFiles } from "./read-files.ts";

/** One file for each frame, by a pattern of names. */
export const filesImporter: Importer = {
  reads: (_, { pattern }) => pattern !== undefined,
  isForAll: true,
  read(files, { rig }, { pattern = defaultPattern, blank, ...options }) {
    const pictures = new Map([...files].map(([path, bytes]) => [path, artPicture(path, bytes, blank)]));
    return readFiles(firstFile(files)[0], pictures, rig, { ...options, pattern });
  },
};
