import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { Browser } from "playwright-core";
import { openBrowser } from "../../scripts/browser.ts";
import { programOf } from "./program.ts";
import type { Savings } from "./saving-page.ts";

let browser: Browser;
let program: string;
beforeAll(async () => {
  program = programOf("saving-page.ts");
  browser = await openBrowser();
});
afterAll(() => browser.close());

async function save(fails: number, end: "wait" | "hide" | "stop"): Promise<Savings> {
  const page = await browser.newPage();
  await page.addScriptTag({ content: program });
  return page.evaluate(([times, how]) => Reflect.get(window, "save")(times, how), [fails, end] as const);
}

describe("a session that is kept saved", () => {
  test.each(["wait", "hide", "stop"] as const)(
    "stores the last of many changes, in a few writes, by %s",
    async (end) => {
      const { writes, stored, said } = await save(0, end);
      expect(stored[0]).toContain('"Name 99"');
      expect(writes).toBeLessThanOrEqual(5);
      expect([said[0], said.at(-1)]).toEqual(["unsaved", "stored"]);
    },
  );

  test("tries again by itself where storing fails, says each failure, and is stored in the end", async () => {
    const { stored, said } = await save(4, "wait");
    expect(stored[0]).toContain('"Name 99"');
    expect(said.filter((each) => each === "Error: Disk full")).toHaveLength(4);
    expect(said.indexOf("stored")).toBeGreaterThan(said.lastIndexOf("Error: Disk full"));
  });
});
