import { readFile } from "node:fs/promises";
import { expect, test } from "@jest/globals";
import { Ajv2020 } from "ajv/dist/2020.js";
import { beyondLimits, limits } from "../../src/core/base/limits.ts";
import { findMismatches } from "../../src/core/base/schema/find-mismatches.ts";
import { quickCheck } from "../../src/core/base/schema/quick-check.ts";
import { catalogSchema } from "../../src/core/catalog/schema/schema.ts";
import { runs } from "../runs.ts";
import { hostileDocument } from "./hostile-documents.ts";

test("the published schema, the quick check and the findings agree on what is a catalog", async () => {
  const catalog: unknown = JSON.parse(await readFile("demo/saltmarsh/catalog.json", "utf8"));
  const published = new Ajv2020().compile(JSON.parse(await readFile("schema/catalog.schema.json", "utf8")));
  const isWell = quickCheck(catalogSchema);
  expect([isWell(catalog), findMismatches(catalogSchema, catalog)]).toEqual([true, []]);
  const counts = { refused: 0, well: 0 };
  for (let seed = 0; seed < runs(500).numRuns; seed += 1) {
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
  expect(Math.min(counts.refused, counts.well)).toBeGreaterThan(50);
});
