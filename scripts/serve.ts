/**
 * Serves what the browser tests need until it is stopped: the examples, the programs of the tests, and one Chromium for all of them; and packs the
 * package for those that need it so. Prints where.
 */
import { openSharedBrowser } from "./browser.ts";
import { packPackage } from "./packed-project.ts";
import { serveExamples } from "./serve-examples.ts";

const [{ url }, browser, tarball] = await Promise.all([
  serveExamples({
    "engines/phaser": "tests/browser/engines/phaser-page.ts",
    "engines/phaser-3.80": "tests/browser/engines/phaser-page.ts",
    "engines/pixi": "tests/browser/engines/pixi-page.ts",
    "engines/three": "tests/browser/engines/three-page.ts",
    elements: "tests/browser/elements-page.ts",
    models: "tests/browser/models-page.ts",
    painting: "tests/browser/painting-page.ts",
    saving: "tests/browser/saving-page.ts",
    screen: "bench/screen-page.ts",
  }),
  openSharedBrowser(),
  packPackage(),
]);
process.on("SIGTERM", () => void browser.close().finally(() => process.exit()));
console.log(JSON.stringify({ url, browser: browser.wsEndpoint(), tarball }));
