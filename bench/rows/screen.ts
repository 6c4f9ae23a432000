import { fileURLToPath } from "node:url";
import { openBrowser } from "../../scripts/browser.ts";
import { bundlePage } from "../../scripts/bundle-page.ts";
import { agree, type Pair, type Row } from "../measure.ts";

/** A slot of 5,000 parts in the fitting screen. */
export const screen: Row = {
  name: "screen",
  work: "opening a slot of 5,000 parts in the fitting screen, in Chromium",
  against: "the visible cards in plain DOM, and two frames",
  unit: "ms",
  goal: { atMost: 0.45 },
  async measure() {
    const script = await bundlePage(fileURLToPath(new URL("../screen-page.ts", import.meta.url)));
    const browser = await openBrowser();
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.addScriptTag({ content: script });
      const measured: Pair & { readonly same: boolean } = await page.evaluate("measureScreen()");
      agree(measured.same, "the cards are not drawn");
      return measured;
    } finally {
      await browser.close();
    }
  },
};
