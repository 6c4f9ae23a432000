import { describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import { isShown, passUntil } from "./harbor-page.ts";
import { plugGamepadIn, pressPad } from "./players.ts";
import { useSite } from "./site.ts";

const site = useSite();

/** Seconds enough for all that is pressed before it starts, on a slow machine too. */
const long = 900;

/** The screen of seats with five ready-made characters, alone on a page. */
async function openSeats() {
  const visit = await site.run("elements", plugGamepadIn);
  await visit.page.evaluate((pause) => Reflect.get(globalThis, "openAlone")("seats", pause), long);
  await visit.page.waitForSelector("[data-card=new-boots]");
  return visit;
}
/** Lets the seconds pass that are waited for once all are ready. */
const startNow = (page: Page) => page.evaluate((seconds) => Reflect.get(globalThis, "letPass")(seconds), long);
/** What the screen emitted: the event, and the character it is about. */
const emitted = (page: Page): Promise<readonly (readonly [string, string])[]> =>
  page.evaluate(() => Reflect.get(globalThis, "emitted"));

/** The ferry as players meet it, with a clock. */
async function openFerry() {
  const { page, errors } = await site.visit("/ferry/", { script: plugGamepadIn, clock: true });
  await page.waitForSelector("[data-card=new-boots]");
  return { page, errors };
}
const press = async (page: Page, ...keys: readonly string[]) => {
  for (const key of keys) await page.keyboard.press(key);
};
const [act, back, right] = [0, 1, 15];
/** Whose cursor is on a card, and whether they picked it. */
const marks = (page: Page) =>
  page.$$eval("[data-card]", (cards) =>
    Object.fromEntries(
      cards.flatMap((card) =>
        [...card.querySelectorAll("b")].map((mark) => [mark.textContent, (card as HTMLElement).dataset["card"]]),
      ),
    ),
  );
const states = (page: Page) =>
  page.$$eval(".seat", (seats) => seats.map((seat) => (seat as HTMLElement).dataset["state"] ?? "empty"));
/** Who is where in the boat, by seat: the character, and the place across the boat. */
const crew = (page: Page): Promise<Record<string, readonly [who: string, place: string]>> =>
  page.$$eval(".tag", (tags) =>
    Object.fromEntries(
      tags.map((tag) => [
        (tag as HTMLElement).dataset["seat"],
        [(tag as HTMLElement).dataset["who"], (tag as HTMLElement).style.left],
      ]),
    ),
  );
/** How far the boat has gone. */
const passed = async (page: Page) => Number(await page.getAttribute("#scene", "data-passed"));
const afloat = (page: Page) => passUntil(page, () => isShown(page, "#boat"));
const rowers = (page: Page, count: number) =>
  passUntil(page, async () => (await page.getAttribute("#scene", "data-rowers")) === String(count));

describe("the seats", () => {
  test("is joined by pressing, at one keyboard and a gamepad; what one has no other gets; it starts once", async () => {
    const { page, errors } = await openSeats();
    await press(page, "Enter", "e");
    await pressPad(page, act);
    expect(await marks(page)).toEqual({ "1": "first-watch", "2": "first-watch", "3": "first-watch" });
    await press(page, "d", "ArrowLeft", "ArrowLeft");
    await pressPad(page, right);
    expect(await marks(page)).toEqual({ "1": "lamp-child", "2": "old-hand", "3": "old-hand" });
    await press(page, "e", "e", "e", "e", "e");
    expect(await states(page)).toEqual(["is-choosing", "is-ready", "is-choosing", "empty"]);
    expect(await marks(page)).toEqual({ "1": "lamp-child", "2 ✓": "old-hand", "3": "lamp-child" });
    await press(page, "q", "e");
    await press(page, "Enter", "Enter", "Enter", "Enter", "Enter");
    for (let times = 0; times < 5; times += 1) await pressPad(page, act);
    expect(await marks(page)).toEqual({ "1 ✓": "lamp-child", "2 ✓": "old-hand", "3 ✓": "new-boots" });
    expect(await page.textContent(".clock")).toMatch(/^Off in \d+$/);
    await press(page, "Enter", "Enter");
    await startNow(page);
    await page.waitForFunction(() => Reflect.get(globalThis, "emitted").length > 0);
    const seated = await page.evaluate(() => {
      const { session } = document.querySelector("mantle-seats") ?? {};
      return [1, 2, 3, 4].map((seat) => session?.seat(seat).character?.id ?? null);
    });
    expect(seated).toEqual(["lamp-child", "old-hand", "new-boots", null]);
    await press(page, "Enter", "e");
    expect(await emitted(page)).toEqual([["mantle-start", ""]]);
    expect(errors).toEqual([]);
  });

  test("goes when oars are pulled, faster together; the oar passes to and fro, and each figure stays at its bench", async () => {
    const { page, errors } = await openFerry();
    await press(page, "Enter", "e", "ArrowRight", "Enter", "e");
    await afloat(page);
    await rowers(page, 2);
    // No time passes between the two, however slow the machine is.
    await page.clock.pauseAt((await page.evaluate(() => Date.now())) + 1000);
    await press(page, "Enter", "e");
    await page.waitForSelector("text=All together.");
    await page.clock.resume();
    await passUntil(page, async () => (await passed(page)) > 10);
    const before = await crew(page);
    expect(before["1"]?.[0]).toBe("old-hand");
    await press(page, "ArrowRight");
    const exchanged = await crew(page);
    expect(exchanged).toEqual({ "1": before["2"], "2": before["1"] });
    await press(page, "ArrowRight");
    await page.waitForSelector("text=Nobody stands there.");
    await press(page, "d");
    expect(await crew(page)).toEqual(before);
    await press(page, "a");
    expect(await crew(page)).toEqual(before);
    // Somebody comes late, and somebody goes; the seat of the one who stays is as it was.
    await pressPad(page, act);
    await rowers(page, 3);
    expect((await crew(page))["3"]?.[0]).toBe("lamp-child");
    await pressPad(page, back);
    await rowers(page, 2);
    expect(await crew(page)).toEqual(before);
    await press(page, "q", "Backspace");
    await page.waitForSelector("mantle-seats");
    expect(await states(page)).toEqual(["empty", "empty", "empty", "empty"]);
    expect(errors).toEqual([]);
  });

  test("those of one look are told apart by themselves as soon as they are picked", async () => {
    const { page } = await openSeats();
    await page.evaluate(() => document.querySelector("mantle-seats")?.session?.duplicate("first-watch"));
    await page.waitForSelector("[data-card=first-watch-2]");
    await press(page, "Enter", "Enter", "e");
    await press(page, "a");
    expect(await marks(page)).toEqual({ "1 ✓": "first-watch", "2": "first-watch-2" });
    await press(page, "e");
    const looks = await page.evaluate(() => {
      const { session } = document.querySelector("mantle-seats") ?? {};
      return [1, 2].map((seat) => session?.seat(seat).look?.key);
    });
    expect(new Set(looks).size).toBe(2);
    expect(looks).not.toContain(undefined);
  });

  test("is joined by clicking too; whoever leaves the screen finds everyone where they sat", async () => {
    const { page } = await openSeats();
    await page.click("[data-card=lamp-child]");
    expect(await marks(page)).toEqual({ "1": "lamp-child" });
    await page.click("[data-card=lamp-child]");
    expect(await states(page)).toEqual(["is-ready", "empty", "empty", "empty"]);
    await page.click("text=Take back");
    await page.click("text=Leave");
    expect(await states(page)).toEqual(["empty", "empty", "empty", "empty"]);
    await page.click("text=Join here >> nth=0");
    await page.click(".seat .main");
    await page.keyboard.press("Escape");
    expect(await emitted(page)).toEqual([["mantle-close", ""]]);
    const seated = await page.evaluate(() => document.querySelector("mantle-seats")?.session?.seat(1).character);
    expect(seated ?? null).toBeNull();
  });

  test("is rowed by pointing too", async () => {
    const { page } = await openFerry();
    await page.click("[data-card=new-boots]");
    await page.click("[data-card=new-boots]");
    await afloat(page);
    await page.click("[data-action=act]");
    await passUntil(page, async () => (await passed(page)) > 2);
    await page.click("[data-action=back]");
    await page.waitForSelector("mantle-seats");
  });
});
