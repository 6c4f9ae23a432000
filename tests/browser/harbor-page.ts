import type { Page } from "playwright-core";
import {
  type Answer,
  type Character,
  createFromPreset,
  type Edit,
  type Image,
  openFitting,
  openSteps,
} from "zealous-mantle";
import { createImage } from "zealous-mantle/raster";
import { demo } from "../demo-catalog.ts";
import type { Site } from "./site.ts";

/** What the tests answer and then press in the creator, and the same for the library. */
const answers: readonly Answer[] = ["reed", "reed", "braid", "silver", "sand", null, "none"];
const choices: readonly (readonly [page: string, card: string, edit: Edit])[] = [
  ["build", "oak", { body: "oak" }],
  ["outfits", "storm-watch", { dress: "storm-watch" }],
  ["slot:neck", "hood-up", { wear: "hood-up", in: "neck" }],
];
export const expected: Character = expectedCharacter();

function expectedCharacter(): Character {
  const steps = openSteps(demo, createFromPreset(demo, "first-watch", { name: "" }));
  for (const answer of [...answers, "Wren"]) {
    steps.answer(answer);
    steps.next();
    if (steps.confirming) steps.next();
  }
  const fitting = openFitting(demo, steps.finish());
  for (const [, , edit] of choices) fitting.apply(edit);
  return fitting.finish();
}

/** Chooses a card on a page of the wardrobe. */
export async function choose(page: Page, leaf: string, card: string): Promise<void> {
  await page.click(`[data-page="${leaf}"]`);
  await page.click(`[data-card="${card}"]`);
}

/** Makes the expected character in the creator, as a player does. */
export async function makeWren(site: Site): Promise<Awaited<ReturnType<Site["visit"]>>> {
  const visit = await site.visit("/creator/");
  const { page } = visit;
  const press = (selector: string) => page.locator(selector).dispatchEvent("click");
  for (const answer of answers) {
    await press(`[data-card="${answer ?? "nothing"}"]`);
    await press("#next");
  }
  await press("#next");
  await page.fill("#name", "  Wren ");
  await page.click("#next");
  await page.click("#finish");
  for (const [leaf, card] of choices) await choose(page, leaf, card);
  await page.click("#finish");
  await page.waitForSelector("text=Wren is in the ledger.");
  return visit;
}

/** The pixels of a canvas, or of the part where the harbor's figure stands. */
export async function pixels(page: Page, selector: string, figure = false): Promise<Image> {
  const { width, height, data } = await page.$eval(
    selector,
    (element, around) => {
      const canvas = element as HTMLCanvasElement;
      const box = around
        ? [Number(canvas.dataset["x"]) - 32, Number(canvas.dataset["y"]) - 76, 64, 80]
        : [0, 0, canvas.width, canvas.height];
      const [x = 0, y = 0, w = 0, h = 0] = box;
      const bytes = canvas.getContext("2d")?.getImageData(x, y, w, h).data ?? new Uint8ClampedArray();
      // As text, since a list of thousands of numbers takes a second to come over.
      let text = "";
      for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
      return { width: w, height: h, data: btoa(text) };
    },
    figure,
  );
  const image = createImage(width, height);
  image.data.set(Buffer.from(data, "base64"));
  return image;
}

/** Lets the time of a page that has a clock pass, until something is so: a picture each quarter of a second, or every one of them. */
export async function passUntil(
  page: Page,
  isSo: () => Promise<boolean>,
  pass: "fastForward" | "runFor" = "fastForward",
): Promise<void> {
  const step = pass === "fastForward" ? 250 : 100;
  for (let passed = 0; passed < 120_000; passed += step) {
    if (await isSo()) return;
    await page.clock[pass](step);
  }
  throw new Error("Two minutes passed in the page, and it did not come to that");
}

/** Whether something is on the page and seen. */
export async function isShown(page: Page, selector: string): Promise<boolean> {
  return page.locator(selector).first().isVisible();
}

/** Lets time pass until the scene of the harbor says so: its place, the form of the figure, or who it is. */
export function scene(page: Page, wanted: Readonly<Record<string, string>>): Promise<void> {
  const said = Object.entries(wanted).map(([name, value]) => `[data-${name}="${value}"]`);
  return passUntil(page, async () => (await page.locator(`#scene${said.join("")}`).count()) > 0);
}

/** Holds keys down until something is so. */
export async function hold(page: Page, keys: readonly string[], until: () => Promise<unknown>): Promise<void> {
  for (const key of keys) await page.keyboard.down(key);
  await until();
  for (const key of keys) await page.keyboard.up(key);
}

/** Where the figure stands across the scene. */
export async function xOf(page: Page): Promise<number> {
  return Number(await page.getAttribute("#scene", "data-x"));
}

/** Walks to an x of the scene: a tap goes there and no further. */
export async function walkTo(page: Page, x: number): Promise<void> {
  const box = await page.locator("#scene").boundingBox();
  if (box === null) throw new Error("The scene is not on the page");
  const scale = box.width / 320;
  const y = Number(await page.getAttribute("#scene", "data-y"));
  await page.mouse.click(box.x + x * scale, box.y + y * scale);
  // Whoever took steps of a tenth of a second would step over it.
  await passUntil(page, async () => Math.abs((await xOf(page)) - x) <= 4, "runFor");
  await passUntil(page, () => isShown(page, "#scene[data-animation=idle]"), "runFor");
}
