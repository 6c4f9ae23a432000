/** Does one piece of work in a process of its own, and prints by how many megabytes its memory grew at most. */
import { type Catalog, composeFrame, createCharacter, resolveLook } from "zealous-mantle";
import { pairwiseCover } from "zealous-mantle/authoring";
import { loadCatalog, loadImages, surveyPictures } from "zealous-mantle/node";
import { openAtlas } from "zealous-mantle/raster";
import { repairLoadout, rollCharacter } from "zealous-mantle/solver";
import { readSource, wearing } from "./catalogs.ts";
import { hardCases } from "./hard-catalogs.ts";

const folder = "demo/saltmarsh";

/** By name, what has to be there before, and then the work. */
const works: Readonly<Record<string, () => Promise<() => unknown>>> = {
  async repairs() {
    const cases = hardCases().map(({ source, loadout }) => ({ catalog: readSource(source), loadout }));
    return () => cases.map(({ catalog, loadout }) => repairLoadout(catalog, wearing(catalog, loadout)));
  },
  async art() {
    const catalog = await loadCatalog(folder);
    return () => surveyPictures(folder, catalog);
  },
  async survey() {
    const catalog = await loadCatalog(folder, { art: "none" });
    return () => pairwiseCover(catalog);
  },
  async crowd() {
    const catalog = await loadCatalog(folder);
    const looks = Array.from({ length: 200 }, (_, seed) => resolveLook(catalog, rollCharacter(catalog, { seed })));
    const images = await loadImages(folder, looks);
    // What drawing needs once, whoever is drawn.
    composeFrame(resolveLook(catalog, bare(catalog)), images, { animation: "idle", facing: "south", time: 0 });
    return () => {
      const atlas = openAtlas(images);
      for (const look of looks) {
        for (const facing of look.rig.facings.keys()) {
          for (let time = 0; time < 1; time += 1 / 8) atlas.frame(look, { animation: "walk", facing, time });
        }
      }
      return atlas;
    };
  },
};

function bare(catalog: Catalog) {
  return createCharacter(catalog, { body: [...catalog.bodies.keys()][0] ?? "" });
}

const work = works[process.argv[2] ?? ""];
if (work === undefined) throw new Error(`Name one of ${Object.keys(works).join(", ")}`);
const run = await work();
/** In kilobytes: what the system counts as the most that this process had. */
const before = process.resourceUsage().maxRSS;
const result = await run();
const grown = process.resourceUsage().maxRSS - before;
if (result === undefined) throw new Error("Nothing came of it");
console.log((grown / 1024).toFixed(1));
process.exit();
