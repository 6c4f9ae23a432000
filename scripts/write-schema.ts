/** Writes `schema/catalog.schema.json` from the schema in the code; with `--check`, says whether the file is up to date. */
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import * as z from "zod/mini";
import { catalogSchema } from "../src/core/catalog/schema.ts";

const file = fileURLToPath(new URL("../schema/catalog.schema.json", import.meta.url));
const schema = { title: "Zealous Mantle catalog, version 1", ...z.toJSONSchema(catalogSchema) };
const text = `${JSON.stringify(schema, null, 2)}\n`;

if (process.argv.includes("--check")) {
  const written = await readFile(file, "utf8").catch(() => "");
  if (written !== text) {
    console.error("schema/catalog.schema.json is not what the code says. Run npm run schema.");
    process.exitCode = 1;
  }
} else {
  await mkdir(fileURLToPath(new URL("../schema/", import.meta.url)), { recursive: true });
  await writeFile(file, text);
  console.log("Written: schema/catalog.schema.json");
}
