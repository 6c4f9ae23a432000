import { readdir, readFile } from "node:fs/promises";
import { loadCatalog } from "zealous-mantle/node";
import { agree, type Row, sideBySide } from "../measure.ts";

const folder = "demo/saltmarsh";

/** From a folder to a checked and compiled catalog. */
export const loadFolder: Row = {
  name: "load-folder",
  work: "loadCatalog of the demo's folder",
  against: "reading the same files, and JSON.parse",
  unit: "ms",
  goal: { atMost: 4 },
  async measure() {
    const names = (await readdir(folder, { recursive: true })).map((name) => name.replaceAll("\\", "/"));
    const texts = names.filter((name) => name.endsWith(".json"));
    const markers = names.filter((name) => /\/points\.png$/.test(name));
    const read = async () => {
      const [values] = await Promise.all([
        Promise.all(
          texts.map(async (name): Promise<unknown> => JSON.parse(await readFile(`${folder}/${name}`, "utf8"))),
        ),
        Promise.all(markers.map((name) => readFile(`${folder}/${name}`))),
      ]);
      return values;
    };
    const catalog = await loadCatalog(folder);
    const parts = (await read()).flatMap((value) => Object.keys((value as { parts?: object }).parts ?? {}));
    agree(parts.length === catalog.parts.size, "another number of parts");
    return sideBySide({ run: () => loadCatalog(folder), times: 1 }, { run: read, times: 1 }, 61);
  },
};
