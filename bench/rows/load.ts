import { checkLoadout, readCatalog } from "zealous-mantle";
import { catalogJson, makeSource, wearing } from "../catalogs.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

/** From parsed JSON to a checked and compiled catalog that has judged its first character. */
export const load: Row = {
  name: "load",
  work: "readCatalog and compile 10,000 parts",
  against: "JSON.parse of the same text",
  unit: "ms",
  goal: { atMost: 2.6 },
  async measure() {
    const text = JSON.stringify(catalogJson(makeSource({ slots: 40, parts: 10_000, tags: 400, rules: 200 })));
    const json: unknown = JSON.parse(text);
    const read = () => {
      const { catalog } = readCatalog(json);
      agree(catalog !== undefined, "the catalog is not valid");
      return catalog === undefined ? [] : checkLoadout(catalog, wearing(catalog, { "slot-0": "part-0" }));
    };
    return sideBySide({ run: read, times: 1 }, { run: () => JSON.parse(text), times: 1 }, 15);
  },
};
