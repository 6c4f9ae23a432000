/** Writes the JSON Schemas that editors check catalogs with. With `--check`, says whether the files are up to date. */
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import type { Form } from "../src/core/base/schema/forms.ts";
import { framesSchema } from "../src/core/catalog/schema/frames-schema.ts";
import { packFragmentSchema, packSchema } from "../src/core/catalog/schema/pack-schema.ts";
import { catalogSchema, fragmentSchema } from "../src/core/catalog/schema/schema.ts";
import { condition } from "../src/core/catalog/schema/schema-forms.ts";
import { describeKeys } from "./doc-comments.ts";
import { jsonSchema } from "./json-schema.ts";

interface Published {
  readonly name: string;
  readonly title: string;
  readonly form: Form;
  /** The type whose doc comments describe the keys, and the module that exports it. */
  readonly type: readonly [file: string, name: string];
}

const folder = "src/core/catalog/schema";
const published: readonly Published[] = [
  {
    name: "catalog",
    title: "Zealous Mantle: catalog.json, version 1",
    form: catalogSchema,
    type: [`${folder}/schema.ts`, "CatalogSource"],
  },
  {
    name: "included",
    title: "Zealous Mantle: a file that catalog.json includes, version 1",
    form: fragmentSchema,
    type: [`${folder}/schema.ts`, "FragmentSource"],
  },
  {
    name: "pack",
    title: "Zealous Mantle: pack.json, version 1",
    form: packSchema,
    type: [`${folder}/pack-schema.ts`, "PackSource"],
  },
  {
    name: "pack-included",
    title: "Zealous Mantle: a file that pack.json includes, version 1",
    form: packFragmentSchema,
    type: [`${folder}/pack-schema.ts`, "PackFragmentSource"],
  },
  {
    name: "frames",
    title: "Zealous Mantle: a frames table, version 1",
    form: framesSchema,
    type: [`${folder}/frames-schema.ts`, "FramesSource"],
  },
];

const isCheck = process.argv.includes("--check");
const root = fileURLToPath(new URL("..", import.meta.url));
await mkdir(`${root}schema`, { recursive: true });
for (const { name, title, form, type } of published) {
  const plain = jsonSchema(form, new Map(name === "frames" ? [] : [[condition, "condition"]]));
  const schema = {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    $id: `urn:zealous-mantle:${name}:1`,
    title,
    ...describeKeys(plain, ...type),
  };
  const text = `${JSON.stringify(schema, null, 2)}\n`;
  const file = `schema/${name}.schema.json`;
  if (!isCheck) {
    await writeFile(root + file, text);
    console.log(`Written: ${file}`);
  } else if ((await readFile(root + file, "utf8").catch(() => "")) !== text) {
    console.error(`${file} is not what the code says. Run npm run schema.`);
    process.exitCode = 1;
  }
}
