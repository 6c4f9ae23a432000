import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { expect, test } from "@jest/globals";
import { Ajv2020 } from "ajv/dist/2020.js";
import { beyondLimits, limits } from "../../../src/core/base/limits.ts";
import { findMismatches } from "../../../src/core/base/schema/find-mismatches.ts";
import { quickCheck } from "../../../src/core/base/schema/quick-check.ts";
import { catalogSchema } from "../../../src/core/catalog/schema/schema.ts";
import { runs } from "../../runs.ts";
import { hostileDocument } from "../hostile-documents.ts";

test("the published schema, the quick check and the findings agree on what is a catalog", async () => {
  const catalog: unknown = JSON.parse(await readFile("demo/saltmarsh/catalog.json", "utf8"));
  const published = new Ajv2020().compile(JSON.parse(await readFile("schema/catalog.schema.json", "utf8")));
  const isWell = quickCheck(catalogSchema);
  expect([isWell(catalog), findMismatches(catalogSchema, catalog)]).toEqual([true, []]);
  const counts = { refused: 0, well: 0 };
  const { numRuns } = runs(500);
  for (let seed = 0; seed < numRuns; seed += 1) {
    const document = hostileDocument(catalog, seed);
    const found = findMismatches(catalogSchema, document);
    if (isWell(document)) {
      counts.well += 1;
      expect(found).toEqual([]);
    }
    // What is nested deeper than documents may be is refused here, and not by a schema.
    if (beyondLimits(document, limits.catalogLength) !== undefined) continue;
    expect([published(document), found.length === 0]).toEqual([isWell(document), isWell(document)]);
    if (!isWell(document)) counts.refused += 1;
  }
  expect(Math.min(counts.refused, counts.well)).toBeGreaterThan(numRuns / 10);
});

test("every key is described, and every file of the demo has the form of the schema it names", async () => {
  const files = (await readdir("demo/saltmarsh", { recursive: true }))
    .filter((file) => file.endsWith(".json") && !file.endsWith(".marks.json"))
    .map((file) => join("demo/saltmarsh", file));
  const schemas = new Map<string, ReturnType<Ajv2020["compile"]>>();
  for (const file of files) {
    const document = JSON.parse(await readFile(file, "utf8"));
    const schema = join(file, "..", document.$schema);
    const validate = schemas.get(schema) ?? (await compiled(schema));
    schemas.set(schema, validate);
    expect([file, validate(document), validate.errors]).toEqual([file, true, null]);
    // A mistake is found by the schema that a file names, not only by ours.
    expect(validate({ ...document, partz: {} })).toBe(false);
  }
  expect([...schemas.keys()].sort()).toEqual(["schema/catalog.schema.json", "schema/included.schema.json"]);

  for (const name of ["catalog", "included", "frames"]) {
    const schema = JSON.parse(await readFile(`schema/${name}.schema.json`, "utf8"));
    expect(schema.$id).toBe(`urn:zealous-mantle:${name}:1`);
    const described = keysIn(schema);
    expect(described.filter(([, says]) => !/^.{8,}\.$/.test(says ?? ""))).toEqual([]);
    expect(described.length).toBeGreaterThan(name === "frames" ? 10 : 200);
  }
});

async function compiled(file: string): Promise<ReturnType<Ajv2020["compile"]>> {
  const ajv = new Ajv2020({ strict: true, strictTypes: false, strictTuples: false });
  return ajv.compile(JSON.parse(await readFile(file, "utf8")));
}

/** All keys that a schema knows, and what it says of them. */
function keysIn(schema: unknown): readonly (readonly [key: string, says: string | undefined])[] {
  if (typeof schema !== "object" || schema === null) return [];
  const { properties = {} } = schema as { properties?: Record<string, { description?: string }> };
  const own = Object.entries(properties).map(([key, { description }]) => [key, description] as const);
  const inner = Object.entries(schema).flatMap(([key, value]) =>
    key === "properties" ? Object.values(properties).flatMap(keysIn) : keysIn(value),
  );
  return [...own, ...inner];
}
