import { fileURLToPath } from "node:url";
import { build } from "vite";
import { openBrowser } from "../../scripts/browser.ts";
import { agree, type Pair, type Row } from "../measure.ts";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** A full screen of different characters, all moving. */
export const crowd: Row = {
  name: "crowd",
  work: "a frame of 300 animated characters of 12 layers, in Chromium",
  against: "drawImage of one baked sheet each",
  unit: "ms",
  goal: { atMost: 1.3 },
  async measure() {
    const script = await bundle();
    const browser = await openBrowser();
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.addScriptTag({ content: script });
      const measured: Pair & { readonly same: boolean } = await page.evaluate("measureCrowd()");
      agree(measured.same, "the pictures are not the same");
      return measured;
    } finally {
      await browser.close();
    }
  },
};

/** The page's program in one piece. */
async function bundle(): Promise<string> {
  const built = await build({
    configFile: false,
    logLevel: "warn",
    resolve: {
      alias: [
        { find: /^zealous-mantle$/, replacement: here("../../src/core/index.ts") },
        { find: /^zealous-mantle\/browser$/, replacement: here("../../src/browser/index.ts") },
      ],
    },
    build: {
      write: false,
      target: "es2023",
      lib: { entry: here("../crowd-page.ts"), formats: ["iife"], name: "crowd" },
    },
  });
  const [output] = [built].flat();
  if (output === undefined || !("output" in output)) throw new Error("The page could not be built");
  return output.output[0].code;
}
