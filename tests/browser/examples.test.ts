import { readFile } from "node:fs/promises";
import { buffer } from "node:stream/consumers";
import { describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { decodePng } from "zealous-mantle/raster";
import { demo } from "../demo-catalog.ts";
import { writeDrawing } from "../layered-drawing.ts";
import { isLong } from "../runs.ts";
import { expected, makeWren } from "./harbor-page.ts";
import { savedWith, useSite } from "./site.ts";

const long = isLong ? test : test.skip;

const site = useSite();

describe("the creator", () => {
  test("dresses a character that is the library's own, and saves it across scenes and reloads", async () => {
    const made = await makeWren(site);
    await made.page.click("text=Go to the harbor");
    await made.page.waitForSelector("#scene[data-place=jetty]");
    expect(made.errors).toEqual([]);
    // That its pixels are those of the library is tried in the harbor.
    expect(await made.page.textContent("#who")).toBe("Wren");
  });

  test("opens the saved character again, a damaged save gives way to the one before, and a roll loads the search", async () => {
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

    // The search is loaded when a roll needs it first: it may fail to come, and come late.
    const asked: string[] = [];
    let answer = () => {};
    const answered = new Promise<void>((done) => {
      answer = done;
    });
    await page.route("**/solver-*.js", async (route) => {
      asked.push(route.request().url());
      if (asked.length === 1) return route.abort();
      await answered;
      return route.continue();
    });
    expect(asked).toEqual([]);
    const loadout = () =>
      page.evaluate(() => JSON.stringify(document.querySelector("mantle-fitting")?.fitting?.character.loadout));
    const before = await loadout();
    await page.click("#roll");
    await page.waitForSelector("text=This could not be loaded. Try again.");
    expect(await loadout()).toBe(before);
    await page.click("#roll");
    await page.waitForSelector(".waiting:text('Searching…')");
    answer();
    await page.waitForSelector(".waiting:text-is('')", { state: "attached" });
    expect(await loadout()).not.toBe(before);
  });

  test("nobody stands in the harbor before somebody is in the ledger", async () => {
    const { page } = await site.visit("/harbor/");
    await page.waitForSelector("#nobody", { state: "visible" });
    expect(await page.isVisible("#portrait")).toBe(false);
  });
});

describe("the chandlery", () => {
  test("sells what is tried on: the price is asked for, nothing is lost by it, and no undo pays it back", async () => {
    const { page, errors } = await site.visit("/chandlery/");
    const card = (id: string) => page.click(`[data-card="${id}"]`);
    const state = () =>
      page.evaluate(() => {
        const { character, canUndo } = document.querySelector("mantle-fitting")?.fitting ?? {};
        const { loadout, bag } = character ?? {};
        return { hat: loadout?.["hat"], bag: Object.keys(bag ?? {}).sort(), canUndo };
      });
    const purse = () => page.textContent("#purse");
    const notice = async () => (await page.textContent("mantle-fitting .notice"))?.trim();
    await page.waitForSelector("body[data-ready]");
    const before = await state();
    expect([before.hat, before.canUndo, await purse()]).toEqual(["reed-cap", false, "60 shells in the purse"]);
    await card("storm-hat");
    expect(await page.textContent("#price")).toBe("It costs 30 shells. You keep 30.");
    await page.click("#no");
    expect([(await state()).hat, await purse()]).toEqual(["reed-cap", "60 shells in the purse"]);
    expect(await notice()).toMatch(/Storm hat is not owned/);
    await card("storm-hat");
    await page.click("#buy");
    await page.waitForSelector("text=30 shells in the purse");
    expect((await state()).hat).toBe("storm-hat");
    expect(await notice()).toBe("");

    // The hat comes off again, and stays with the one who paid for it.
    await page.click("#undo");
    expect(await state()).toEqual({
      hat: "reed-cap",
      bag: [...before.bag, "storm-hat"].sort(),
      canUndo: before.canUndo,
    });
    await card("storm-hat");
    expect((await state()).hat).toBe("storm-hat");
    expect(await purse()).toBe("30 shells in the purse");

    await card("pilot-cap");
    expect([await page.textContent("#price"), await page.isVisible("#buy")]).toEqual([
      expect.stringMatching(/costs 45.*30/),
      false,
    ]);
    // What can be bought is in full color.
    expect(await page.getAttribute("[data-card=pilot-cap]", "class")).toBe("for-sale");
    await page.click("#no");

    // Of an outfit all is asked for that is not owned.
    await page.click("[data-page='outfits']");
    const note = page.locator("[data-card=rest-day] .note");
    expect(await note.textContent()).toMatch(/^locked, \d+$/);
    await card("rest-day");
    const wanted = await page.textContent("#what");
    expect(wanted?.split(", ").length).toBeGreaterThan(1);
    await page.click("#no");

    await page.click("#finish");
    await page.waitForSelector("#scene[data-place=jetty]");
    await page.goBack();
    await page.waitForSelector("body[data-ready]");
    expect([(await state()).hat, await purse()]).toEqual(["storm-hat", "30 shells in the purse"]);
    expect(errors).toEqual([]);
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

describe("the import page", () => {
  test("shows a sheet worn and in motion, says what is wrong when the grid is dragged, and gives the part", async () => {
    const { page, errors } = await site.visit("/import/", { art: true });
    await page.waitForSelector("body[data-ready='0']");
    const problems = () => page.$$eval("#problems li", (items) => items.map(({ textContent }) => textContent));
    const worn = () => page.$eval("#stage", (stage) => Reflect.get(stage, "name"));
    await page.click("#sample");
    await page.waitForSelector("body[data-ready='1']");
    expect([await worn(), await problems()]).toEqual(["Marsh Breeches", []]);
    expect(await page.locator("#sheet canvas").count()).toBe(3);

    // The corner of the first cell, dragged a cell to the right.
    const box = await page.locator("#handle").boundingBox();
    if (box === null) throw new Error("There is no handle");
    await page.mouse.move(box.x + 12, box.y + 12);
    await page.mouse.down();
    await page.mouse.move(box.x + 12 + 32, box.y + 12, { steps: 4 });
    await page.mouse.up();
    await page.waitForSelector("body[data-ready='0']");
    expect(await page.inputValue("#width")).toBe("96");
    expect(await problems()).toEqual([expect.stringMatching(/Marsh Breeches\.png: The picture is 512×1440 pixels/)]);
    await page.fill("#width", "64");
    await page.locator("#width").blur();
    await page.waitForSelector("body[data-ready='1']");

    await page.fill("#names input", "Tide Breeches!");
    await page.locator("#names input").blur();
    await page.waitForFunction(() => Reflect.get(document.querySelector("#stage") ?? {}, "name") === "Tide Breeches!");
    const [download] = await Promise.all([page.waitForEvent("download"), page.click("#save")]);
    const files = unzipSync(await buffer(await download.createReadStream()));
    expect(Object.keys(files)).toEqual([
      "art/trousers/tide-breeches.png",
      "art/trousers/tide-breeches.frames.json",
      "parts/imported.json",
    ]);
    expect(JSON.parse(Buffer.from(files["parts/imported.json"] ?? []).toString())).toMatchObject({
      parts: { "tide-breeches": { title: "Tide Breeches!", slot: "trousers" } },
    });
    expect(errors).toEqual([]);
  });

  test("reads a drawing that is dropped, and says why it cannot read another file", async () => {
    const { page } = await site.visit("/import/", { art: true });
    await page.waitForSelector("body[data-ready='0']");
    const cap = decodePng(await readFile("demo/saltmarsh/art/reed/storm-hat.png"));
    const drawing = await writeDrawing({
      width: 64,
      height: 240,
      layers: [{ name: "Hat", layers: [{ name: "Rain cap", image: cap }] }],
    });
    await page.setInputFiles("#file", { name: "hats.ora", mimeType: "image/openraster", buffer: drawing });
    await page.waitForSelector("body[data-ready='1']");
    expect(await page.inputValue("#names input")).toBe("Rain cap");
    await page.setInputFiles("#file", { name: "note.png", mimeType: "image/png", buffer: Buffer.from("a note") });
    await page.waitForSelector("#problems li");
    expect(await page.textContent("#problems")).toMatch(/note\.png: .*PNG/);
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

describe("examples in engines", () => {
  long("on the market two hundred walk, and another coat of one's own is on the square at once", async () => {
    const { page, errors } = await site.visit("/market/", { viewport: { width: 480, height: 400 } });
    await page.waitForSelector("body[data-ready][data-here='200']");
    const worn = () => page.evaluate(() => Reflect.get(window, "market").player.look.key as string);
    const before = await worn();
    await page.keyboard.press("e");
    await page.click('[data-page="slot:coat"]');
    await page.click('[data-card="festival-coat"]');
    await page.click("mantle-fitting #finish");
    await page.waitForSelector("mantle-fitting", { state: "detached" });
    await page.waitForFunction((old) => Reflect.get(window, "market").player.look.key !== old, before);
    expect(errors).toEqual([]);
  });

  long("on the flats whoever falls into the water wades, and comes out of it again", async () => {
    const { page, errors } = await site.visit("/flats/", { viewport: { width: 640, height: 400 } });
    await page.waitForSelector("body[data-ready]");
    await page.keyboard.down("ArrowRight");
    await page.waitForSelector("body[data-wet=true][data-form=wading][data-animation=walk]");
    await page.keyboard.down("ArrowUp");
    await page.waitForSelector("body[data-wet=false]:not([data-form=wading])");
    await page.keyboard.up("ArrowUp");
    await page.keyboard.up("ArrowRight");
    await page.waitForSelector("body[data-animation=idle]");
    expect(errors).toEqual([]);
  });

  long("in the diorama one walks around whoever is there, and a press says what they wear", async () => {
    const { page, errors } = await site.visit("/diorama/", { art: true, viewport: { width: 480, height: 400 } });
    await page.waitForSelector("body[data-ready][data-here='9']");
    const facing = () => page.evaluate(() => Reflect.get(window, "diorama").first.facing as string);
    expect(await facing()).toBe("south");
    await page.focus("#scene");
    for (let times = 0; times < 14; times += 1) await page.keyboard.press("ArrowLeft");
    await page.waitForFunction(() => Reflect.get(window, "diorama").first.facing !== "south");
    const at = await page.evaluate(() => Reflect.get(window, "diorama").placeOf() as { x: number; y: number });
    await page.mouse.click(at.x, at.y);
    expect(await page.textContent("#said")).toMatch(/^(?!Drag).+\. .+\.$/);
    expect(errors).toEqual([]);
  });
});
