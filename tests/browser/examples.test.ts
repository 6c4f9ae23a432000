import { describe, expect, test } from "@jest/globals";
import { drawCrop } from "zealous-mantle";
import { demo, dressed } from "../demo-catalog.ts";
import { expectSamePicture } from "../same-picture.ts";
import { expected, makeWren, pixels } from "./harbor-page.ts";
import { savedWith, useSite } from "./site.ts";

const site = useSite();

describe("the creator", () => {
  test("dresses a character that is the library's own, and saves it across scenes and reloads", async () => {
    const made = await makeWren(site);
    await made.page.click("text=Go to the harbor");
    await made.page.waitForSelector("#scene[data-place=jetty]");
    expect(made.errors).toEqual([]);
    // Once more from what is stored, with all its pictures.
    const { page, errors } = await site.visit("/harbor/", { art: true, saved: await site.saved(made.page) });
    const { look, images } = await dressed(expected);
    const portrait = drawCrop(look, images, "portrait");
    await page.waitForSelector("#scene[data-place=jetty]");
    expect(await page.textContent("#who")).toBe("Wren");
    expectSamePicture(await pixels(page, "#portrait"), portrait);
    expect(errors).toEqual([]);
  });

  test("opens the saved character again, and a damaged save gives way to the one before", async () => {
    const { page } = await site.visit("/creator/", { saved: await savedWith(expected) });
    const nameIs = (name: string) =>
      page.waitForFunction(
        (wanted) => document.querySelector("mantle-fitting")?.fitting?.character.name === wanted,
        name,
      );
    await page.fill("#name", "Heron");
    await page.click("#finish");
    await page.waitForSelector("text=Heron is in the ledger.");
    await page.reload();
    await nameIs("Heron");
    await page.evaluate(damageNewest);
    await page.reload();
    await nameIs("Wren");
  });

  test("nobody stands in the harbor before somebody is in the ledger", async () => {
    const { page } = await site.visit("/harbor/");
    await page.waitForSelector("#nobody", { state: "visible" });
    expect(await page.isVisible("#portrait")).toBe(false);
  });
});

describe("the contact sheet", () => {
  test("draws every part that has a picture", async () => {
    const { page } = await site.visit("/contact/");
    await page.waitForSelector("body[data-ready=reed]");
    const titles = await page.$$eval("figcaption", (captions) => captions.map(({ textContent }) => textContent));
    const places = [...demo.slots.values()].flatMap(({ parts }) => parts).filter(({ layers }) => layers.length > 0);
    expect(titles).toHaveLength(places.length);
  });
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
        const [newest, ...before] = cursor.value as { revision: number; text: string }[];
        cursor.update([{ ...newest, text: newest?.text.replace("Heron", "Herring") }, ...before]);
      }
      cursor.continue();
    };
  });
  database.close();
}
