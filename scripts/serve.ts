/**
 * Serves what the browser tests need until it is stopped: the examples, the programs of the tests, and one Chromium for all of them. Prints where.
 */
import { openSharedBrowser } from "./browser.ts";
import { serveExamples } from "./serve-examples.ts";

const [{ url }, browser] = await Promise.all([
  serveExamples({
    "engines/phaser": "tests/browser/engines/phaser-page.ts",
    // Older versions of an engine are for the long run.
    ...(process.env["MANTLE_LONG"] === "1" && { "engines/phaser-3.80": "tests/browser/engines/phaser-page.ts" }),
    "engines/pixi": "tests/browser/engines/pixi-page.ts",
    "engines/three": "tests/browser/engines/three-page.ts",
    elements: "tests/browser/elements-page.ts",
    models: "tests/browser/models-page.ts",
    painting: "tests/browser/painting-page.ts",
    saving: "tests/browser/saving-page.ts",
    screen: "bench/screen-page.ts",
  }),
  openSharedBrowser(),
]);
process.on("SIGTERM", () => void browser.close().finally(() => process.exit()));
console.log(JSON.stringify({ url, browser: browser.wsEndpoint() }));
