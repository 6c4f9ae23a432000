/** Redraws `docs/screenshots` from the demo data: `npm run shots`. */
import { mkdir } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { openBrowser } from "./browser.ts";
import { serveExamples } from "./serve-examples.ts";

const folder = fileURLToPath(new URL("../docs/screenshots/", import.meta.url));
await mkdir(folder, { recursive: true });
const site = await serveExamples();
const browser = await openBrowser();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" });
page.on("pageerror", (error) => console.error(error));
const shoot = (name: string) => page.screenshot({ path: `${folder}${name}.png` });

await page.goto(`${site.url}/contact/`);
await page.waitForSelector("body[data-ready=reed]", { timeout: 120_000 });
await shoot("contact-sheet");

await page.goto(`${site.url}/creator/`);
await page.waitForSelector("body[data-ready]");
for (const press of ["slot-hair", "option-braid", "paint-hair-silver", "outfit-storm-watch", "slot-hat"]) {
  await page.click(`#${press}`);
  await page.waitForTimeout(600);
}
await page.fill("#name", "Wren");
await page.click("text=Sign the ledger");
await page.waitForSelector("#message a");
await page.mouse.move(0, 0);
await shoot("creator");
await page.setViewportSize({ width: 390, height: 844 });
await page.waitForTimeout(300);
await shoot("creator-narrow");
await page.setViewportSize({ width: 1280, height: 800 });

await page.goto(`${site.url}/harbor/`);
await page.waitForSelector("canvas[data-place=jetty]");
await page.keyboard.down("ArrowRight");
await page.waitForTimeout(700);
await shoot("harbor-jetty");
await page.waitForSelector("canvas[data-place=marsh]");
await page.waitForTimeout(1800);
await shoot("harbor-marsh");
await page.keyboard.up("ArrowRight");

await browser.close();
await site.close();
