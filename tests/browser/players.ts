import type { Page } from "playwright-core";

/** Somebody who uses a screen with one device and no other. */
export interface Player {
  /** Chooses a card, or presses a button, by its `data-card` or id. */
  press(name: string): Promise<void>;
  /** Gives a name: writes it, or has one made up. */
  name(): Promise<void>;
}

/** What has the focus, through shadow roots: its `data-card`, or its id. */
export function focused(page: Page): Promise<string> {
  return page.evaluate(() => {
    let element = document.activeElement;
    while (element?.shadowRoot?.activeElement) element = element.shadowRoot.activeElement;
    return (element as HTMLElement | null)?.dataset["card"] ?? element?.id ?? "";
  });
}

const selectorOf = (name: string) => `[data-card="${name}"], #${name}`;

/** Moves until something has the focus: each move a few times, then the next, and all of them again. */
async function until(
  page: Page,
  name: string,
  moves: readonly (readonly [() => Promise<void>, number])[],
): Promise<void> {
  await page.waitForSelector(selectorOf(name));
  for (let round = 0; round < 10; round += 1) {
    for (const [move, times] of moves) {
      for (let tries = 0; tries < times; tries += 1) {
        if ((await focused(page)) === name) return;
        await move();
      }
    }
  }
  if ((await focused(page)) !== name)
    throw new Error(`"${name}" cannot be reached; the focus is on "${await focused(page)}"`);
}

const isCard = (page: Page, name: string) => page.locator(`[data-card="${name}"]`).count();

export function withMouse(page: Page): Player {
  return { press: (name) => page.click(selectorOf(name)), name: () => page.click("#make-name") };
}

export function withTouch(page: Page): Player {
  return { press: (name) => page.tap(selectorOf(name)), name: () => page.tap("#make-name") };
}

export function withKeyboard(page: Page): Player {
  const key = (name: string) => () => page.keyboard.press(name);
  const across = [
    [key("ArrowRight"), 5],
    [key("ArrowDown"), 1],
    [key("ArrowLeft"), 5],
    [key("ArrowUp"), 1],
  ] as const;
  return {
    async press(name) {
      await page.waitForSelector(selectorOf(name));
      const isFirst = (await focused(page)) === "";
      if (!(await isCard(page, name))) await until(page, name, [[key("Tab"), 12]]);
      else {
        if (isFirst) await until(page, "reed", [[key("Tab"), 12]]);
        await until(page, name, across);
      }
      await page.keyboard.press("Enter");
    },
    async name() {
      await until(page, "name", [[key("Tab"), 12]]);
      await page.keyboard.type("Wren");
    },
  };
}

/** Whether what has the focus is in one group of controls with what bears an id. */
function isInGroupOf(page: Page, id: string): Promise<boolean> {
  return page.evaluate((wanted) => {
    let element = document.activeElement;
    while (element?.shadowRoot?.activeElement) element = element.shadowRoot.activeElement;
    return element?.closest("[data-group]")?.querySelector(`#${wanted}`) instanceof Element;
  }, id);
}

/** Gives a page a gamepad that `withGamepad` presses. */
export function plugGamepadIn(): void {
  const buttons = Array.from({ length: 17 }, () => ({ pressed: false, touched: false, value: 0 }));
  const pad = { id: "test", index: 0, connected: true, mapping: "standard", axes: [0, 0, 0, 0], buttons, timestamp: 0 };
  Object.assign(globalThis, { pad });
  navigator.getGamepads = () => [pad as unknown as Gamepad, null, null, null];
}

/** Presses a button of the gamepad, and lets it go. */
export function pressPad(page: Page, button: number): Promise<void> {
  return page.evaluate(async (pressed) => {
    const { pad } = globalThis as unknown as { pad: { buttons: { pressed: boolean }[] } };
    const frames = () => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    const each = pad.buttons[pressed];
    if (each === undefined) return;
    each.pressed = true;
    await frames();
    each.pressed = false;
    await frames();
  }, button);
}

export function withGamepad(page: Page): Player {
  const button = (number: number) => () => pressPad(page, number);
  const nextGroup = button(5);
  const [up, down, left, right] = [button(12), button(13), button(14), button(15)];
  const reach = async (name: string) => {
    if (await isCard(page, name)) {
      const across = [right, down, left, up].map((move, at) => [move, at % 2 === 0 ? 5 : 1] as const);
      return until(page, name, across);
    }
    for (let tries = 0; tries < 12 && !(await isInGroupOf(page, name)); tries += 1) await nextGroup();
    return until(page, name, [[right, 4]]);
  };
  return {
    async press(name) {
      await page.waitForSelector(selectorOf(name));
      await reach(name);
      await button(0)();
    },
    async name() {
      await reach("make-name");
      await button(0)();
    },
  };
}
