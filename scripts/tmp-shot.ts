import { openBrowser } from "./browser.ts";
import { serveExamples } from "./serve-examples.ts";

const site = await serveExamples();
const browser = await openBrowser();
const langs = (process.argv[2] ?? "en,de").split(",");
const only = process.argv[3]?.split(",");
const sizes = (process.argv[4] ?? "1280x800,1024x600,390x844")
  .split(",")
  .map((s) => s.split("x").map(Number) as [number, number]);
for (const lang of langs) {
  for (const [width, height] of sizes) {
    const context = await browser.newContext({
      viewport: { width, height },
      reducedMotion: "reduce",
      hasTouch: width < 500,
    });
    const page = await context.newPage();
    page.on("pageerror", (e) => console.error(e));
    const shoot = async (name: string) => {
      if (only && !only.includes(name)) return;
      await page.mouse.move(0, 0);
      await page.waitForTimeout(500);
      await page.screenshot({ path: `/tmp/shots/${name}-${lang}-${width}.png` });
    };
    const press = async (...all: string[]) => {
      for (const s of all) {
        await page.click(s);
        await page.waitForTimeout(250);
      }
    };
    const card = (id: string) => `[data-card="${id}"]`;
    await page.goto(`${site.url}/creator/?lang=${lang}`);
    await page.waitForSelector("body[data-ready]");
    await page.waitForTimeout(500);
    await shoot("steps-first");
    await press(card("reed"), "#next", card("reed"), "#next");
    await shoot("steps-hair");
    await press(card("braid"), "#next");
    await shoot("steps-color");
    await press(card("silver"), "#next", card("sand"), "#next", "#later");
    await shoot("steps-trade");
    await press(card("courier"), "#next", "#next");
    await page.fill("#name", "Wren");
    await shoot("steps-name");
    await press("#next");
    await shoot("steps-end");
    await press("#finish");
    await page.waitForTimeout(800);
    if (width > 500) await press('[data-page="slot:hat"]');
    await shoot("fitting");
    if (width > 500) {
      await press('[data-page="slot:shirt"]');
      await shoot("fitting-shirt");
    }
    if (width > 500) {
      await press('[data-page="slot:vest"]');
      if (await page.$(card("cork-vest"))) {
        await page.hover(card("cork-vest"));
        await page.waitForTimeout(500);
        await page.screenshot({ path: `/tmp/shots/fitting-reason-${lang}-${width}.png` });
      }
    }
    await page.goto(`${site.url}/bag/?lang=${lang}`);
    await page.waitForSelector("body[data-ready]");
    await press("#open");
    await shoot("bag");
    await page.goto(`${site.url}/ferry/?lang=${lang}`);
    await page.waitForSelector("body[data-ready]");
    await page.keyboard.press("Enter");
    await page.waitForTimeout(300);
    await page.keyboard.press("Space");
    await page.waitForTimeout(500);
    await shoot("seats");
    await page.goto(`${site.url}/chandlery/?lang=${lang}`);
    await page.waitForSelector("body[data-ready]");
    await page.waitForTimeout(500);
    await shoot("chandlery");
    await context.close();
  }
}
await browser.close();
await site.close();
