/** Redraws `docs/screenshots` from the demo data: `npm run shots`. */
import { spawnSync } from "node:child_process";
import { mkdir, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { createCharacter } from "zealous-mantle";
import { loadCatalog } from "zealous-mantle/node";
import { createImage, encodeApng, encodePng, enlargeImage, type TimedImage } from "zealous-mantle/raster";
import { openBrowser } from "./browser.ts";
import { figuresPicture } from "./figures-picture.ts";
import { filesOnPage } from "./files-on-page.ts";
import { drawImportPictures } from "./import-pictures.ts";
import { looksPicture } from "./looks-picture.ts";
import { packPicture } from "./pack-picture.ts";
import { packedProject } from "./packed-project.ts";
import { serveExamples } from "./serve-examples.ts";
import { change, openDevices, runServer } from "./two-devices.ts";

const folder = fileURLToPath(new URL("../docs/screenshots/", import.meta.url));
const out = fileURLToPath(new URL("../out/", import.meta.url));
await mkdir(folder, { recursive: true });
const catalog = await loadCatalog("demo/saltmarsh");
await drawImportPictures(catalog, fileURLToPath(new URL("../docs/pictures/", import.meta.url)));
const modeled = await loadCatalog("demo/saltmarsh-3d");
const figures = encodePng(await figuresPicture(modeled, "demo/saltmarsh-3d"));
await writeFile(fileURLToPath(new URL("../docs/pictures/couriers.png", import.meta.url)), figures);
const packed = encodePng(await packPicture());
await writeFile(fileURLToPath(new URL("../docs/pictures/packs.png", import.meta.url)), packed);
await writeFile(`${folder}looks.png`, encodePng(await looksPicture(catalog, "demo/saltmarsh")));
const kite = createCharacter(catalog, { body: "reed", name: "Kite" });
const site = await serveExamples();
const browser = await openBrowser();
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" });
const page = await context.newPage();
page.on("pageerror", (error) => console.error(error));
const shoot = (name: string) => page.screenshot({ path: `${folder}${name}.png` });

/** Presses one thing after the other, and lets each be drawn. */
async function press(...selectors: readonly string[]): Promise<void> {
  for (const selector of selectors) {
    await page.click(selector);
    await page.waitForTimeout(400);
  }
}
const card = (id: string) => `[data-card="${id}"]`;

await page.goto(`${site.url}/workbench/?part=frost-fair.fur-stole`);
await page.waitForSelector("body[data-open]", { timeout: 120_000 });
await page.getByLabel("Movement").selectOption("walk");
await press("text=On somebody", "text=West", ".strip button:nth-child(2)");
await page.mouse.move(0, 0);
await shoot("workbench");

await page.goto(`${site.url}/import/`);
await page.waitForSelector("body[data-ready='0']");
await page.click("#sample");
await page.waitForSelector("body[data-ready='1']");
await page.waitForTimeout(800);
await shoot("import");

await page.goto(`${site.url}/creator/`);
for (const answer of ["reed", "reed", "braid", "silver", "sand"]) await press(card(answer), "#next");
await press("#later", card("courier"));
await page.mouse.move(0, 0);
await page.waitForTimeout(600);
await shoot("steps");
await press("#next", "#next");
await page.fill("#name", "Wren");
await press("#next", "#finish", '[data-page="slot:hat"]');
await page.hover(card("reed-cap"));
await page.waitForTimeout(800);
await shoot("creator");
await press("#finish");
await page.waitForSelector("text=Wren is in the ledger.");

spawnSync("node", ["dist/js/mantle.js", "survey", "demo/saltmarsh", "--out", `${out}survey`], { stdio: "inherit" });
await page.goto(`file://${out}survey/survey.html`);
await shoot("survey");

await page.goto(`${site.url}/atelier/`);
await page.waitForSelector(".orbit[data-shown]", { timeout: 120_000 });
await press('[data-page="slot:hat"]');
await page.waitForSelector(`${card("ear-cap")} canvas.smooth`);
await page.click("text=▶");
await page.mouse.move(0, 0);
await page.waitForTimeout(2500);
await shoot("atelier");
await press("#finish");
await page.waitForSelector(".quay[data-ready]");
await page.keyboard.press("p");
await page.waitForTimeout(4000);
await shoot("both");

await page.goto(`${site.url}/bag/`);
await page.waitForSelector("body[data-ready]");
await press("#open");
const boots = await page.locator("[data-part=sea-boots].tile").boundingBox();
const place = await page.locator("[data-slot=boots]").boundingBox();
if (boots === null || place === null) throw new Error("The bag shows no boots");
await page.mouse.move(boots.x + 20, boots.y + 20);
await page.mouse.down();
await page.mouse.move(place.x + 120, place.y + 60, { steps: 6 });
await page.waitForTimeout(600);
await shoot("equipment");
await page.mouse.up();

await page.goto(`${site.url}/harbor/`);
await page.waitForSelector("canvas[data-place=jetty]");
await writeFile(`${folder}harbor.png`, await filmOfHarbor());

const drawn = (id: string) => page.waitForSelector(`${card(id)} canvas:not([width="1"])`);
await page.goto(`${site.url}/ferry/`);
await drawn("old-hand");
await page.evaluate(() => document.querySelector("mantle-seats")?.session?.duplicate("lamp-child"));
await drawn("lamp-child-2");
for (const key of ["Enter", "e", "o", "ArrowRight", "l", "l", "l", "e"]) await page.keyboard.press(key);
await page.waitForTimeout(900);
await shoot("seats");
for (const key of ["Enter", "o"]) await page.keyboard.press(key);
await page.waitForSelector("#boat:not([hidden])");
for (let strokes = 0; strokes < 8; strokes += 1) {
  for (const key of ["Enter", "e", "o"]) await page.keyboard.press(key);
  await page.waitForTimeout(850);
}
for (const key of ["Enter", "e", "o"]) await page.keyboard.press(key);
await page.waitForTimeout(120);
await shoot("ferry");

await page.goto(`${site.url}/harbor/`);
await page.waitForSelector("canvas[data-place=jetty]");
await page.keyboard.press("r");
await drawn("old-hand");
await press(card("old-hand"));
await shoot("roster");

await page.goto(`${site.url}/market/`);
await page.waitForSelector("body[data-here='200']", { timeout: 120_000 });
await page.waitForTimeout(1500);
await shoot("market");
await page.goto(`${site.url}/flats/`);
await page.waitForSelector("body[data-ready]");
await page.keyboard.down("ArrowRight");
await page.waitForSelector("body[data-wet=true]");
await page.waitForTimeout(500);
await shoot("flats");
await page.keyboard.up("ArrowRight");
await page.goto(`${site.url}/diorama/`);
await page.waitForSelector("body[data-here='9']");
await page.waitForTimeout(1500);
await shoot("diorama");

const project = await packedProject("shots");
await project.mantle("new", "keepers");
for (const [path, [first = ""]] of await filesOnPage("docs/start.md")) await project.write({ [path]: first });
await page.setViewportSize({ width: 1280, height: 800 });
await page.goto(await project.serve("dev"));
await press('[data-page="slot:hat"]', card("straw-hat"));
await page.mouse.move(0, 0);
await page.waitForTimeout(500);
await page.screenshot({ path: fileURLToPath(new URL("../docs/pictures/start-fitting.png", import.meta.url)) });
await project.close();
const server = await runServer();
const [here, elsewhere] = await openDevices(browser, site.url, server.url);
await here.context().setOffline(true);
await change(here, { wear: "wool-cap", paint: "madder", name: "Wrenley" });
await change(elsewhere, { wear: "reed-cap", paint: "indigo", name: "Wrenna" });
await elsewhere.waitForSelector(".kept[data-state=agreed]");
await here.context().setOffline(false);
await here.waitForSelector("dialog");
await here.waitForTimeout(1200);
await here.screenshot({ path: `${folder}two-devices.png` });
await server.close();
await browser.close();
await site.close();

// The terminal: the demo in a real terminal window, and one picture it drew.
run("bash", ["scripts/terminal-shot.sh", `${folder}demo.png`, "npm run --silent demo", "8"]);
await writeFile(
  `${out}kite.json`,
  JSON.stringify({ ...kite, loadout: { chain: "watch-chain", neck: "hood-up", hat: "lamp-crown" } }),
);
const calls = [
  "check saltmarsh --quick",
  "check saltmarsh kite.json",
  "why saltmarsh kite.json boathook",
  "fix saltmarsh kite.json --write",
  "why saltmarsh kite.json cork-vest",
  "roll saltmarsh --seed 5 --count 3 --from kite.json --keep body,chain,vest --weights rare=4",
];
const typed = calls.map((call) => `printf '\\n$ mantle ${call}\\n'; FORCE_COLOR=1 node ../dist/js/mantle.js ${call}`);
const script = `cd out && ln -sfn ../demo/saltmarsh saltmarsh && ${typed.join("; ")}`;
await writeFile(`${out}commands.sh`, script);
run("bash", ["scripts/terminal-shot.sh", `${folder}why-and-fix.png`, "bash out/commands.sh", "10", "156"]);

function run(command: string, args: readonly string[]): void {
  const { status } = spawnSync(command, args, { stdio: "inherit" });
  if (status !== 0) throw new Error(`${command} ${args.join(" ")} failed`);
}

/**
 * Through the creek and along the marsh, as an animated PNG, twice as large. The page's time stands still but for the moment from one
 * picture to the next, so that the film is as fast however slow the machine is.
 */
async function filmOfHarbor(): Promise<Uint8Array> {
  const moment = 0.1;
  // The clock is that of all pages of a profile, so the film has one of its own.
  const profile = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    storageState: await context.storageState({ indexedDB: true }),
  });
  const film = await profile.newPage();
  await film.emulateMedia({ reducedMotion: "no-preference" });
  await film.clock.install({ time: 0 });
  await film.clock.pauseAt(1000);
  await film.goto(`${site.url}/harbor/#marsh`);
  const pass = (seconds: number) => film.clock.runFor(seconds * 1000);
  while ((await film.locator("#scene[data-place=marsh]").count()) === 0) await pass(0.05);
  // Until the pictures of every form and animation that is to be seen have come.
  await film.waitForTimeout(3000);
  const keysAt: Readonly<Record<number, () => Promise<void>>> = {
    4: () => film.keyboard.down("ArrowRight"),
    8: () => film.keyboard.down("ArrowDown"),
    12: () => film.keyboard.up("ArrowDown"),
    19: () => film.keyboard.up("ArrowRight"),
    23: () => film.keyboard.down("ArrowLeft"),
    32: () => film.keyboard.down("ArrowUp"),
    37: () => film.keyboard.up("ArrowUp"),
    43: () => film.keyboard.up("ArrowLeft"),
  };
  const frames: TimedImage[] = [];
  for (let number = 0; number < 48; number += 1) {
    await keysAt[number]?.();
    await pass(moment);
    const { width, height, data } = await film.$eval("#scene", (element) => {
      const canvas = element as HTMLCanvasElement;
      const pixels = canvas.getContext("2d")?.getImageData(0, 0, canvas.width, canvas.height).data ?? [];
      return { width: canvas.width, height: canvas.height, data: [...pixels] };
    });
    const image = createImage(width, height);
    image.data.set(data);
    frames.push({ image: enlargeImage(image, 2), duration: moment });
  }
  await profile.close();
  return encodeApng(frames);
}
