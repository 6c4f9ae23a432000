import { fileURLToPath } from "node:url";
import { openBrowser } from "../../scripts/browser.ts";
import { bundlePage } from "../../scripts/bundle-page.ts";
import { agree, type Pair, type Row } from "../measure.ts";

/** A full screen of different characters, all moving. */
export const crowd: Row = {
  name: "crowd",
  work: "a frame of 300 animated characters of 12 layers, in Chromium",
  against: "drawImage of one baked sheet each",
  unit: "ms",
  goal: { atMost: 1.3 },
  async measure() {
    const script = await bundlePage(fileURLToPath(new URL("../crowd-page.ts", import.meta.url)));
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
