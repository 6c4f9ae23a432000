import { fileURLToPath } from "node:url";
import { openBrowser } from "../../scripts/browser.ts";
import { bundlePage } from "../../scripts/bundle-page.ts";
import { agree, type Pair, type Row } from "../measure.ts";

async function inPage<Measured>(name: string): Promise<Measured> {
  const script = await bundlePage(fileURLToPath(new URL("../pixi-page.ts", import.meta.url)));
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addScriptTag({ content: script });
    return await page.evaluate((what) => Reflect.get(window, what)(), name);
  } finally {
    await browser.close();
  }
}

interface Crowd {
  readonly time: Pair;
  readonly bytes: Pair;
  readonly same: boolean;
}

let crowd: Promise<Crowd> | undefined;

async function crowdOnce(): Promise<Crowd> {
  crowd ??= inPage<Crowd>("measureCrowdPixi");
  const measured = await crowd;
  agree(measured.same, "the pictures are not the same");
  return measured;
}

/** A crowd in an engine, from one atlas. */
export const crowdPixi: Row = {
  name: "crowd-pixi",
  work: "a frame of 500 walking characters of 500 looks in Pixi, in Chromium",
  against: "500 plain sprites of a whole sheet each, baked before",
  unit: "ms",
  goal: { atMost: 1.2 },
  measure: async () => (await crowdOnce()).time,
};

export const crowdPixiMemory: Row = {
  name: "crowd-pixi-mb",
  work: "the textures of 500 walking characters of 500 looks in Pixi",
  against: "a sheet of two of their four animations each, baked before",
  unit: "MB",
  goal: { atMost: 0.15 },
  async measure() {
    const { ours, theirs } = (await crowdOnce()).bytes;
    return { ours: ours / 1e6, theirs: theirs / 1e6 };
  },
};

/** Another part on somebody who walks. */
export const exchange: Row = {
  name: "exchange",
  work: "from another look of a walking character in Pixi to the next right frame",
  against: "baking its sheet anew",
  unit: "ms",
  goal: { atLeast: 20 },
  async measure() {
    const measured = await inPage<Pair & { readonly same: boolean }>("measureExchange");
    agree(measured.same, "the pictures are not the same");
    return measured;
  },
};
