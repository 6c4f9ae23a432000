import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";

import { decodePng, enlargeImage } from "zealous-mantle/raster";
import { mantle } from "../run-mantle.ts";
import { expectSamePicture } from "../same-picture.ts";
import { overflowOn } from "./overflow.ts";
import { useSite } from "./site.ts";

const site = useSite();
let folder = "";
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-page-"));
  await mantle("new", join(folder, "keepers"));
  await mantle("survey", join(folder, "keepers"), "--out", join(folder, "out"));
});
afterAll(() => rm(folder, { recursive: true }));

const shown = (page: Page) => page.locator("#pairs .figure:visible").count();

test("the page of a survey is read without a network: it finds, zooms, and says of each picture how it is drawn", async () => {
  const { page, errors } = await site.open(pathToFileURL(join(folder, "out/survey.html")).href);
  const all = await shown(page);
  expect(all).toBeGreaterThan(1);
  await page.getByLabel("Find").fill("HOOD cloak");
  expect(await shown(page)).toBe(1);
  await page.getByLabel("Find").fill("no such thing");
  expect([await shown(page), await page.locator("#pairs .none").isVisible()]).toEqual([0, true]);
  await page.getByLabel("Find").fill("");
  expect(await shown(page)).toBe(all);

  const picture = page.locator("#pairs .figure button").first();
  const before = await picture.boundingBox();
  await page.getByLabel("Zoom").fill("4");
  expect((await picture.boundingBox())?.width).toBe(2 * (before?.width ?? 0));

  await picture.click();
  const command = (await page.locator("footer code").textContent()) ?? "";
  expect((await mantle(...command.split(" ").slice(1))).stdout).toContain("Written:");
  const drawn = decodePng(await readFile(command.split(" ").at(-1) ?? ""));
  const source = (await picture.locator("img").getAttribute("src")) ?? "";
  expectSamePicture(drawn, enlargeImage(decodePng(Buffer.from(source.split(",")[1] ?? "", "base64")), 4));

  // The map: the first cell is of the first two parts of different slots.
  const cell = await page.locator("#map").boundingBox();
  await page.mouse.click((cell?.x ?? 0) + 112 + 4, (cell?.y ?? 0) + 4 + 2 * 9 + 4);
  expect(await page.locator("output").textContent()).toMatch(
    /^\w.* \(.*\) and .* \(.*\) are (seen on Figure|never together)/,
  );
  expect(errors).toEqual([]);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await overflowOn(page)).toEqual({ cut: [], sideways: 0 });
});
