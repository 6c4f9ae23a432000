/** Writes the JSON Schema that editors check catalogs with. With `--check`, says whether the file is up to date. */
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { catalogSchema } from "../src/core/catalog/schema/schema.ts";
import { condition } from "../src/core/catalog/schema/schema-forms.ts";
import { jsonSchema } from "./json-schema.ts";

const schema = {
  $schema: "https://json-schema.org/draft/2020-12/schema",
  title: "Zealous Mantle catalog, version 1",
  ...jsonSchema(catalogSchema, new Map([[condition, "condition"]])),
};
const text = `${JSON.stringify(schema, null, 2)}\n`;
const name = "schema/catalog.schema.json";
const file = fileURLToPath(new URL(`../${name}`, import.meta.url));

if (!process.argv.includes("--check")) {
  await mkdir(fileURLToPath(new URL("../schema", import.meta.url)), { recursive: true });
  await writeFile(file, text);
  console.log(`Written: ${name}`);
} else if ((await readFile(file, "utf8").catch(() => "")) !== text) {
  console.error(`${name} is not what the code says. Run npm run schema.`);
  process.exitCode = 1;
}
