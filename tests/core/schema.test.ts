import { readFile } from "node:fs/promises";
import { expect, test } from "@jest/globals";
import * as v from "valibot";
import { findMismatches } from "../../src/core/base/schema/find-mismatches.ts";
import { quickCheck } from "../../src/core/base/schema/quick-check.ts";
import { catalogSchema } from "../../src/core/catalog/schema/schema.ts";
import { runs } from "../runs.ts";
import { hostileDocument } from "./hostile-documents.ts";

test("whatever the schema library refuses is found, and nothing is found where the quick check says that all is well", async () => {
  const catalog: unknown = JSON.parse(await readFile("demo/saltmarsh/catalog.json", "utf8"));
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
    if (v.is(catalogSchema, document)) continue;
    counts.refused += 1;
    expect(found.length).toBeGreaterThan(0);
  }
  expect(Math.min(counts.refused, counts.well)).toBeGreaterThan(50);
});
