import { expect, test } from "@jest/globals";
import { createFromPreset } from "zealous-mantle";
import { demo } from "../demo-catalog.ts";
import { savedWith, useSite } from "./site.ts";

const site = useSite();

/** How many pixels of a canvas are not of one color: whether something was drawn on it. */
const drawnOn = (canvas: Element): number => {
  const copy = document.createElement("canvas");
  const { width, height } = canvas as HTMLCanvasElement;
  Object.assign(copy, { width, height });
  const context = copy.getContext("2d");
  context?.drawImage(canvas as HTMLCanvasElement, 0, 0);
  const { data } = context?.getImageData(0, 0, width, height) ?? { data: [] };
  let count = 0;
  for (let at = 3; at < data.length; at += 4) if ((data[at] ?? 0) > 0) count += 1;
  return count;
};

test("a courier saved in pictures is dressed on a stage in three dimensions, walks the jetty, and is drawn beside it", async () => {
  const wren = createFromPreset(demo, "first-watch", { id: "wren", name: "Wren" });
  const { page, errors } = await site.visit("/atelier/", {
    saved: await savedWith(wren),
    viewport: { width: 1000, height: 600 },
  });
  const stage = page.locator(".orbit");
  await page.waitForSelector(".orbit[data-shown]");
  const shown = () => stage.getAttribute("data-shown");
  const before = await shown();
  // The cards of a slot are pictures of this very figure, each another.
  await page.click('[data-page="slot:hat"]');
  const card = (id: string) => page.locator(`[data-card="${id}"] canvas.smooth`);
  await card("reed-cap").waitFor();
  const [storm, reed] = await Promise.all(["storm-hat", "reed-cap"].map((id) => card(id).evaluate(drawnOn)));
  expect(Math.min(storm ?? 0, reed ?? 0)).toBeGreaterThan(1500);
  expect(storm).not.toBe(reed);
  await page.click('[data-card="reed-cap"]');
  await page.waitForFunction((old) => document.querySelector<HTMLElement>(".orbit")?.dataset["shown"] !== old, before);
  // Pressed on the figure, its coat turns to the page of coats; turned and pressed beside it, nothing does.
  const box = await stage.locator("canvas").boundingBox();
  if (box === null) throw new Error("The stage has no canvas");
  await page.mouse.click(box.x + box.width / 2, box.y + box.height * 0.52);
  await page.waitForSelector("mantle-fitting[page='slot:coat']");
  await page.mouse.click(box.x + 12, box.y + 12);
  expect(await page.getAttribute("mantle-fitting", "page")).toBe("slot:coat");
  await page.click("#finish");
  await page.waitForSelector(".quay[data-ready]");
  // Both couriers stand there; the saved one has its other hat, for the scenes in pictures too.
  await page.keyboard.press("p");
  await page.waitForSelector("canvas.drawn:not([hidden])");
  const saved = JSON.stringify(await site.saved(page));
  expect(saved).toContain("reed-cap");
  await page.click("text=Back to the atelier");
  await page.waitForSelector(".orbit[data-shown]");
  expect(errors).toEqual([]);
});
