import { mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import { composeFrame, createCharacter, type Image, resolveLook } from "zealous-mantle";
import { loadCatalog, loadImages } from "zealous-mantle/node";
import { animationOf, decodePng, encodePng, timedFrames } from "zealous-mantle/raster";
import { blankPath } from "../../scripts/test-site.ts";
import { edited } from "../edited.ts";
import { mantle } from "../run-mantle.ts";
import { isLong } from "../runs.ts";
import { expectSamePicture } from "../same-picture.ts";
import { expected, pixels } from "./harbor-page.ts";
import { overflowOn } from "./overflow.ts";
import { savedWith, useSite } from "./site.ts";

const site = useSite();
const laid = { folder: "demo/saltmarsh", packs: ["demo/packs/frost-fair"] };

let folder = "";
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-bench-"));
  await mantle("new", join(folder, "keepers"));
});
afterAll(() => rm(folder, { recursive: true }));

const ready = (page: Page, what: string) => page.waitForSelector(`body[data-ready="${what}"]`);
const tab = (page: Page, name: string) => page.getByRole("tab", { name }).click();

/** What is on the table, as a text. */
const tableOf = (page: Page) => page.$eval(".table", (canvas) => (canvas as HTMLCanvasElement).toDataURL());

/** Opens the small catalog of `mantle new` at an address of its own, with its files as they are then. */
async function visitKeepers(view: string): Promise<Page> {
  const root = join(folder, "keepers");
  const { page } = await site.visit(blankPath, { art: true });
  await page.context().route(
    ({ pathname }) => pathname.startsWith("/keepers/"),
    async (route) => {
      const path = new URL(route.request().url()).pathname.slice("/keepers/".length);
      const files = async () => (await readdir(root, { recursive: true })).filter((each) => /\.\w+$/.test(each));
      if (path === "files.json") return route.fulfill({ json: { mantle: "files/1", files: await files() } });
      return route.fulfill({ body: await readFile(join(root, path)) });
    },
  );
  await page.goto(`${site.url}/workbench/?catalog=/keepers/&${view}`);
  return page;
}

/** The pixels that hide what is behind them: a canvas rounds the colors of all others. */
function opaque(image: Image): Image {
  const data = image.data.map((byte, at) => (image.data[at | 3] === 255 ? byte : 0));
  return { ...image, data };
}

