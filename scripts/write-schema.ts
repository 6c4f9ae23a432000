/**
 * Writes what is made from the schema in the code: `schema/catalog.schema.json` for editors, and the quick check of a part's
 * form. With `--check`, says whether the files are up to date.
 */
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { dirname } from "node:path";
import { fileURLToPath } from "node:url";
import { Ajv } from "ajv";
import standaloneCode from "ajv/dist/standalone/index.js";
import * as z from "zod/mini";
import { catalogSchema, partSchema } from "../src/core/catalog/schema.ts";

const schema = { title: "Zealous Mantle catalog, version 1", ...z.toJSONSchema(catalogSchema) };

const files = {
  "schema/catalog.schema.json": `${JSON.stringify(schema, null, 2)}\n`,
  "src/core/catalog/has-part-form.ts": quickCheck(),
};

for (const [name, text] of Object.entries(files)) {
  const file = fileURLToPath(new URL(`../${name}`, import.meta.url));
  if (process.argv.includes("--check")) {
    const written = await readFile(file, "utf8").catch(() => "");
    if (written === text) continue;
    console.error(`${name} is not what the code says. Run npm run schema.`);
    process.exitCode = 1;
  } else {
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, text);
    console.log(`Written: ${name}`);
  }
}

/** Code that says whether a value has the form of a part, and nothing about why not: many times quicker than asking why. */
function quickCheck(): string {
  const ajv = new Ajv({
    code: { source: true, esm: true, lines: false },
    // Shared pieces become functions of their own, and lengths in UTF-16 units do for "not empty".
    inlineRefs: false,
    unicode: false,
    messages: false,
    logger: false,
  });
  ajv.addSchema({ ...z.toJSONSchema(partSchema, { reused: "ref", target: "draft-7" }), $id: "part" });
  const code = standaloneCode.default(ajv, { hasPartForm: "part" });
  if (/\brequire\(|\bimport\b/.test(code)) throw new Error("The quick check would need a library");
  return `// @ts-nocheck Made from the schema of a part by npm run schema.\n${code}\n`;
}
