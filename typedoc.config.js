import { entries } from "./scripts/entries.js";

/** @type {import("typedoc").TypeDocOptions} */
export default {
  name: "Zealous Mantle",
  // Each screen is in `elements` too.
  entryPoints: entries.filter(({ entry }) => !entry.startsWith("./elements/")).map(({ source }) => `src/${source}.ts`),
  out: "out/reference",
  readme: "docs/README.md",
  tsconfig: "tsconfig.json",
  excludeInternal: true,
  excludePrivate: true,
  excludeProtected: true,
  excludeExternals: true,
  disableSources: true,
  hideGenerator: true,
  treatWarningsAsErrors: true,
  validation: {
    notExported: false,
    invalidLink: false,
    notDocumented: false,
  },
  blockTags: [
    "@fires",
    "@slot",
    "@param",
    "@returns",
    "@throws",
    "@example",
    "@defaultValue",
    "@typeParam",
    "@remarks",
    "@see",
    "@module",
  ],
};
