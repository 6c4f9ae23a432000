import { expect, test } from "@jest/globals";
import { programPath } from "../../scripts/test-site.ts";
import type { Findings, Searched } from "./painting-page.ts";
import { useSite } from "./site.ts";

const site = useSite();

test("in a browser a worker bakes the same, and the painter paints every frame crisply within its bytes", async () => {
  const { page } = await site.run("painting");
  const found: Findings = await page.evaluate((path) => Reflect.get(window, "tryOut")(path), programPath("painting"));
  expect(found).toMatchObject({ workerIsSame: true, tableIsSame: true });
  expect(found.progress).toEqual(Array.from({ length: 10 }, (_, at) => (at + 1) / 10));
  expect(found.painted).toEqual(Array.from({ length: 10 }, () => true));
  const room = 6 * 8 * 4;
  expect(found.bytes[0]).toBeGreaterThan(0);
  expect(found.bytes[1]).toBeLessThanOrEqual(3 * room);
  expect(found.bytes[1]).toBeGreaterThan(room);
  expect(found.bytes[2]).toBe(0);
});

test("in a browser a worker searches as the page does, and ends when it is aborted", async () => {
  const { page } = await site.run("painting");
  const searched: Searched = await page.evaluate(
    (path) => Reflect.get(window, "search")(path),
    programPath("painting"),
  );
  expect(searched).toEqual([true, "left the page", true]);
});
