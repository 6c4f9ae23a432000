import { describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import { focused, plugGamepadIn, pressPad } from "./players.ts";
import { frames, useSite } from "./site.ts";

const site = useSite();

/** The roster of four ready-made characters, alone on a page. */
async function open() {
  const visit = await site.run("elements", plugGamepadIn);
  await visit.page.evaluate(() => Reflect.get(globalThis, "openAlone")("roster"));
  await visit.page.waitForSelector("[data-card=new-boots]");
  return visit;
}
/** What the screens emitted: the event, and the character it is about. */
const emitted = (page: Page): Promise<readonly (readonly [string, string])[]> =>
  page.evaluate(() => Reflect.get(globalThis, "emitted"));
const cards = (page: Page) =>
  page.$$eval("[data-card]", (all) => all.map((card) => card.querySelector(".words > span")?.textContent ?? undefined));
const highlighted = (page: Page) => page.getAttribute("[aria-selected=true]", "data-card");
const shown = (page: Page) => page.getAttribute("mantle-stage", "data-shown");

/** Waits until something is so. */
async function expectLater(page: Page, isSo: () => Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 500 && !(await isSo()); tries += 1) await frames(page, 1);
  expect(await isSo()).toBe(true);
}

describe("the roster", () => {
  test("is walked around by keys, shows whom it highlights, and is confirmed once however often it is pressed", async () => {
    const { page, errors } = await open();
    for (let tabs = 0; tabs < 20 && (await focused(page)) !== "first-watch"; tabs += 1)
      await page.keyboard.press("Tab");
    expect(await focused(page)).toBe("first-watch");
    await page.keyboard.press("ArrowLeft");
    expect(await highlighted(page)).toBe("new-boots");
    await page.keyboard.press("ArrowRight");
    await page.waitForSelector("mantle-stage[data-shown]");
    const first = await shown(page);
    await page.keyboard.press("ArrowRight");
    await expectLater(page, async () => (await shown(page)) !== first);
    // Pressed five times before anything can be taken off the page.
    await page.evaluate(() => {
      const screen = document.querySelector("mantle-roster");
      const button = screen?.shadowRoot?.querySelector<HTMLButtonElement>("#finish");
      for (let times = 0; times < 5; times += 1) button?.click();
    });
    expect(await emitted(page)).toEqual([["mantle-finish", "old-hand"]]);
    expect(errors).toEqual([]);
  });

  test("gives a seat whoever sits where no player does", async () => {
    const { page } = await open();
    await page.evaluate(() => {
      const screen = document.querySelector("mantle-roster");
      screen?.session?.seat(2).take("new-boots");
      screen?.requestUpdate();
    });
    await page.waitForSelector("[data-card=new-boots] >> text=seat 2");
    await page.click("[data-card=new-boots]");
    await page.click("#finish");
    expect(await emitted(page)).toEqual([["mantle-finish", "new-boots"]]);
    const seated = await page.evaluate(() => document.querySelector("mantle-roster")?.session?.seat(1).character?.id);
    expect(seated).toBe("new-boots");
  });

  test("highlights at the first click and chooses at the second; the finish is emitted once", async () => {
    const { page } = await open();
    await page.click("[data-card=lamp-child]");
    expect(await highlighted(page)).toBe("lamp-child");
    await page.evaluate(() => {
      const card = document
        .querySelector("mantle-roster")
        ?.shadowRoot?.querySelector("mantle-cards")
        ?.shadowRoot?.querySelector<HTMLElement>("[data-card=lamp-child]");
      for (let times = 0; times < 5; times += 1) card?.click();
    });
    expect(await emitted(page)).toEqual([["mantle-finish", "lamp-child"]]);
  });

  test("whom another player has cannot be chosen, however often the card is pressed", async () => {
    const { page, errors } = await open();
    await page.evaluate(() => {
      const { session } = document.querySelector("mantle-roster") ?? {};
      for (const device of ["keys", "pad"]) session?.join(device);
      session?.seat(2).take("lamp-child");
    });
    for (let times = 0; times < 3; times += 1) await page.click("[data-card=lamp-child]");
    expect(await page.isDisabled("#finish")).toBe(true);
    await page.click("[data-card=old-hand]");
    await page.click("[data-card=old-hand]");
    expect(await emitted(page)).toEqual([["mantle-finish", "old-hand"]]);
    expect(errors).toEqual([]);
  });

  test("renames, copies, moves, retires and brings back, and finds it all again", async () => {
    const { page, errors } = await open();
    await page.click("[data-card=old-hand]");
    await page.click("#rename");
    await page.fill("#name", (await cards(page))[0] ?? "");
    await page.keyboard.press("Enter");
    await page.waitForSelector(".is-wrong");
    await page.fill("#name", "Halric");
    await page.keyboard.press("Enter");
    await page.click("#duplicate");
    await page.waitForSelector("text=Halric 2 is a copy of Halric.");
    expect(await highlighted(page)).toBe("old-hand-2");
    await page.click("#earlier");
    await page.click("#earlier");
    await page.click("[data-card=first-watch]");
    const name = (await cards(page))[0] ?? "";
    await page.click("#retire");
    await page.waitForSelector(`text=${name} is retired. Nothing is lost`);
    expect((await cards(page))[0]).toBe("Halric");
    await page.click("[data-card=old-hand-2]");
    await page.click("#finish");
    // As after a reload: another session, from what is stored.
    await page.evaluate(() => Reflect.get(globalThis, "reopenRoster")());
    expect(await highlighted(page)).toBe("old-hand-2");
    expect((await cards(page)).slice(0, 2)).toEqual(["Halric", "Halric 2"]);
    await page.click("#page-retired");
    await page.click("#restore");
    expect(await highlighted(page)).toBe("first-watch");
    await page.keyboard.press("Escape");
    expect(await emitted(page)).toEqual([["mantle-close", ""]]);
    expect(errors).toEqual([]);
  });

  test("asks the page to change whom it highlights, and chooses nobody by that", async () => {
    const { page } = await open();
    await page.click("[data-card=new-boots]");
    await page.click("#edit");
    expect(await emitted(page)).toEqual([["mantle-edit", "new-boots"]]);
  });

  test("says what is missing of whom it highlights, and where nothing may be changed offers nothing", async () => {
    const { page, errors } = await open();
    await page.evaluate(() => {
      const { session } = document.querySelector("mantle-roster") ?? {};
      const [first] = session?.characters ?? [];
      if (first !== undefined) session?.add({ ...first, id: "odd", name: "Odd", loadout: { hat: "moon-hat" } });
    });
    await page.click("[data-card=odd]");
    await page.waitForSelector('text=There is no part "moon-hat". It is kept, and not shown.');
    await page.evaluate(() => {
      const screen = document.querySelector("mantle-roster");
      if (screen !== null) screen.readonly = true;
    });
    await page.waitForSelector("#retire", { state: "detached" });
    await page.click("#finish");
    expect(await emitted(page)).toEqual([["mantle-finish", "odd"]]);
    expect(errors).toEqual([]);
  });

  test("of one who carries a thing of a pack that is not here, says that it is kept, and not as if it were wrong", async () => {
    const { page } = await open();
    await page.click("[data-card=new-boots]");
    await page.waitForSelector('text=There is no part "reef-lantern". It is kept, and not shown.');
    expect(await page.locator("mantle-roster .is-wrong").count()).toBe(0);
  });

  test("is walked and confirmed with a gamepad", async () => {
    const { page } = await open();
    const [choose, leave, right] = [0, 1, 15];
    for (let tries = 0; tries < 12 && (await focused(page)) !== "first-watch"; tries += 1) await pressPad(page, 5);
    await pressPad(page, right);
    await pressPad(page, right);
    expect(await highlighted(page)).toBe("lamp-child");
    await pressPad(page, choose);
    await pressPad(page, leave);
    expect(await emitted(page)).toEqual([
      ["mantle-finish", "lamp-child"],
      ["mantle-close", ""],
    ]);
  });

  test("hears a gamepad from the moment it opens, and a press that closes one screen closes no other", async () => {
    const { page } = await open();
    const leave = 1;
    await page.evaluate(() => {
      const below = document.querySelector("mantle-roster");
      const above = document.createElement("mantle-roster");
      Object.assign(above, { session: below?.session, loader: below?.loader, modal: true });
      above.addEventListener("mantle-close", (event) => {
        event.stopPropagation();
        above.remove();
      });
      document.body.append(above);
      const { pad } = globalThis as unknown as { pad: { buttons: { pressed: boolean }[] } };
      Object.assign(pad.buttons[1] ?? {}, { pressed: true });
    });
    await page.waitForFunction(() => document.querySelectorAll("mantle-roster").length < 2);
    // Held a little longer, and let go.
    await pressPad(page, leave);
    expect(await emitted(page)).toEqual([]);
    await pressPad(page, leave);
    expect(await emitted(page)).toEqual([["mantle-close", ""]]);
  });
});
