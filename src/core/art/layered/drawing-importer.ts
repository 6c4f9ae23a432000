import { firstFile } from "../art-picture.ts";
import type { Importer } from "../importer.ts";
import { readDrawing } from "./read-drawing.ts";

/** A drawing in layers; its canvas is a whole sheet where the options say how that is laid out. */
export const drawingImporter: Importer = {
  reads: (name) => /\.ora$/i.test(name),
  isForAll: false,
  read(files, { rig, slots, figure }, options) {
    const { columns, rows, across, down, cell, each, animations } = options;
    const isSheet = [columns, rows, across, down, cell, each, animations].some((value) => value !== undefined);
    return readDrawing(...firstFile(files), rig, {
      ...options,
      slots,
      ...(figure === undefined ? {} : { figure }),
      ...(isSheet ? { sheet: options } : {}),
    });
  },
};
