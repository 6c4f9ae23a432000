import { afterAll, afterEach, beforeAll, describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import {
  applyEdit,
  type Character,
  composeFrame,
  createCharacter,
  createImage,
  drawCrop,
  type Edit,
  type Image,
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

/** What the tests press in the creator, and the same edits for the library. */
const choices: readonly (readonly [readonly string[], Edit])[] = [
  [["slot-hair", "option-braid"], { wear: "braid" }],
  [["paint-hair-silver"], { paint: "hair", ramp: "silver" }],
  [["body-oak"], { body: "oak" }],
  [["outfit-storm-watch"], { dress: "storm-watch" }],
  [["slot-neck", "option-hood-up"], { wear: "hood-up" }],
];
const expected: Character = choices.reduce(
  (character, [, edit]) => applyEdit(demo, character, edit).character,
  createCharacter(demo, { body: "reed", name: "Wren" }),
);

async function press(page: Page, ...ids: readonly string[]): Promise<void> {
  for (const id of ids) await page.click(`#${id}`);
}

async function makeWren(): Promise<Awaited<ReturnType<Site["visit"]>>> {
  const visit = await site.visit("/creator/");
  await visit.page.waitForSelector("body[data-ready]");
  for (const [ids] of choices) await press(visit.page, ...ids);
  await visit.page.fill("#name", "  Wren ");
  await visit.page.press("#name", "Enter");
  await visit.page.waitForSelector("#message a");
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
    expect(await page.textContent("#message")).toContain("Wren is in the ledger.");
    expect(await page.inputValue("#name")).toBe("Wren");

    const { look, images } = await dressed(expected);
    const portrait = drawCrop(look, images, "portrait");
    await page.click("#message a");
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

  test("says what came off and why, and refuses with the reason", async () => {
    const { page, errors } = await site.visit("/creator/");
    await press(page, "slot-hat", "option-storm-hat", "slot-neck", "option-hood-up");
    await page.waitForFunction(() =>
      document.querySelector("#message")?.textContent?.includes("A hood does not close over a brim."),
    );
    await press(page, "slot-hat");
    expect(await page.textContent("#option-lamp-crown .state")).toBe("not now");
    await press(page, "option-lamp-crown");
    expect(await page.textContent("#message.wrong")).toContain("Open flames under oilcloth set it alight.");
    expect(await page.getAttribute("#option-lamp-crown", "aria-pressed")).toBe("false");
    await press(page, "slot-vest", "option-waistcoat", "slot-chain", "option-watch-chain", "slot-vest");
    await page.waitForSelector("#option-nothing.blocked");
    await press(page, "option-nothing");
    expect(await page.textContent("#message.wrong")).toContain('Take "watch-chain" off first.');
    expect(errors).toEqual([]);
  });

  test("undoes and redoes, and keeps the keyboard where it was", async () => {
    const { page } = await site.visit("/creator/");
    await page.waitForSelector("body[data-ready]");
    expect(await page.isDisabled("#undo")).toBe(true);
    await page.focus("#slot-coat");
    await page.keyboard.press("Enter");
    await page.waitForSelector("#option-cape");
    await page.focus("#option-cape");
    await page.keyboard.press("Enter");
    await page.waitForSelector("#option-cape[aria-pressed=true]");
    expect(await page.evaluate(() => document.activeElement?.id)).toBe("option-cape");
    await press(page, "undo");
    await page.waitForSelector("#option-cape[aria-pressed=false]");
    await press(page, "redo");
    await page.waitForSelector("#option-cape[aria-pressed=true]");
  });

  test("turns the figure, and walks it", async () => {
    const { page } = await site.visit("/creator/");
    const shown = async (facing: string, animation: string) =>
      page.waitForSelector(`#stage[data-facing=${facing}][data-animation=${animation}]`);
    await shown("south", "idle");
    await press(page, "turn-left");
    await shown("west", "idle");
    await press(page, "turn-right", "turn-right", "animation");
    await shown("east", "walk");
    expect(await page.getAttribute("#animation", "aria-pressed")).toBe("true");
  });

  test.each([
    ["", "The ledger needs a name."],
    ["An unreasonably long name", "25 letters; 16 is the most"],
  ])("does not save under the name %j", async (name, words) => {
    const { page } = await site.visit("/creator/");
    await page.waitForSelector("body[data-ready]");
    await page.fill("#name", name);
    await page.click("text=Sign the ledger");
    expect(await page.textContent("#message.wrong")).toContain(words);
    await page.goto(`${site.url}/harbor/`);
    await page.waitForSelector("#nobody", { state: "visible" });
    expect(await page.$("#portrait")).toBeNull();
  });

  test("opens the saved character again, and a damaged save gives way to the one before", async () => {
    const { page } = await makeWren();
    await page.fill("#name", "Heron");
    await page.click("text=Sign the ledger");
    await page.waitForFunction(() => document.querySelector("#message")?.textContent?.startsWith("Heron"));
    await page.reload();
    await page.waitForSelector("body[data-ready]");
    expect(await page.inputValue("#name")).toBe("Heron");
    await page.evaluate(damageNewest);
    await page.reload();
    await page.waitForSelector("body[data-ready]");
    expect(await page.inputValue("#name")).toBe("Wren");
  });
});

describe("every page", () => {
  test.each(["/", "/creator/", "/harbor/", "/contact/"])(
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
