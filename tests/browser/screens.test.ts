import { readFile } from "node:fs/promises";
import { describe, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import { type Character, createCharacter, type Fitting, openSteps, textIn } from "zealous-mantle";
import type { ResultEvent } from "zealous-mantle/elements";
import { demo } from "../demo-catalog.ts";
import { isLong } from "../runs.ts";
import { focused, plugGamepadIn, withGamepad, withKeyboard, withMouse, withTouch } from "./players.ts";
import { frames, useSite } from "./site.ts";

const site = useSite();

const answers = ["oak", "oak", "braid", "silver", "clay", "mustache", "ferry"];

/** The questions those answer, the one that is asked back, and the one about the name. */
const asked = askedOnTheWay();

function askedOnTheWay(): readonly string[] {
  const steps = openSteps(demo, createCharacter(demo, { body: "reed" }));
  const words: string[] = [];
  for (const answer of [...answers, undefined, undefined]) {
    words.push(steps.confirming ? "Keep Ferry hand?" : textIn(steps.step?.say ?? ""));
    if (answer !== undefined) steps.answer(answer);
    steps.next();
  }
  return words;
}

/** A screen alone on a page, as if just opened. */
async function openAlone(screen: "fitting" | "steps" | "bag" | "drawn" | "roster" | "seats", modal = false) {
  const visit = await site.run("elements", plugGamepadIn);
  await visit.page.evaluate(([name, isModal]) => Reflect.get(globalThis, "openAlone")(name, 60, isModal), [
    screen,
    modal,
  ] as const);
  return visit;
}

/** The character a screen is about. */
const characterIn = (page: Page): Promise<Character> =>
  page.evaluate(() => {
    const screen = document.querySelector("mantle-fitting, mantle-equipment") as unknown as { fitting: Fitting };
    return screen.fitting.character;
  });

async function visitReady(path: string, script?: () => void): Promise<Page> {
  const { page } = await site.visit(path, script === undefined ? {} : { script });
  await page.waitForSelector("body[data-ready]");
  return page;
}

/** Waits until the question that is asked changes, or is asked back. */
const question = (page: Page) => page.textContent("#question");

/** Presses what is not looked for by a pointer: the press alone is what matters. */
const press = (page: Page, selector: string) => page.locator(selector).dispatchEvent("click");

/** Answers a question, and goes on to the next. */
async function answerWith(page: Page, answer: string): Promise<void> {
  await press(page, `[data-card="${answer}"]`);
  await press(page, "#next");
}

/** What the screens emitted: the event, and the character it is about. */
const emitted = (page: Page): Promise<readonly (readonly [string, string])[]> =>
  page.evaluate(() => Reflect.get(globalThis, "emitted"));

/** How far somebody is who has given the first answers. */
function progressAfter(count: number): string {
  const steps = openSteps(demo, createCharacter(demo, { body: "reed" }));
  for (const answer of [...answers, undefined, undefined].slice(0, count)) {
    if (answer !== undefined) steps.answer(answer);
    steps.next();
  }
  return JSON.stringify(steps.progress);
}

describe("the whole creation", () => {
  const devices = [
    ["keyboard", withKeyboard],
    ["mouse", withMouse],
    ["touch", withTouch],
    ["gamepad", withGamepad],
  ] as const;
  // In the quick run the screen is tried alone, and by those that no other test goes through it with.
  (isLong ? test : test.skip).each(devices)(
    "can be done with the %s alone, to a saved character in the harbor",
    async (_device, playing) => {
      const page = await visitReady("/creator/", plugGamepadIn);
      const player = playing(page);
      for (const answer of answers) {
        const asked = await question(page);
        await player.press(answer);
        await page.waitForSelector(`[data-card="${answer}"][aria-selected=true]`);
        await player.press("next");
        await page.waitForFunction((before) => {
          const screen = document.querySelector("mantle-steps");
          return screen?.shadowRoot?.querySelector("#question")?.textContent !== before;
        }, asked);
      }
      expect(await question(page)).toBe("Keep Ferry hand?");
      await player.press("next");
      await page.waitForSelector("#name");
      await player.name();
      await player.press("next");
      await player.press("finish");
      await page.waitForSelector("mantle-fitting");
      const made = await characterIn(page);
      expect(made).toMatchObject({
        body: "oak",
        loadout: { hair: "braid", beard: "mustache", hat: "reed-cap", "hand-right": "oar" },
        colors: { hair: "silver", skin: "clay" },
        facts: { trade: "ferry" },
      });
      await player.press("finish");
      await page.waitForSelector("text=is in the ledger");
      await page.goto(`${site.url}/harbor/`);
      await page.waitForSelector("#scene[data-place=jetty]");
      expect(await page.textContent("#who")).toBe(made.name);
    },
  );

  test.each(devices.filter(([name]) => name === "keyboard" || name === "touch"))(
    "can be done with the %s alone",
    async (_device, playing) => {
      const { page } = await openAlone("steps");
      const player = playing(page);
      for (const answer of answers) {
        await player.press(answer);
        await page.waitForSelector(`[data-card="${answer}"][aria-selected=true]`);
        await player.press("next");
      }
      await player.press("next");
      await page.waitForSelector("#name");
      await player.name();
      await player.press("next");
      await player.press("finish");
      expect((await emitted(page)).map(([event]) => event)).toEqual(["mantle-finish"]);
    },
  );

  test("goes back step by step with every answer kept, and on again", async () => {
    const { page } = await openAlone("steps");
    const asked: (string | null)[] = [];
    for (const answer of answers) {
      asked.push(await question(page));
      await answerWith(page, answer);
    }
    for (const before of asked.reverse()) {
      await press(page, "#back");
      expect(await question(page)).toBe(before);
    }
    for (const answer of answers) {
      await page.waitForSelector(`[data-card="${answer}"][aria-selected=true]`);
      await press(page, "#next");
    }
    await page.click('[data-step="build"]');
    await page.click("[data-card=reed]");
    expect(await page.textContent(".notice")).toContain("Age: Oak does not fit any more.");
  });

  test.each(isLong ? [0, 4, 8] : [4])("can be given up at question %i, and begins anew then", async (count) => {
    const remembered = { "saltmarsh-steps": progressAfter(count) };
    const { page } = await site.visit("/creator/", { remembered });
    expect(await question(page)).toBe(asked[count]);
    await page.click("#cancel");
    await page.waitForURL(`${site.url}/`);
    await page.goto(`${site.url}/creator/`);
    await page.waitForSelector("[data-card=reed][aria-selected=true]");
  });

  test("can be given up at every question", async () => {
    const { page } = await openAlone("steps");
    for (const [at, words] of asked.entries()) {
      expect(await question(page)).toBe(words);
      await press(page, "#cancel");
      expect(await emitted(page)).toHaveLength(at + 1);
      const answer = answers[at];
      if (answer === undefined) await press(page, "#next");
      else await answerWith(page, answer);
    }
  });

  test("goes on after a reload in the middle, even in the middle of a question back", async () => {
    const remembered = { "saltmarsh-steps": progressAfter(answers.length - 1) };
    const { page } = await site.visit("/creator/", { remembered });
    await page.click(`[data-card="${answers.at(-1)}"]`);
    await page.click("#next");
    expect(await question(page)).toBe("Keep Ferry hand?");
    await page.reload();
    await page.waitForSelector("text=Keep Ferry hand?");
    await page.click("#next");
    await page.fill("#name", "Wren");
    await page.click("#next");
    await page.click("#finish");
    await page.waitForSelector("mantle-fitting");
    expect(await characterIn(page)).toMatchObject({ name: "Wren", loadout: { hair: "braid", beard: "mustache" } });
  });

  test("Escape goes one step back, and out of the first one", async () => {
    const { page } = await openAlone("steps");
    await page.click("[data-card=oak]");
    await page.click("#next");
    await page.keyboard.press("Escape");
    expect(await question(page)).toBe("Slight as a reed, or broad as an oak?");
    expect(await emitted(page)).toEqual([]);
    await page.keyboard.press("Escape");
    expect(await emitted(page)).toEqual([["mantle-leave", expect.any(String)]]);
  });
});

/** Notes from now on what a screen says of each press: what was put on, and whether it was. */
async function resultsOf(page: Page, screen: "mantle-steps" | "mantle-fitting" | "mantle-equipment") {
  const results = await page.locator(screen).evaluateHandle((element) => {
    const noted: string[] = [];
    element.addEventListener("mantle-result", (event) => {
      const { result, edit } = event as ResultEvent;
      noted.push(`${edit?.wear} ${result.ok}`);
    });
    return noted;
  });
  return () => results.jsonValue();
}

describe("the ends of a creation", () => {
  test("the first question has no way back, an empty name says what is asked of one, and the last page shows what was answered", async () => {
    const { page, errors } = await openAlone("steps");
    const heard = await resultsOf(page, "mantle-steps");
    expect(await page.isDisabled("#back")).toBe(true);
    for (const answer of answers) await answerWith(page, answer);
    expect(new Set(await heard())).toEqual(new Set(["undefined true"]));
    await page.click("#next");
    await page.fill("#name", "   ");
    await page.click("#next");
    expect((await page.textContent(".notice"))?.trim()).toBe("Write a name first, of 16 letters at most.");
    await page.fill("#name", "Wren");
    await page.click("#next");
    const said = await page.$$eval("[data-answer]", (rows) =>
      rows.map(({ textContent }) => textContent?.replace(/\s+/g, " ").trim()),
    );
    expect(said).toEqual(
      expect.arrayContaining(["Build Oak", "Hair Harbor braid", "Skin Clay", "Trade Ferry hand", "Name Wren"]),
    );
    await page.click('[data-answer="hair"]');
    await page.waitForSelector("[data-card=braid][aria-selected=true]");
    expect(errors).toEqual([]);
  });

  test("a screen that cannot be left has no button for it, and Escape leads out of none", async () => {
    for (const screen of ["steps", "fitting"] as const) {
      const { page } = await openAlone(screen);
      await page.evaluate((name) => {
        const element = document.querySelector(`mantle-${name}`);
        Reflect.set(window, "left", 0);
        element?.addEventListener("mantle-leave", () => Reflect.set(window, "left", 1));
        element?.setAttribute("no-cancel", "");
      }, screen);
      await page.waitForFunction(() => {
        const element = document.querySelector("[no-cancel]");
        return element?.shadowRoot?.querySelector("#cancel") === null;
      });
      await page.keyboard.press("Escape");
      await page.keyboard.press("Escape");
      expect(await page.evaluate(() => Reflect.get(window, "left"))).toBe(0);
    }
  });

  test("a screen without a loader says what it lacks, until it has one", async () => {
    const { page } = await openAlone("fitting");
    const failure = "mantle-stage .failure";
    const setLoader = (has: boolean) =>
      page.evaluate((wanted) => {
        const screen = document.querySelector("mantle-fitting");
        if (screen === null) return;
        if (wanted) screen.loader = Reflect.get(window, "kept");
        else {
          Reflect.set(window, "kept", screen.loader);
          screen.loader = undefined;
        }
      }, has);
    await setLoader(false);
    await page.waitForSelector(failure);
    expect(await page.textContent(failure)).toMatch(/Set `loader`, as fetchCatalog and imageLoader give it/);
    await setLoader(true);
    await page.waitForSelector(failure, { state: "detached" });
  });
});

describe("the fitting", () => {
  const open = async () => {
    const visit = await openAlone("fitting");
    await visit.page.waitForSelector("[data-card=oak]");
    return visit;
  };
  const turnTo = async (page: Page, slot: string) => {
    await page.click(`[data-page="slot:${slot}"]`);
    await page.waitForSelector(`[data-page="slot:${slot}"][aria-current=page]`);
  };

  (isLong ? test : test.skip)("undoes fifty edits, one by one, to where it began", async () => {
    const { page, errors } = await open();
    const before = await characterIn(page);
    const edits = await page.evaluate(() => {
      const { fitting } = document.querySelector("mantle-fitting") as unknown as { fitting: Fitting };
      const slots = [...fitting.catalog.slots.keys()];
      let count = 0;
      for (let each = 0; count < 50; each += 1) {
        const character = fitting.character;
        fitting.cycle(slots[each % slots.length] ?? "", 1);
        if (fitting.character !== character) count += 1;
      }
      return count;
    });
    expect(edits).toBe(50);
    expect((await characterIn(page)).loadout).not.toEqual(before.loadout);
    for (let each = 0; each < 25; each += 1) await page.click("#undo");
    await page.focus("#redo");
    for (let each = 0; each < 25; each += 1) await page.keyboard.press("Control+z");
    expect(await characterIn(page)).toEqual(before);
    await page.waitForSelector("#undo:disabled");
    expect(errors).toEqual([]);
  });

  test("shows what is pointed at on the figure and in the stats, and nothing is changed by it", async () => {
    const { page } = await open();
    await turnTo(page, "hat");
    await page.waitForSelector("mantle-stage[data-shown]");
    const before = await page.getAttribute("mantle-stage", "data-shown");
    const isShown = (key: string | null) =>
      document.querySelector("mantle-fitting")?.shadowRoot?.querySelector<HTMLElement>("mantle-stage")?.dataset[
        "shown"
      ] === key;
    await page.hover("[data-card=storm-hat]");
    await page.waitForFunction(
      (key) =>
        document.querySelector("mantle-fitting")?.shadowRoot?.querySelector<HTMLElement>("mantle-stage")?.dataset[
          "shown"
        ] !== key,
      before,
    );
    expect(await page.textContent(".stats")).toMatch(/Warmth\s*2\s*▲ 4/);
    expect((await characterIn(page)).loadout).toEqual({});
    await page.hover("h1");
    await page.waitForFunction(isShown, before);
  });

  test.each([
    [1280, 800],
    [1024, 600],
    [390, 844],
  ])(
    "at %i × %i nothing that can be pressed moves because of a press, and there is room for what is chosen",
    async (width, height) => {
      const { page } = await open();
      await page.setViewportSize({ width, height });
      await turnTo(page, "hat");
      /** Where everything is that can be pressed, but for what a press mends. */
      const places = () =>
        page.evaluate(() => {
          const root = document.querySelector("mantle-fitting")?.shadowRoot;
          const cards = root?.querySelector("mantle-cards")?.shadowRoot;
          const all = [
            ...(root?.querySelectorAll("button:not(.fix):not(.channel button)") ?? []),
            ...(cards?.querySelectorAll("[data-card]") ?? []),
          ];
          return all.map((each) => {
            const { x, y } = each.getBoundingClientRect();
            return [
              each.id || each.getAttribute("data-card") || each.getAttribute("data-page"),
              Math.round(x),
              Math.round(y),
            ].join(" ");
          });
        });
      for (const hat of ["storm-hat", "reed-cap", "lamp-crown", "nothing"]) {
        const card = page.locator(`[data-card="${hat}"]`);
        await card.scrollIntoViewIfNeeded();
        const before = await places();
        expect(before.length).toBeGreaterThan(25);
        await card.click();
        await page.waitForSelector(`[data-card="${hat}"][aria-selected=true]`);
        expect(await places()).toEqual(before);
      }
      const seen = await page.$eval("mantle-cards", (cards) => {
        cards.scrollTop = 0;
        const box = cards.getBoundingClientRect();
        const all = [...(cards.shadowRoot?.querySelectorAll("[data-card]") ?? [])].map((card) =>
          card.getBoundingClientRect(),
        );
        // Whole, or all of its picture.
        return all.filter(({ top, height: tall }) => top >= box.top && top + tall * 0.66 <= box.bottom).length;
      });
      expect(seen).toBeGreaterThanOrEqual(3);
    },
  );

  test("fits into a box that the page places by its edges", async () => {
    const { page } = await open();
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.evaluate(() => {
      const screen = document.querySelector("mantle-fitting");
      if (screen === null) return;
      screen.remove();
      screen.style.cssText = "position: fixed; inset: 40px";
      document.body.appendChild(screen);
    });
    await page.waitForSelector("#finish");
    const bottom = await page.$eval("#finish", (button) => button.getBoundingClientRect().bottom);
    const [host] = await page.$$eval("mantle-fitting", (all) => all.map((each) => each.getBoundingClientRect().bottom));
    expect([host, bottom < (host ?? 0)]).toEqual([760, true]);
  });

  test("what is looked at is not said to be worn, and why it cannot be is said in full", async () => {
    const { page } = await open();
    await page.setViewportSize({ width: 1280, height: 800 });
    await turnTo(page, "hat");
    const worn = () => page.textContent('[data-page="slot:hat"] small');
    const before = await worn();
    await page.waitForSelector("mantle-stage[data-shown]");
    const shown = await page.getAttribute("mantle-stage", "data-shown");
    await page.hover('[data-card="lamp-crown"]');
    while ((await page.getAttribute("mantle-stage", "data-shown")) === shown) await frames(page, 1);
    expect(await worn()).toBe(before);
    await turnTo(page, "badge");
    // Badges are not seen: their cards say what they give.
    expect(await page.textContent('[data-card="pilot-badge"] .does')).toBe("\u2068+3 Standing\u2069");
    await page.hover('[data-card="lamplighter-badge"]');
    const reason = await page.textContent(".notice");
    expect(reason?.trim()).toMatch(/^Not now\. .*\.$/);
  });

  test("a click on the figure opens the slot of what was clicked", async () => {
    const { page } = await openAlone("drawn");
    await page.setViewportSize({ width: 1280, height: 800 });
    await turnTo(page, "hat");
    await page.click("[data-card=storm-hat]");
    await page.hover("h1");
    await page.waitForFunction(() =>
      document
        .querySelector("mantle-fitting")
        ?.shadowRoot?.querySelector("mantle-stage")
        ?.dataset["shown"]?.includes("storm-hat"),
    );
    await page.click('[data-page="build"]');
    const box = await page.locator(".view").boundingBox();
    if (box === null) throw new Error("There is no stage");
    const at = async (down: number) => {
      await page.mouse.click(box.x + box.width / 2, box.y + box.height * down);
      return page.getAttribute("mantle-fitting", "page");
    };
    const left = new Set<string | null>(["slot:hat", "slot:shirt", "slot:trousers"]);
    for (let down = 0.1; down < 0.95 && left.size > 0; down += 0.08) left.delete(await at(down));
    expect([...left]).toEqual([]);
  });

  test("what cannot be worn says why, and one press mends it", async () => {
    const { page } = await open();
    await turnTo(page, "chain");
    expect(await page.textContent("[data-card=watch-chain] .note")).toContain("A chain hangs from a waistcoat");
    await page.click("[data-card=watch-chain]");
    expect((await characterIn(page)).loadout).toEqual({});
    await page.click("text=Put on Waistcoat and put on Watch chain");
    expect((await characterIn(page)).loadout).toEqual({ vest: "waistcoat", chain: "watch-chain" });
    await page.click("#undo");
    expect((await characterIn(page)).loadout).toEqual({});
  });

  test("says what came off and why", async () => {
    const { page } = await open();
    const heard = await resultsOf(page, "mantle-fitting");
    await turnTo(page, "hat");
    await page.click("[data-card=storm-hat]");
    await turnTo(page, "neck");
    expect(await page.textContent("[data-card=hood-up] .note")).toBe("takes off Storm hat");
    await page.click("[data-card=hood-up]");
    expect(await heard()).toEqual(["storm-hat true", "hood-up true"]);
    expect(await page.textContent(".notice")).toContain("Storm hat came off.");
    expect(await page.textContent(".notice")).toContain("A hood does not close over a brim.");
  });

  test("turns by dragging, by keys and by buttons, and the pose goes on when the clothes change", async () => {
    const { page } = await open();
    const facing = () => page.getAttribute("mantle-stage", "facing");
    await page.click("[aria-label='Turn left']");
    expect(await facing()).toBe("west");
    await page.keyboard.press(".");
    await page.keyboard.press(".");
    expect(await facing()).toBe("east");
    const box = await page.locator(".view").boundingBox();
    if (box === null) throw new Error("There is no stage");
    await page.mouse.move(box.x + 200, box.y + 200);
    await page.mouse.down();
    await page.mouse.move(box.x + 165, box.y + 200, { steps: 5 });
    await page.mouse.up();
    expect(await facing()).toBe("south");
    await page.selectOption("mantle-stage select", "walk");
    await turnTo(page, "hat");
    await page.click("[data-card=storm-hat]");
    expect(await page.getAttribute("mantle-stage", "animation")).toBe("walk");
  });

  test.each([
    ["", "Write a name first, of 16 letters at most."],
    ["An unreasonably long name", "25 letters; 16 is the most"],
  ])("is not finished under the name %j", async (name, words) => {
    const { page } = await open();
    await page.fill("#name", name);
    await page.click("#finish");
    expect(await page.textContent(".notice")).toContain(words);
  });

  test("asks before changes are given up, and leaves at once where there are none", async () => {
    const { page } = await open();
    await page.evaluate(() => {
      const left: string[] = [];
      Object.assign(globalThis, { left });
      document.querySelector("mantle-fitting")?.addEventListener("mantle-leave", () => left.push("left"));
    });
    const left = () => page.evaluate(() => (globalThis as unknown as { left: string[] }).left.length);
    await page.click("[data-card=oak]");
    await page.keyboard.press("Escape");
    expect([await left(), await focused(page)]).toEqual([0, "go-on"]);
    await page.click("#go-on");
    expect((await characterIn(page)).body).toBe("oak");
    await page.click("#cancel");
    await page.click("#give-up");
    expect([await left(), (await characterIn(page)).body]).toEqual([1, "reed"]);
    await page.keyboard.press("Escape");
    expect(await left()).toBe(2);
  });

  test("speaks the game's language, with the game's words, from right to left", async () => {
    const { page } = await open();
    await page.evaluate(() => {
      document.documentElement.dir = "rtl";
      const screen = document.querySelector("mantle-fitting");
      if (screen) screen.texts = { undo: "Zurück", "is-chosen": "gewählt" };
    });
    expect(await page.getAttribute("#undo", "aria-label")).toBe("Zurück");
    expect(await page.textContent("[data-card=reed] .note")).toBe("gewählt");
    const [reed, oak] = await Promise.all(["reed", "oak"].map((id) => page.locator(`[data-card=${id}]`).boundingBox()));
    expect(reed?.x).toBeGreaterThan(oak?.x ?? 0);
    await page.focus("[data-card=reed]");
    await page.keyboard.press("ArrowLeft");
    expect(await focused(page)).toBe("oak");
  });
});

describe("a screen in the middle of a game", () => {
  const open = async () => {
    const { page } = await openAlone("bag");
    await page.evaluate(() => {
      document.documentElement.style.cursor = "none";
    });
    await page.focus("#quay");
    await page.keyboard.press("i");
    await page.waitForSelector("mantle-equipment [data-slot]");
    return page;
  };
  const cursor = (page: Page) => page.evaluate(() => document.documentElement.style.cursor);
  const walks = async (page: Page) => {
    const x = () => page.getAttribute("#quay", "data-x");
    const before = await x();
    await page.keyboard.press("ArrowRight");
    return (await x()) !== before;
  };

  const endings: readonly (readonly [string, (page: Page) => Promise<unknown>])[] = [
    ["Escape", (page: Page) => page.keyboard.press("Escape")],
    ["its button", (page: Page) => page.click("#cancel")],
    ["being finished", (page: Page) => page.click("#finish")],
    ["the gamepad", (page: Page) => withGamepad(page).press("cancel")],
    [
      "being removed from the page",
      (page: Page) => page.evaluate(() => document.querySelector("mantle-equipment")?.remove()),
    ],
    [
      "being removed with what it is in",
      (page: Page) =>
        page.evaluate(() => {
          const screen = document.querySelector("mantle-equipment");
          const box = document.createElement("div");
          document.body.append(box);
          if (screen) box.append(screen);
          box.remove();
        }),
    ],
    [
      "failing to draw",
      async (page: Page) => {
        await page.evaluate(() => {
          const screen = document.querySelector("mantle-equipment");
          if (screen) screen.fitting = { on: () => () => undefined } as unknown as Fitting;
        });
      },
    ],
  ];
  // By a press, by itself, and by what the page does with it.
  const tried = ["Escape", "being finished", "being removed from the page"];
  test.each(endings.filter(([name]) => isLong || tried.includes(name)))(
    "takes the input, and gives it back when it is closed by %s",
    async (_how, close) => {
      const page = await open();
      expect(await walks(page)).toBe(false);
      expect(await cursor(page)).toBe("auto");
      expect(await page.evaluate(() => document.activeElement?.localName)).toBe("mantle-equipment");
      for (let each = 0; each < 40; each += 1) await page.keyboard.press("Tab");
      expect(await page.evaluate(() => document.activeElement?.localName)).toBe("mantle-equipment");
      await close(page);
      await page.waitForFunction(() => document.documentElement.style.cursor === "none");
      expect(await focused(page)).toBe("quay");
      expect(await walks(page)).toBe(true);
    },
  );

  test("a pointer that was locked to the game is shown while the screen is open", async () => {
    const { page } = await openAlone("bag");
    const locked = () => page.evaluate(() => document.pointerLockElement?.id);
    await page.evaluate(() => {
      const quay = document.querySelector("#quay");
      quay?.addEventListener("click", () => void (quay as HTMLElement).requestPointerLock());
    });
    await page.click("#quay");
    await page.waitForFunction(() => document.pointerLockElement?.id === "quay");
    await page.keyboard.press("i");
    await page.waitForSelector("mantle-equipment [data-slot]");
    await page.waitForFunction(() => document.pointerLockElement === null);
    await page.click("#cancel");
    await page.waitForFunction(() => document.pointerLockElement?.id === "quay");
    expect(await locked()).toBe("quay");
    await page.evaluate(() => document.exitPointerLock());
  });

  test("a button that was held when it opened does nothing in it", async () => {
    const { page } = await openAlone("bag");
    await page.evaluate(() => {
      const { pad } = globalThis as unknown as { pad: { buttons: { pressed: boolean }[] } };
      const leave = pad.buttons[1];
      if (leave) leave.pressed = true;
    });
    await page.keyboard.press("i");
    await page.waitForSelector("mantle-equipment [data-slot]");
    await frames(page, 12);
    expect(await page.locator("mantle-equipment").count()).toBe(1);
    await page.evaluate(() => {
      const { pad } = globalThis as unknown as { pad: { buttons: { pressed: boolean }[] } };
      for (const button of pad.buttons) button.pressed = false;
    });
  });

  test("things go from the bag to their slot and back, by a press and by dragging, and none is lost", async () => {
    const page = await open();
    const start = await characterIn(page);
    const heard = await resultsOf(page, "mantle-equipment");
    await page.click("[data-part=wool-cap]");
    expect((await characterIn(page)).loadout["hat"]).toBe("wool-cap");
    expect(await page.textContent(".notice")).toContain("Reed cap came off.");
    const drag = async (from: string, to: string) => {
      const [one, other] = [await page.locator(from).boundingBox(), await page.locator(to).boundingBox()];
      if (one === null || other === null) throw new Error("There is nothing to drag");
      await page.mouse.move(one.x + 20, one.y + 20);
      await page.mouse.down();
      await page.mouse.move(other.x + 30, other.y + 20, { steps: 6 });
      await page.mouse.up();
    };
    await drag("[data-part=mittens].tile", "[data-slot=gloves]");
    expect((await characterIn(page)).loadout["gloves"]).toBe("mittens");
    await drag("[data-part=scarf].tile", "[data-slot=boots]");
    expect(await page.textContent(".notice")).toContain("Scarf does not go in slot Boots.");
    expect(await heard()).toEqual(["wool-cap true", "mittens true", "scarf false"]);
    await drag("[data-slot=hand-right]", "[data-slot=hand-left]");
    expect((await characterIn(page)).loadout).toMatchObject({ "hand-left": "oar" });
    await drag("[data-slot=gloves]", "#bag");
    expect((await characterIn(page)).bag).toHaveProperty("mittens");
    for (let each = 0; each < 4; each += 1) await page.click("#undo");
    expect(await characterIn(page)).toEqual(start);
  });
});

/** What axe objects to on a page. */
async function objections(page: Page): Promise<readonly unknown[]> {
  await page.evaluate(await readFile("node_modules/axe-core/axe.min.js", "utf8"));
  return page.evaluate(async () => {
    const { axe } = globalThis as unknown as {
      axe: { run(): Promise<{ violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }> };
    };
    const { violations } = await axe.run();
    return violations.map(({ id, nodes }) => [
      id,
      ...nodes.map(({ html, failureSummary }) => `${html} ${failureSummary}`),
    ]);
  });
}

describe("every page", () => {
  const pages = [
    ["/", "h1", []],
    ["/creator/", "[data-card=oak]", [["[data-card=oak]", "#next", "#next", "[data-card=braid]", "#next"]]],
    ["/creator/?night", "[data-card=oak]", [[]]],
    ["/plain/", "[data-card=oak]", [['[data-page="slot:chain"]', "[data-card=watch-chain]", '[data-page="presets"]']]],
    ["/bag/", "body[data-ready]", [["#open", "[data-part=watch-chain]"]]],
    ["/bare/", "#next", [["#next"]]],
    ["/contact/", "body[data-ready=reed]", []],
    ["/import/", "body[data-ready='0']", [["#sample"]]],
    ["/harbor/", "#nobody:not([hidden])", [["#ready-made", "[data-card=lamp-child]", "#rename"], ["#finish"]]],
    ["/ferry/", "[data-card=old-hand]", [["[data-card=old-hand]"], ["[data-card=old-hand]", "[data-action=act]"]]],
  ] as const;
  // The screens of the others are looked at alone in the quick run.
  const own = pages.filter(([path]) => isLong || path === "/harbor/");
  test.each(own)("%s fits a narrow screen, and has nothing that axe objects to", async (path, ready, screens) => {
    const { page, errors } = await site.visit(path, { viewport: { width: 390, height: 844 } });
    await page.waitForSelector(ready);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    expect(await page.title()).toContain("Saltmarsh Post");
    await page.setViewportSize({ width: 1280, height: 800 });
    for (const presses of screens) {
      for (const press of presses) await page.click(press);
      expect(await objections(page)).toEqual([]);
    }
    expect(errors).toEqual([]);
  });
});

describe("every screen, alone", () => {
  test.each([
    ["steps", ["[data-card=oak]", "#next", "#next", "[data-card=braid]", "#next"]],
    ["fitting", ['[data-page="slot:chain"]', "[data-card=watch-chain]", '[data-page="presets"]']],
    ["bag", ["#quay", "[data-part=watch-chain]"]],
  ] as const)("%s fits a narrow page, and has nothing that axe objects to", async (name, presses) => {
    const { page, errors } = await openAlone(name);
    await page.setViewportSize({ width: 390, height: 844 });
    const last = page.locator(".ends button").last();
    // What ends the screen is in sight from the beginning, and so are the first cards.
    if (name !== "bag") {
      expect(await last.boundingBox().then((box) => box && box.y + box.height)).toBeLessThanOrEqual(844);
      expect((await page.locator("[role=option]").first().boundingBox())?.y).toBeLessThan(600);
    }
    for (const press of presses) {
      await page.click(press);
      if (press === "#quay") await page.keyboard.press("i");
    }
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.setViewportSize({ width: 1280, height: 800 });
    expect(await objections(page)).toEqual([]);
    expect(errors).toEqual([]);
  });
});

test("until somebody has joined, the seats are a strip below cards that have the room", async () => {
  const { page } = await openAlone("seats");
  const heights = () =>
    page.evaluate(() => {
      const root = document.querySelector("mantle-seats")?.renderRoot;
      return ["mantle-cards", ".seats"].map((each) => root?.querySelector(each)?.clientHeight ?? 0);
    });
  const [cards = 0, seats = 0] = await heights();
  expect(cards).toBeGreaterThan(3 * seats);
  await page.click(".seat.empty button");
  const [, joined = 0] = await heights();
  expect(joined).toBeGreaterThan(2 * seats);
});

test("from right to left, amounts keep their order, numbers are the language's, and the buttons that turn point outward", async () => {
  const { page } = await openAlone("fitting");
  const seen = await page.evaluate(async () => {
    document.documentElement.dir = "rtl";
    const screen = document.querySelector("mantle-fitting");
    if (screen === null) throw new Error("There is no fitting");
    Object.assign(screen, { language: "ar-EG", page: "slot:badge" });
    await screen.updateComplete;
    const cards = screen.renderRoot.querySelector("mantle-cards");
    await cards?.updateComplete;
    const controls =
      screen.renderRoot.querySelector("mantle-stage")?.renderRoot.querySelectorAll(".controls button") ?? [];
    const [left, right] = [controls[0], controls[controls.length - 1]].map(
      (each) => each?.getBoundingClientRect().x ?? 0,
    );
    return {
      gives: cards?.renderRoot.querySelector('[data-card="pilot-badge"] .does')?.textContent,
      isOutward: (left ?? 0) < (right ?? 0),
    };
  });
  // Each amount is set apart from what stands beside it.
  expect(seen.gives).toMatch(/^\u2068.*٣.*\u2069$/u);
  expect(seen.isOutward).toBe(true);
});

describe("every screen that takes the input", () => {
  const states = [
    ["steps", ["[data-card=oak]", "#next"]],
    ["fitting", ['[data-page="slot:chain"]', "[data-card=watch-chain]", "#cancel"]],
    ["roster", ["#rename"]],
    ["seats", ["button:text-matches('here')"]],
  ] as const;
  test.each(states)("%s has a name, and axe objects to no state of it in either direction", async (name, presses) => {
    const { page, errors } = await openAlone(name, true);
    const screen = page.locator(`mantle-${name}`);
    expect(await screen.getAttribute("role")).toBe("dialog");
    expect(await screen.getAttribute("aria-label")).toMatch(/\w/);
    for (const press of [undefined, ...presses]) {
      if (press !== undefined) await page.click(press);
      // From left to right the screens are looked at below, without the input.
      for (const dir of isLong ? ["rtl", "ltr"] : ["rtl"]) {
        await page.evaluate((way) => Object.assign(document.documentElement, { dir: way }), dir);
        expect(await objections(page)).toEqual([]);
      }
    }
    expect(errors).toEqual([]);
  });
});

describe("a screen over a game, by one call", () => {
  /** Who there is, each with what they wear on their heads, and who sits where. */
  interface Known {
    readonly played: readonly [characters: readonly (readonly [string, string])[], seats: readonly string[]];
    readonly stored: unknown;
  }
  const call = <Result>(page: Page, name: string, ...args: readonly unknown[]): Promise<Result> =>
    page.evaluate(([called, given]) => Reflect.get(globalThis, called)(...given), [name, args] as const);
  const came = (page: Page) => page.evaluate(() => Reflect.get(globalThis, "came") as unknown);
  const ends = (page: Page) => page.waitForFunction(() => document.querySelector("main ~ *") === null);
  async function openGame(count: number) {
    const { page, errors } = await site.run("elements", plugGamepadIn);
    await call(page, "openGame", count);
    return { page, errors };
  }

  test("what comes of a fitting is in the session and stored; what is given up is not, and the focus comes back", async () => {
    const { page } = await openGame(2);
    await call(page, "openOver", "fitting");
    await page.click('[data-page="slot:hat"]');
    await page.click("[data-card=wool-cap]");
    // The names of the others are taken.
    const name = await page.inputValue("#name");
    await page.fill("#name", "Osin");
    await page.click("#finish");
    expect(await page.textContent(".notice")).toContain("Osin");
    await page.fill("#name", name);
    await page.click("#finish");
    await ends(page);
    const { played, stored } = await call<Known>(page, "whoThereIs");
    const id = played[1][0];
    expect(played[0].find(([each]) => each === id)).toEqual([id, "wool-cap"]);
    expect(stored).toEqual(played);
    expect(await came(page)).toEqual([["fitting", id]]);
    expect(await page.evaluate(() => document.activeElement?.id)).toBe("quay");
    await call(page, "openOver", "equipment");
    await page.keyboard.press("Escape");
    await ends(page);
    expect(await came(page)).toEqual([
      ["fitting", id],
      ["equipment", "nothing"],
    ]);
  });

  test("somebody new comes from the steps or, where there is nobody, from the fitting", async () => {
    const { page } = await openGame(0);
    await call(page, "openOver", "fitting");
    await page.fill("#name", "Wren");
    await page.click("#finish");
    await ends(page);
    const { played, stored } = await call<{
      played: readonly [readonly unknown[], readonly unknown[]];
      stored: unknown;
    }>(page, "whoThereIs");
    expect([played[0].length, played[1].length]).toEqual([1, 1]);
    expect(stored).toEqual(played);
  });

  test("the roster leads to a fitting and back, and resolves with who is chosen", async () => {
    const { page } = await openGame(3);
    await call(page, "openOver", "roster");
    await page.click("#edit");
    await page.click('mantle-fitting [data-page="slot:hat"]');
    await page.click("mantle-fitting [data-card=wool-cap]");
    await page.click("mantle-fitting #finish");
    await page.waitForFunction(() => document.querySelector("mantle-fitting") === null);
    expect(await page.evaluate(() => document.activeElement?.shadowRoot?.activeElement?.id)).toBe("edit");
    await page.locator("mantle-roster [role=option]").nth(1).click();
    await page.locator("mantle-roster [role=option]").nth(1).click();
    await ends(page);
    const { played, stored } = await call<Known>(page, "whoThereIs");
    expect(played[0].map(([, hat]) => hat)).toContain("wool-cap");
    expect(await came(page)).toEqual([["roster", played[1][0]]]);
    expect(stored).toEqual(played);
  });

  test("one that is taken off the page, or closed by the game, comes to nothing; one without a character is refused", async () => {
    const { page } = await openGame(0);
    await call(page, "openOver", "equipment");
    await call(page, "openOver", "steps");
    await page.evaluate(() => document.querySelector("mantle-steps")?.remove());
    await call(page, "openOver", "steps");
    await call(page, "closeFromOutside");
    await ends(page);
    expect(await came(page)).toEqual([
      ["equipment", "bad-call"],
      ["steps", "nothing"],
      ["steps", "nothing"],
    ]);
  });
});

describe("players at the keyboard join in a screen that takes the input", () => {
  const seatedIn = (page: Page) => page.$$eval("[data-seat][data-state]", (seats) => seats.length);
  const ended = (page: Page) =>
    page.evaluate(() => (Reflect.get(globalThis, "emitted") as readonly string[][]).map(([event]) => event));

  test("their keys join and choose; a button that has the focus keeps its own", async () => {
    const { page } = await openAlone("seats", true);
    await page.keyboard.press("Enter");
    await page.keyboard.press("e");
    expect(await seatedIn(page)).toBe(2);
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("Enter");
    expect(await page.locator("[data-state=is-ready]").count()).toBe(1);
    expect(await ended(page)).toEqual([]);
    await page.focus("#back");
    await page.keyboard.press("Enter");
    expect(await ended(page)).toEqual(["mantle-close"]);
  });

  test("a link or a button beside the screen can be pressed by the keys of a player", async () => {
    const { page } = await openAlone("seats");
    await page.evaluate(() => {
      const link = Object.assign(document.createElement("a"), { href: "#there", textContent: "There", id: "link" });
      document.querySelector("main")?.prepend(link);
    });
    await page.focus("#link");
    await page.keyboard.press("Enter");
    expect([new URL(page.url()).hash, await seatedIn(page)]).toEqual(["#there", 0]);
  });
});

test("a list of thousands makes and draws the cards in view, and no others", async () => {
  const { page } = await site.run("screen");
  const seen = await page.evaluate(async () => {
    const { openLongFitting } = globalThis as unknown as {
      openLongFitting: () => HTMLElementTagNameMap["mantle-fitting"];
    };
    const screen = openLongFitting();
    screen.page = "slot:long";
    await screen.updateComplete;
    const frame = () => new Promise(requestAnimationFrame);
    const cards = screen.renderRoot.querySelector("mantle-cards");
    if (cards === null) throw new Error("There are no cards");
    const asked = new Set<number>();
    await cards.updateComplete;
    const card = cards.card;
    cards.card = (number) => {
      asked.add(number);
      return card(number);
    };
    const made = () =>
      [...cards.renderRoot.querySelectorAll<HTMLElement>("[role=option]")].map(({ dataset }) => dataset["card"]);
    await cards.updateComplete;
    const first = made();
    cards.scrollTop = cards.scrollHeight;
    await frame();
    await frame();
    await cards.updateComplete;
    return {
      first,
      last: made(),
      asked: asked.size,
      size: cards.renderRoot.querySelector("[role=option]")?.getAttribute("aria-setsize"),
    };
  });
  expect(seen.size).toBe("5001");
  expect(seen.first).toContain("nothing");
  expect(seen.last).toContain("long-4999");
  for (const made of [seen.first, seen.last]) expect(made.length).toBeLessThan(25);
  expect(seen.asked).toBeLessThan(60);
});
