import { artPicture, firstFile } from "../art-picture.ts";
import type { Importer } from "../importer.ts";
import { readFigures } from "./read-figures.ts";

/** Figures on one picture, with nothing between them. */
export const figuresImporter: Importer = {
  reads: (_, { gaps }) => gaps === true,
  isForAll: false,
  read(files, { rig }, { frames = false, blank, ...options }) {
    const [name, bytes] = firstFile(files);
    return readFigures(name, artPicture(name, bytes, blank), rig, { ...options, as: frames ? "frames" : "parts" });
  },
};
