import { afterAll, afterEach, beforeAll, describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import {
  type Answer,
  type Character,
  composeFrame,
  createCharacter,
  createImage,
  drawCrop,
  type Edit,
  type Image,
  openFitting,
  openSteps,
} from "zealous-mantle";
import { demo, dressed } from "../demo-catalog.ts";
import { expectSamePicture } from "../same-picture.ts";
import { openSite, type Site } from "./site.ts";

let site: Site;
beforeAll(async () => {
  site = await openSite();
}, 180_000);
afterEach(() => site?.leave());
afterAll(() => site?.close());

/** What the tests answer and then press in the creator, and the same for the library. */
const answers: readonly Answer[] = ["reed", "reed", "braid", "silver", "sand", null, "none"];
const choices: readonly (readonly [page: string, card: string, edit: Edit])[] = [
  ["build", "oak", { body: "oak" }],
  ["outfits", "storm-watch", { dress: "storm-watch" }],
  ["slot:neck", "hood-up", { wear: "hood-up", in: "neck" }],
];
const expected: Character = expectedCharacter();

function expectedCharacter(): Character {
  const steps = openSteps(demo, createCharacter(demo, { body: "reed" }));
  for (const answer of [...answers, "Wren"]) {
    steps.answer(answer);
    steps.next();
    if (steps.confirming) steps.next();
  }
  const fitting = openFitting(demo, steps.finish());
  for (const [, , edit] of choices) fitting.apply(edit);
  return fitting.finish();
}

async function choose(page: Page, leaf: string, card: string): Promise<void> {
  await page.click(`[data-page="${leaf}"]`);
  await page.click(`[data-card="${card}"]`);
}

async function makeWren(): Promise<Awaited<ReturnType<Site["visit"]>>> {
  const visit = await site.visit("/creator/");
  const { page } = visit;
  for (const answer of answers) {
    await page.click(`[data-card="${answer ?? "nothing"}"]`);
    await page.click("#next");
  }
  await page.click("#next");
  await page.fill("#name", "  Wren ");
  await page.click("#next");
  await page.click("#finish");
  for (const [leaf, card] of choices) await choose(page, leaf, card);
  await page.click("#finish");
  await page.waitForSelector("text=Wren is in the ledger.");
  return visit;
}

/** The pixels of a canvas, or of the part where the harbor's figure stands. */
async function pixels(page: Page, selector: string, figure = false): Promise<Image> {
  const { width, height, data } = await page.$eval(
    selector,
    (element, around) => {
      const canvas = element as HTMLCanvasElement;
      const box = around
        ? [Number(canvas.dataset["x"]) - 32, Number(canvas.dataset["y"]) - 76, 64, 80]
        : [0, 0, canvas.width, canvas.height];
      const [x = 0, y = 0, w = 0, h = 0] = box;
      return { width: w, height: h, data: [...(canvas.getContext("2d")?.getImageData(x, y, w, h).data ?? [])] };
    },
    figure,
  );
  const image = createImage(width, height);
  image.data.set(data);
  return image;
}

/** Expects the harbor's figure to be the expected character, standing: every opaque pixel above the reeds. */
async function expectFigure(page: Page, facing: string): Promise<void> {
  await page.waitForSelector(`#scene[data-animation=idle][data-facing=${facing}]`);
  const { look, images } = await dressed(expected);
  const shown = await pixels(page, "#scene", true);
  const misses = [0, 1, 2, 3].map((frame) => {
    const drawn = composeFrame(look, images, { animation: "idle", facing, time: frame / 4 });
    let wrong = 0;
    for (let at = 0; at < 64 * 58 * 4; at += 4) {
      if (drawn.data[at + 3] === 255 && [0, 1, 2].some((byte) => drawn.data[at + byte] !== shown.data[at + byte]))
        wrong += 1;
    }
    return wrong;
  });
  expect(Math.min(...misses)).toBe(0);
}

describe("the creator", () => {
  test("dresses a character that is the library's own, and saves it across scenes and reloads", async () => {
    const { page, errors } = await makeWren();
    const { look, images } = await dressed(expected);
    const portrait = drawCrop(look, images, "portrait");
    await page.click("text=Go to the harbor");
    await page.waitForSelector("#scene[data-place=jetty]");
    expect(await page.textContent("#who")).toBe("Wren");
    expectSamePicture(await pixels(page, "#portrait"), portrait);
    await expectFigure(page, "south");

    await page.keyboard.down("ArrowRight");
    await page.waitForSelector("#scene[data-place=marsh]", { timeout: 20_000 });
    await page.keyboard.up("ArrowRight");
    expect(await page.textContent("#where")).toBe("The marsh at low water");
    await expectFigure(page, "east");

    await page.reload();
    await page.waitForSelector("#scene[data-place=marsh]");
    expectSamePicture(await pixels(page, "#portrait"), portrait);
    await expectFigure(page, "south");

    await page.keyboard.down("ArrowLeft");
    await page.waitForSelector("#scene[data-place=jetty]", { timeout: 20_000 });
    await page.keyboard.up("ArrowLeft");
    await expectFigure(page, "west");
    expect(errors).toEqual([]);
  }, 90_000);

  test("opens the saved character again, and a damaged save gives way to the one before", async () => {
    const { page } = await makeWren();
    const nameIs = (name: string) =>
      page.waitForFunction(
        (wanted) => document.querySelector("mantle-fitting")?.fitting?.character.name === wanted,
        name,
      );
    await page.click("text=Change something");
    await page.fill("#name", "Heron");
    await page.click("#finish");
    await page.waitForSelector("text=Heron is in the ledger.");
    await page.reload();
    await nameIs("Heron");
    await page.evaluate(damageNewest);
    await page.reload();
    await nameIs("Wren");
  }, 60_000);

  test("nobody stands in the harbor before somebody is in the ledger", async () => {
    const { page } = await site.visit("/harbor/");
    await page.waitForSelector("#nobody", { state: "visible" });
    expect(await page.$("#portrait")).toBeNull();
  });
});

describe("the harbor", () => {
  const scene = (page: Page, wanted: Readonly<Record<string, string>>) =>
    page.waitForSelector(
      `#scene${Object.entries(wanted)
        .map(([name, value]) => `[data-${name}="${value}"]`)
        .join("")}`,
      { timeout: 20_000 },
    );
  const hold = async (page: Page, ...keys: readonly string[]) => {
    for (const key of keys) await page.keyboard.down(key);
    return async () => {
      for (const key of keys) await page.keyboard.up(key);
    };
  };
  const open = async () => {
    const { page, errors } = await makeWren();
    await page.goto(`${site.url}/harbor/`);
    await scene(page, { place: "jetty" });
    return { page, errors };
  };

  test("a locker is opened by the player who stands at it; the change is saved, and shows in another page at once", async () => {
    const { page, errors } = await open();
    const other = await page.context().newPage();
    await other.goto(`${site.url}/harbor/`);
    await scene(other, { place: "jetty" });
    await page.bringToFront();
    await page.keyboard.press("e");
    await choose(page, "slot:hat", "nothing");
    await choose(page, "slot:neck", "scarf");
    await page.click("#finish");
    await page.keyboard.press("Enter");
    expect(await page.textContent("#said")).toBe("");
    const stop = await hold(page, "ArrowLeft");
    await page.waitForFunction(
      () => Number((document.querySelector("#scene") as HTMLElement).dataset["x"]) < 120,
      undefined,
      { polling: 20 },
    );
    await stop();
    await page.waitForSelector("text=Enter opens the locker.");
    const portrait = async (from: Page) => [...(await pixels(from, "#portrait")).data].join();
    const before = await portrait(page);
    await page.keyboard.down("Enter");
    await page.waitForSelector("text=Storm watch, from head to foot.");
    await page.waitForSelector("text=The locker is empty");
    await page.keyboard.up("Enter");
    await page.waitForTimeout(600);
    const after = await portrait(page);
    expect(after).not.toBe(before);
    await other.bringToFront();
    expect(await portrait(other)).toBe(after);
    await page.bringToFront();
    await page.reload();
    await scene(page, { place: "jetty" });
    expect(await portrait(page)).toBe(after);
    expect(errors).toEqual([]);
  }, 90_000);

  test("water makes one wade, walking makes one weary, rest and dry ground help; night has its own look", async () => {
    const { page } = await open();
    const walkEast = await hold(page, "ArrowRight");
    await scene(page, { place: "marsh" });
    await page.waitForFunction(
      () => Number((document.querySelector("#scene") as HTMLElement).dataset["x"]) > 90,
      undefined,
      { polling: 20 },
    );
    await page.keyboard.down("ArrowDown");
    await scene(page, { form: "wading" });
    await page.keyboard.up("ArrowDown");
    await page.keyboard.down("ArrowUp");
    await walkEast();
    await page.waitForFunction(() => (document.querySelector("#scene") as HTMLElement).dataset["form"] !== "wading");
    await scene(page, { form: "weary" });
    await page.keyboard.up("ArrowUp");
    await scene(page, { form: "" });
    await page.keyboard.press("n");
    await scene(page, { form: "lamplit" });
    await page.keyboard.press("n");
    await scene(page, { form: "" });
  }, 90_000);

  test("the wardrobe opens anywhere: given up it changes nothing, done it changes every place", async () => {
    const { page } = await open();
    const hat = () => page.evaluate(() => document.querySelector("mantle-fitting")?.fitting?.character.loadout["neck"]);
    await page.keyboard.press("e");
    await choose(page, "slot:neck", "scarf");
    expect(await hat()).toBe("scarf");
    await page.keyboard.press("Escape");
    await page.click("#give-up");
    await page.waitForSelector("mantle-fitting", { state: "detached" });
    await page.keyboard.press("e");
    expect(await hat()).toBe("hood-up");
    await choose(page, "slot:neck", "scarf");
    await page.click("#finish");
    await page.waitForSelector("mantle-fitting", { state: "detached" });
    const stop = await hold(page, "ArrowRight");
    await scene(page, { place: "marsh" });
    await stop();
    await page.keyboard.press("e");
    expect(await hat()).toBe("scarf");
  }, 90_000);
});

describe("every page", () => {
  test.each(["/", "/creator/", "/harbor/", "/contact/", "/plain/", "/bag/", "/bare/"])(
    "%s fits a narrow screen and complains of nothing",
    async (path) => {
      const { page, errors } = await site.visit(path, { width: 390, height: 844 });
      await page.waitForLoadState("networkidle");
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
      expect(await page.title()).toContain("Saltmarsh Post");
      expect(errors).toEqual([]);
    },
  );

  test("the contact sheet draws every part that has a picture", async () => {
    const { page } = await site.visit("/contact/");
    await page.waitForSelector("body[data-ready=reed]", { timeout: 60_000 });
    const titles = await page.$$eval("figcaption", (captions) => captions.map(({ textContent }) => textContent));
    const places = [...demo.slots.values()].flatMap(({ parts }) => parts).filter(({ layers }) => layers.length > 0);
    expect(titles).toHaveLength(places.length);
  }, 90_000);
});

/** Changes a letter in the newest generation of every character, as a failing disk would. */
async function damageNewest(): Promise<void> {
  const database = await new Promise<IDBDatabase>((resolve) => {
    const request = indexedDB.open("saltmarsh");
    request.onsuccess = () => resolve(request.result);
  });
  const saves = database.transaction("saves", "readwrite").objectStore("saves");
  await new Promise<void>((resolve) => {
    const walk = saves.openCursor();
    walk.onsuccess = () => {
      const cursor = walk.result;
      if (cursor === null) return resolve();
      if (String(cursor.key).startsWith("character-")) {
        const [newest = "", ...before] = cursor.value as string[];
        cursor.update([newest.replace("Heron", "Herring"), ...before]);
      }
      cursor.continue();
    };
  });
  database.close();
}
