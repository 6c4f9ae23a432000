import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";

import { createImage, decodePng, encodePng } from "zealous-mantle/raster";
import { filesOnPage } from "../../scripts/files-on-page.ts";
import { type PackedProject, packedProject } from "../../scripts/packed-project.ts";
import { isLong } from "../runs.ts";
import { useSite } from "./site.ts";

const site = useSite();

let project: PackedProject;
let written: Awaited<ReturnType<typeof filesOnPage>>;

beforeAll(async () => {
  project = await packedProject("start");
  written = await filesOnPage("docs/start.md");
});
afterAll(() => project.close());

/** Writes a file as it stands on the page, the first time or the second. */
const write = (path: string, time = 0) => project.write({ [path]: written.get(path)?.[time] ?? "" });

const card = (id: string) => `[data-card="${id}"]`;
const titles = (page: Page) =>
  page.locator("[data-card] .words > span:first-child").evaluateAll((all) => all.map(({ textContent }) => textContent));
/** The colors on a canvas, of which one is that of a picture that was changed. */
const colorsOn = (page: Page, selector: string) =>
  page.locator(selector).evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext("2d")?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: [] };
    const colors = new Set<string>();
    for (let at = 0; at < data.length; at += 4) colors.add([...data.slice(at, at + 3)].join());
    return [...colors];
  });