describe("the workbench", () => {
  test("shows any part on any body in any animation, frame by frame, from the catalog with its pack", async () => {
    const { page, errors } = await site.visit("/workbench/?part=frost-fair.fur-stole", { art: true });
    await ready(page, "frost-fair.fur-stole idle south 0");
    expect(await page.locator("#status").textContent()).toBe("Saltmarsh Post 1.0.0 with Frost fair 1.0.0: 78 parts");
    await page.getByRole("button", { name: "Oak", exact: true }).click();
    await page.getByLabel("Movement").selectOption("walk");
    await page.getByRole("button", { name: "West" }).click();
    await page.locator(".strip button").nth(3).click();
    await ready(page, "frost-fair.fur-stole walk west 3");
    const catalog = await loadCatalog(laid);
    const worn = edited(catalog, createCharacter(catalog, { body: "oak" }), { wear: "frost-fair.fur-stole" });
    const look = resolveLook(catalog, worn);
    const frame = composeFrame(look, await loadImages(laid, [look]), {
      animation: "walk",
      facing: "west",
      time: timedFrames(animationOf(look, "walk"))[3]?.time ?? 0,
    });
    expectSamePicture(opaque(await pixels(page, ".strip button:nth-child(4) canvas")), opaque(frame));
    // Arrows lead from frame to frame, and what lies beside the frame is seen through it.
    const onion = await tableOf(page);
    await page.getByRole("button", { name: "See through" }).click();
    expect((await tableOf(page)) === onion).toBe(false);
    await page.locator(".table").press("ArrowRight");
    await ready(page, "frost-fair.fur-stole walk west 4");
    await page.getByLabel("Find").fill("oilskin");
    expect(await page.locator("#parts > button").allTextContents()).toEqual(["The bare body", "Oilskin"]);
    expect(await overflowOn(page)).toEqual({ cut: [], sideways: 0 });
    await page.setViewportSize({ width: 390, height: 844 });
    expect(await overflowOn(page)).toEqual({ cut: [], sideways: 0 });
    expect(errors).toEqual([]);
  });

  test("says why each layer shows or not, and shows the one that is pointed at", async () => {
    const { page } = await site.visit("/workbench/?part=storm-hat", { art: true });
    await ready(page, "storm-hat idle south 0");
    await page.getByRole("button", { name: "On somebody" }).click();
    const panel = page.locator("mantle-inspect");
    await panel.getByText("In this facing the layer for the other hand is shown.").first().waitFor();
    const whole = await tableOf(page);
    await panel.locator("li.shows").first().hover();
    expect((await tableOf(page)) === whole).toBe(false);
    expect(await panel.locator("li.shows .depth").first().textContent()).toBe("85");
  });

  test("draws figures of models, too, and says what hides which of their pieces", async () => {
    const { page, errors } = await site.visit("/workbench/?catalog=../catalogs/saltmarsh-3d/&part=oilskin", {
      art: true,
    });
    await ready(page, "oilskin idle south 0");
    const { data } = await pixels(page, ".strip canvas");
    expect(data.filter((byte, at) => at % 4 === 3 && byte > 0).length).toBeGreaterThan(500);
    await page.locator("mantle-inspect").getByText("Oilskin hides it.").first().waitFor();
    expect(errors).toEqual([]);
  });

  test("maps what is drawn; a cell leads to the figure", async () => {
    const { page } = await site.visit("/workbench/?view=coverage", { art: true });
    await page
      .locator(".lead", { hasText: "On Reed: 1,224 drawn, 0 another animation in its place, 0 nothing." })
      .waitFor();
    await page.getByRole("button", { name: "lantern, wade, north: drawn" }).click();
    await ready(page, "lantern wade north 0");
    await tab(page, "Coverage");
    await page.locator(".map button").first().focus();
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("Enter");
    await page.waitForSelector('body[data-view="figure"]');
    expect(await page.locator("body").getAttribute("data-ready")).toMatch(/^(lantern wade north|body idle west) 0$/);
  });

  test("shows a part with everything it meets", async () => {
    const page = isLong
      ? (await site.visit("/workbench/?part=storm-hat&view=pairs", { art: true })).page
      : await visitKeepers("part=cloak&view=pairs");
    const part = isLong ? "Storm hat" : "Cloak";
    await page
      .locator(".lead", {
        hasText: new RegExp(`^${part} with everything it can be worn with, on \\d+ of \\d+ characters\\.$`),
      })
      .waitFor();
    expect(await page.locator(".told li").allTextContents()).toEqual(
      isLong ? [expect.stringMatching(/^Storm hat and Hood up/)] : [],
    );
    const people = page.locator(".person");
    expect(await people.count()).toBe(Number(await page.locator("body").getAttribute("data-pairs")));
    await people.first().click();
    await ready(page, `${isLong ? "storm-hat" : "cloak"} idle south 0`);
    expect(await page.locator("mantle-inspect h2").textContent()).toMatch(/^Figure \d+$/);
    await page.context().unrouteAll();
  });

  test("shows the rules that keep a part from the rest", async () => {
    const { page } = await site.visit("/workbench/?part=storm-hat&view=rules", { art: true });
    await page.getByRole("button", { name: "Hood up" }).last().hover();
    const told = page.locator(".graph aside li");
    expect((await told.allTextContents()).slice(0, 3)).toEqual([
      expect.stringMatching(/^takes off Storm hat, Reed capA hood does not close over a brim\./),
      expect.stringMatching(/^excludes Lamp crownOpen flames/),
      expect.stringMatching(/^takes off Fur hatNo hood closes/),
    ]);
    expect(await page.locator(".line:not(.off)").count()).toBe(4);
  });

  test("lays two versions side by side: here the catalog without its pack", async () => {
    const { page } = await site.visit("/workbench/?part=wool-cap&view=versions", { art: true });
    await page.waitForSelector('body[data-changes="13"]');
    await page.getByText("Nothing: it looks as it did.").waitFor();
    expect(await page.locator(".changes li", { hasText: "wool-cap" }).textContent()).toContain("price 9 → 4");
    await page.getByRole("button", { name: "frost-fair.fur-hat" }).click();
    await page.getByText("It was not there.").waitFor();
  });

  test("finds what is wrong, down to the pixels, with a picture", async () => {
    const root = join(folder, "keepers");
    const cloak = decodePng(await readFile(join(root, "art/cloak.png")));
    for (let y = 24; y < 48; y += 1) cloak.data.fill(0, (y * cloak.width + 16) * 4, (y * cloak.width + 32) * 4);
    await writeFile(join(root, "art/cloak.png"), encodePng(cloak));
    const page = await visitKeepers("view=problems");
    await page.waitForSelector('body[data-problems="0"]');
    await page.getByRole("button", { name: "Look at every pixel, too" }).click();
    await page.waitForSelector('body[data-pixels="1"]');
    expect(await page.locator(".told li").textContent()).toContain('"cloak" shows nothing in idle west 1');
    expect((await pixels(page, ".told canvas")).width).toBeGreaterThan(16);
    await page.context().unrouteAll();
  });

  test("wears a sheet that is dropped, in the slot and color of the part on the bench", async () => {
    const { page } = await site.visit("/workbench/?part=long-trousers", { art: true });
    await ready(page, "long-trousers idle south 0");
    await page.setInputFiles("#file", "demo/saltmarsh/art/reed/breeches.png");
    await ready(page, "dropped-breeches idle south 0");
    const row = await page.locator("mantle-inspect li", { hasText: "dropped-breeches" }).first().textContent();
    expect(row).toMatch(/trousers\s+cloth: indigo/);
    await page.setInputFiles("#file", "demo/saltmarsh/catalog.json");
    await page.locator("#status", { hasText: /PNG/ }).waitFor();
  });
});

test("in a game, an overlay follows the figure of a seat", async () => {
  const { page, errors } = await site.visit("/harbor/?inspect", { saved: await savedWith(expected) });
  await page.waitForSelector("#scene[data-place=jetty]");
  await page.getByRole("button", { name: "Why does it look so?" }).click();
  const panel = page.locator("mantle-inspect");
  await panel.getByText(`${expected.body}: idle, `).waitFor();
  expect(await panel.locator("h2").textContent()).toBe("Wren");
  await page.keyboard.down("ArrowLeft");
  await panel.getByText(`${expected.body}: walk, west`).waitFor();
  await page.keyboard.up("ArrowLeft");
  await page.keyboard.press("n");
  await panel.getByText("night is true").waitFor();
  await panel.getByRole("button", { name: "Close" }).click();
  expect(await panel.locator("ol").count()).toBe(0);
  expect(errors).toEqual([]);
});
