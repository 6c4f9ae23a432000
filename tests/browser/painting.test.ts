import { expect, test } from "@jest/globals";
import { openBrowser } from "../../scripts/browser.ts";
import type { Findings } from "./painting-page.ts";
import { programOf } from "./program.ts";

test("in a browser a worker bakes the same, and the painter paints every frame crisply within its bytes", async () => {
  const program = programOf("painting-page.ts");
  const browser = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.addScriptTag({ content: program });
    const found: Findings = await page.evaluate((script) => Reflect.get(window, "tryOut")(script), program);
    expect(found).toMatchObject({ workerIsSame: true, tableIsSame: true });
    expect(found.progress).toEqual(Array.from({ length: 10 }, (_, at) => (at + 1) / 10));
    expect(found.painted).toEqual(Array.from({ length: 10 }, () => true));
    const room = 6 * 8 * 4;
    expect(found.bytes[0]).toBeGreaterThan(0);
    expect(found.bytes[1]).toBeLessThanOrEqual(3 * room);
    expect(found.bytes[1]).toBeGreaterThan(room);
    expect(found.bytes[2]).toBe(0);
  } finally {
    await browser.close();
  }
});
