/** Builds and serves the examples, and the programs of the browser tests, until it is stopped; prints where. */
import { serveExamples } from "./serve-examples.ts";

const { url } = await serveExamples({
  elements: "tests/browser/elements-page.ts",
  painting: "tests/browser/painting-page.ts",
  saving: "tests/browser/saving-page.ts",
  screen: "bench/screen-page.ts",
});
console.log(url);
