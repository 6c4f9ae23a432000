import { readFile } from "node:fs/promises";
import { glob } from "tinyglobby";
import { loadCatalog, surveyPictures } from "zealous-mantle/node";
import { decodePng } from "zealous-mantle/raster";
import { agree, type Row, sideBySide } from "../measure.ts";

const folder = "demo/saltmarsh";

/** The whole demo catalog, every picture of every part on every body. */
export const checkArt: Row = {
  name: "check-art",
  work: "surveyPictures of the demo, its 692 pictures, in a thread for each processor",
  against: "reading and decoding its pictures alone, in one",
  unit: "ms",
  goal: { atMost: 3 },
  async measure() {
    const catalog = await loadCatalog(folder);
    const paths = await glob(`${folder}/**/*.png`);
    const ours = async () => {
      const { problems, unreadable } = await surveyPictures(folder, catalog);
      agree(problems.length + unreadable.length === 0, "something is wrong with the demo");
    };
    const theirs = async () => {
      for (const path of paths) decodePng(await readFile(path));
    };
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 }, 1);
  },
};
