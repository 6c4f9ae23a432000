import { describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import { composeFrame, drawCrop } from "zealous-mantle";
import { dressed } from "../demo-catalog.ts";
import { isLong } from "../runs.ts";
import { expectSamePicture } from "../same-picture.ts";
import { choose, expected, hold, isShown, passUntil, pixels, scene, walkTo, xOf } from "./harbor-page.ts";
import { plugGamepadIn, pressPad } from "./players.ts";
import { savedWith, useSite, type VisitOptions } from "./site.ts";

const site = useSite();

/** What the cues and forms of the demo do is tried in Node (`core/session`, `core/forms`); that the page does it, in the long run. */
const long = isLong ? test : test.skip;

/** The harbor with the expected character in the ledger, and a clock. */
async function open(options: VisitOptions = {}, place = "jetty") {
  const saved = await savedWith(expected);
  const { page, errors } = await site.visit(`/harbor/#${place}`, { clock: true, saved, ...options });
  await scene(page, { place });
  return { page, errors };
}

const shown = (page: Page, text: string) => passUntil(page, () => isShown(page, `text=${text}`));

/** The page again, in a place of its address, once all is stored. */
async function openAt(page: Page, place: string): Promise<void> {
  await passUntil(page, () => isShown(page, "body:not(.unsaved)"));
  await page.goto(`${site.url}/harbor/#${place}`);
  await page.reload();
  await scene(page, { place });
}

/** The expected character's look and its pictures, read once. */
let wren: ReturnType<typeof dressed> | undefined;

/** Expects the figure to be the expected character, standing: every opaque pixel above the reeds. */
async function expectFigure(page: Page, facing: string): Promise<void> {
  await scene(page, { animation: "idle", facing });
  wren ??= dressed(expected);
  const { look, images } = await wren;
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

describe("the harbor", () => {
  const places = [
    ["The jetty", "jetty", undefined, undefined],
    ["The marsh at low water", "marsh", "jetty", "ArrowRight"],
    ["The post office", "post-office", "marsh", "ArrowRight"],
    ["The marsh at low water", "marsh", "post-office", "ArrowLeft"],
  ] as const;
  test.each(places.slice(isLong ? 0 : 2, isLong ? undefined : 3))(
    "shows the same figure in %s (%s, from %s), walked to and after a reload",
    async (title, place, from, key) => {
      const { page, errors } = await open({ art: true }, from ?? place);
      wren ??= dressed(expected);
      const { look, images } = await wren;
      if (key !== undefined) {
        await hold(page, [key], () => scene(page, { place }));
        // Away from the edge, where the scene cuts the figure off.
        await walkTo(page, key === "ArrowRight" ? 70 : 250);
      }
      expect(await page.textContent("#where")).toBe(title);
      await expectFigure(page, key === "ArrowRight" ? "east" : key === "ArrowLeft" ? "west" : "south");
      await page.reload();
      await scene(page, { place });
      expectSamePicture(await pixels(page, "#portrait"), drawCrop(look, images, "portrait"));
      await expectFigure(page, "south");
      expect(errors).toEqual([]);
    },
  );

  long(
    "a locker offers its costumes to the player who stands at it; the change is saved, and shows in another page at once",
    async () => {
      const { page, errors } = await open({ art: true });
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
      await walkTo(page, 118);
      await shown(page, "Open the locker");
      const portrait = async (from: Page) => [...(await pixels(from, "#portrait")).data].join();
      const shows = async (from: Page, wanted: string) => {
        await passUntil(from, async () => (await portrait(from)) === wanted);
      };
      const before = await portrait(page);
      const openLocker = async () => {
        await page.keyboard.press("Enter");
        await page.waitForSelector(".locker [data-card=storm-watch]:focus");
      };
      // Shut again, it has changed nothing.
      await openLocker();
      await page.keyboard.press("Escape");
      await page.waitForSelector(".locker", { state: "detached" });
      await page.evaluate(() => {
        const stored: boolean[] = [];
        const note = () => stored.push(!document.body.classList.contains("unsaved"));
        new MutationObserver(note).observe(document.body, { attributeFilter: ["class"] });
        Object.assign(globalThis, { stored });
      });
      await openLocker();
      expect(await page.locator(".locker [data-card]").count()).toBe(3);
      await page.keyboard.press("Enter");
      await shown(page, "Changed from head to foot.");
      await page.clock.runFor(1100);
      await openLocker();
      expect(await page.getAttribute("[data-card=storm-watch]", "aria-selected")).toBe("true");
      await page.click("[data-card=storm-watch]");
      await shown(page, "The oilskin is already worn.");
      await passUntil(page, async () => (await portrait(page)) !== before);
      const after = await portrait(page);
      await shows(other, after);
      await passUntil(page, () => isShown(page, "body:not(.unsaved)"));
      const stored: readonly boolean[] = await page.evaluate(() => Reflect.get(globalThis, "stored"));
      expect([stored[0], stored.at(-1)]).toEqual([false, true]);
      await page.reload();
      await shows(page, after);
      expect(errors).toEqual([]);
    },
  );

  long("water makes one wade, walking makes one weary, rest and dry ground help; night has its own look", async () => {
    const { page } = await open();
    await page.keyboard.down("ArrowRight");
    await scene(page, { place: "marsh" });
    await passUntil(page, async () => (await xOf(page)) > 90);
    await hold(page, ["ArrowDown"], () => scene(page, { form: "wading" }));
    await page.keyboard.down("ArrowUp");
    await page.keyboard.up("ArrowRight");
    await passUntil(page, async () => (await page.getAttribute("#scene", "data-form")) !== "wading");
    await scene(page, { form: "weary" });
    await page.keyboard.up("ArrowUp");
    await scene(page, { form: "" });
    await page.keyboard.press("n");
    await scene(page, { form: "lamplit" });
    await page.keyboard.press("n");
    await scene(page, { form: "" });
  });

  test("the wardrobe opens anywhere: given up it changes nothing, done it changes every place", async () => {
    const { page } = await open();
    const neck = () =>
      page.evaluate(() => document.querySelector("mantle-fitting")?.fitting?.character.loadout["neck"]);
    await page.keyboard.press("e");
    await choose(page, "slot:neck", "scarf");
    expect(await neck()).toBe("scarf");
    await page.keyboard.press("Escape");
    await page.click("#give-up");
    await page.waitForSelector("mantle-fitting", { state: "detached" });
    await page.keyboard.press("e");
    expect(await neck()).toBe("hood-up");
    // The screen has the input: nobody walks while it is open.
    await hold(page, ["ArrowRight"], () => page.clock.runFor(300));
    expect(await page.getAttribute("#scene", "data-x")).toBe("160");
    await choose(page, "slot:neck", "scarf");
    await page.click("#finish");
    await page.waitForSelector("mantle-fitting", { state: "detached" });
    await hold(page, ["ArrowRight"], () => scene(page, { place: "marsh" }));
    await page.keyboard.press("e");
    expect(await neck()).toBe("scarf");
  });

  long("what is found is carried, put on from the bag, and used: a whistle in the marsh calls the ferry", async () => {
    const { page, errors } = await open();
    await openAt(page, "marsh");
    await walkTo(page, 254);
    await page.click("#act");
    await shown(page, "It is in the bag.");
    await passUntil(page, () => page.isHidden("#act"));
    await openAt(page, "post-office");
    await shown(page, "Letters for the islands.");
    await walkTo(page, 240);
    await page.keyboard.press("Enter");
    await shown(page, "It takes a whistle in the hand.");
    await page.keyboard.press("i");
    await page.click(".tile[data-part=whistle]");
    await page.click("#finish");
    await page.waitForSelector("mantle-equipment", { state: "detached" });
    await page.keyboard.press("Enter");
    await shown(page, "The ferry answers");
    await page.keyboard.press("e");
    const fitting = await page.evaluate(() => document.querySelector("mantle-fitting")?.fitting?.character);
    expect(fitting?.loadout).toMatchObject({ vest: "cork-vest", trousers: "waders" });
    expect(fitting?.bag).toMatchObject({ letters: [1], whistle: [1] });
    await openAt(page, "post-office");
    expect(await page.textContent("#said")).toBe("");
    expect(errors).toEqual([]);
  });

  long(
    "control passes to who works at the post office and back; each stays where they stand, and seat 1 is the player",
    async () => {
      const { page } = await open();
      // Time stands still but for the seconds it is let run, so that nobody is late for the first seconds after arrival.
      await page.clock.pauseAt((await page.evaluate(() => Date.now())) + 10_000);
      const pass = (seconds: number) => page.clock.runFor(seconds * 1000);
      const arrive = async () => {
        await passUntil(page, () => isShown(page, "body:not(.unsaved)"));
        await page.goto(`${site.url}/harbor/#post-office`);
        await page.reload();
        await passUntil(page, () => isShown(page, "#scene[data-place=post-office]"), "runFor");
        await page.keyboard.down("ArrowRight");
        await pass(0.85);
        await page.keyboard.up("ArrowRight");
        // Until the pictures of who stands there have come.
        for (let tries = 0; tries < 200 && (await page.isHidden("#act")); tries += 1) {
          await page.evaluate(async () => (await fetch(location.href)).text());
          await pass(0.005);
        }
      };
      await arrive();
      await page.keyboard.press("Enter");
      await page.waitForSelector("text=Still busy with the mail.");
      await pass(2.1);
      await page.keyboard.press("Enter");
      await pass(0.05);
      await scene(page, { who: "lamp-child", x: "176" });
      await page.waitForSelector("#act >> text=Be Wren");
      expect(await page.textContent("#who")).not.toBe("Wren");
      await arrive();
      await scene(page, { who: "lamp-child" });
      await pass(2.1);
      await page.keyboard.press("Enter");
      await page.waitForFunction(() => document.querySelector("#who")?.textContent === "Wren");
    },
  );

  long("a tap walks there, and so does a gamepad", async () => {
    const { page } = await open({ script: plugGamepadIn });
    await walkTo(page, 240);
    const lean = (across: number) =>
      page.evaluate((value) => {
        (globalThis as unknown as { pad: { axes: number[] } }).pad.axes[0] = value;
      }, across);
    await lean(-1);
    await passUntil(page, async () => (await xOf(page)) < 200);
    await lean(0);
    await walkTo(page, 116);
    await pressPad(page, 0);
    await page.waitForSelector(".locker [data-card=storm-watch]:focus");
    await pressPad(page, 0);
    await shown(page, "Changed from head to foot.");
  });
});
