/** Gathers the declarations that the compiler writes for each source into few files: one for each entry in `dist/types`, and what several of them share. */
import { rm } from "node:fs/promises";
import { relative, resolve } from "node:path";
import { rolldown } from "rolldown";
import { dts } from "rolldown-plugin-dts";
import { entries, typesFile } from "./entries.js";

const folder = "dist/types";
const name = (entry) => relative(folder, typesFile(entry)).replace(/\.d\.ts$/, "");

await rm(folder, { recursive: true, force: true });
const bundle = await rolldown({
  input: Object.fromEntries(entries.map(({ entry, source }) => [name(entry), resolve(`out/types/${source}.d.ts`)])),
  external: /^[^./]/,
  plugins: [dts({ dtsInput: true, tsconfig: false })],
});
await bundle.write({ dir: folder, format: "esm", chunkFileNames: "[name].d.ts", minifyInternalExports: false });
await bundle.close();