describe("docs/start.md", () => {
  test("leads from an empty folder to a dressed, saved, walking character, and what is changed is on the page", async () => {
    expect((await project.mantle("new", "keepers")).split("\n")[0]).toBe(
      "Written: keepers, 7 files. Try: mantle check keepers",
    );
    expect(await project.mantle("check", "keepers")).toContain("Nothing is wrong.");
    // Editors find the schema of each file where npm put it.
    for (const file of ["catalog.json", "parts/clothes.json"]) {
      const { $schema } = JSON.parse(await project.read(join("keepers", file)));
      expect(JSON.parse(await project.read(join("keepers", $schema))).$id).toMatch(/^urn:zealous-mantle:/);
    }
    for (const path of ["vite.config.js", "index.html", "main.js"]) await write(path);
    const address = await project.serve("dev");
    const { page, errors } = await site.open(address);
    await page.click('[data-page="slot:hat"]');
    expect(await titles(page)).toEqual(["Nothing", "Cap", "Hood"]);

    await write("main.js", 1);
    const warnings: string[] = [];
    page.on("console", (message) => message.type() === "warning" && warnings.push(message.text()));
    await page.reload();
    await page.click('[data-page="slot:hat"]');
    expect(warnings).toEqual([]);
    await page.click(card("cap"));
    await page.fill("#name", "Ada");
    await page.locator("#name").blur();

    // A hat that comes meanwhile; what was done stays, and can be undone.
    await page.evaluate(() => Object.assign(globalThis, { neverReloaded: true }));
    await write("keepers/parts/mine.json");
    await page.waitForSelector(card("straw-hat"));
    expect(await titles(page)).toEqual(["Nothing", "Cap", "Hood", "Straw hat"]);
    const fitting = () =>
      page.evaluate(() => {
        const { character, canUndo } = document.querySelector("mantle-fitting")?.fitting ?? {};
        return { hat: character?.loadout["hat"], name: character?.name, canUndo };
      });
    expect(await fitting()).toEqual({ hat: "cap", name: "Ada", canUndo: true });

    // A picture that is drawn anew.
    await page.click("mantle-stage [aria-label=Closer], [aria-label=Closer]");
    await page.selectOption("select[aria-label=Movement]", "walk");
    const before = decodePng(new Uint8Array(await readFile(join(project.folder, "keepers/art/cap.png"))));
    const drawn = createImage(before.width, before.height);
    for (let at = 0; at < drawn.data.length; at += 4)
      if ((before.data[at + 3] ?? 0) > 0) drawn.data.set([250, 7, 130, 255], at);
    await project.write({ "keepers/art/cap.png": "" });
    await page.waitForSelector("#mantle-mistakes");
    await project.write({ "keepers/art/cap.png": encodePng(drawn) });
    await page.waitForSelector("#mantle-mistakes", { state: "detached" });
    await until(async () => (await colorsOn(page, "mantle-stage canvas")).includes("250,7,130"));
    await until(async () => (await colorsOn(page, `${card("cap")} canvas`)).includes("250,7,130"));
    expect(await page.inputValue("select[aria-label=Movement]")).toBe("walk");

    // A mistake is said with its place, and the page stays as it was.
    const mine = await project.read("keepers/parts/mine.json");
    await project.write({ "keepers/parts/mine.json": mine.replace('"hat"', '"hatt"') });
    const said = page.locator("#mantle-mistakes p");
    await said.waitFor();
    expect(await said.allTextContents()).toEqual([
      'parts/mine.json:5:7 /parts/straw-hat/slot: There is no slot "hatt". Write "hat" if that is meant.',
    ]);
    expect(await fitting()).toEqual({ hat: "cap", name: "Ada", canUndo: true });
    await project.write({ "keepers/parts/mine.json": mine.replace("Straw hat", "Reed hat") });
    await page.waitForSelector("#mantle-mistakes", { state: "detached" });
    await page.waitForSelector("text=Reed hat");

    await page.click(card("straw-hat"));
    await page.click("#finish");
    await page.waitForSelector("mantle-fitting", { state: "detached" });
    expect(await page.evaluate(() => Reflect.get(globalThis, "neverReloaded"))).toBe(true);

    // They walk, and are as they were after a reload.
    const left = () => leftEdge(page);
    await until(async () => (await left()) !== undefined);
    const start = await left();
    await page.keyboard.down("ArrowRight");
    await until(async () => ((await left()) ?? 0) > (start ?? 0) + 20);
    await page.keyboard.up("ArrowRight");
    await until(async () => JSON.stringify(await site.saved(page, "keepers")).includes("straw-hat"));
    await page.reload();
    await until(async () => (await left()) !== undefined);
    await page.keyboard.press("e");
    await page.waitForSelector("mantle-fitting");
    expect(await fitting()).toEqual({ hat: "straw-hat", name: "Ada", canUndo: false });

    // A page that is opened while there is a mistake begins when it is mended.
    await project.write({ "keepers/parts/mine.json": "{" });
    await page.reload();
    await said.waitFor();
    expect(await said.allTextContents()).toEqual([expect.stringMatching(/^parts\/mine\.json: This is not JSON/)]);
    await project.write({ "keepers/parts/mine.json": mine });
    await page.waitForSelector("#mantle-mistakes", { state: "detached" });
    await until(async () => (await left()) !== undefined);
    expect(errors.filter((error) => !/net::ERR|Failed to load resource/.test(error))).toEqual([]);
  });

  (isLong ? test : test.skip)(
    "what is built has the catalog in it, and does not come about with a mistake",
    async () => {
      await project.build();
      const { page, errors } = await site.open(await project.serve("preview"));
      await page.click('[data-page="slot:hat"]');
      expect(await titles(page)).toEqual(["Nothing", "Cap", "Hood", "Straw hat"]);
      await page.click(card("straw-hat"));
      await page.fill("#name", "Ada");
      await page.click("#finish");
      await until(async () => (await leftEdge(page)) !== undefined);
      expect(errors).toEqual([]);
      const mine = await project.read("keepers/parts/mine.json");
      await project.write({ "keepers/parts/mine.json": mine.replace('"hat"', '"hatt"') });
      await expect(project.build()).rejects.toThrow(/keepers: parts\/mine\.json:5:7 .*There is no slot "hatt"/);
    },
  );
});

/** The leftmost pixel of the figure on the sand; `undefined` while nobody stands there. */
function leftEdge(page: Page): Promise<number | undefined> {
  return page.locator("body > canvas").evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext("2d")?.getImageData(0, 50, 160, 14) ?? { data: [] };
    for (let x = 0; x < 160; x += 1)
      for (let y = 0; y < 14; y += 1) if ((data[(y * 160 + x) * 4 + 3] ?? 0) > 0) return x;
    return undefined;
  });
}

/** Waits until something holds. */
async function until(holds: () => Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 300; tries += 1) {
    if (await holds()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error(`This does not come to hold: ${holds}`);
}
