import { beforeEach, describe, expect, test } from "@jest/globals";
import { type GamepadWatch, watchGamepads } from "../../src/browser/input/gamepads.ts";

/** The gamepads of this machine, as the browser would list them; what is pressed and leant is set by the tests. */
const pads = [0, 1].map((index) => ({
  index,
  connected: true,
  axes: [0, 0],
  buttons: Array.from({ length: 17 }, () => ({ pressed: false })),
}));
Object.defineProperty(globalThis, "navigator", {
  configurable: true,
  value: { getGamepads: () => [null, ...pads] },
});

const press = (number: number, isPressed = true, pad = 0) =>
  Object.assign(pads[pad]?.buttons[number] ?? {}, { pressed: isPressed });
const lean = (x: number, y: number, pad = 0) => Object.assign(pads[pad] ?? {}, { axes: [x, y] });
/** What was asked for since the last call, in short. */
const asked = (watch: GamepadWatch, now: number) =>
  watch.poll(now).map(({ wish, device }) => `${device} ${Object.values(wish).join(" ")}`);

beforeEach(() => {
  for (const pad of pads)
    Object.assign(pad, { connected: true, axes: [0, 0], buttons: pad.buttons.map(() => ({ pressed: false })) });
});

describe("gamepads", () => {
  test("ask for something once for each press, each under its own name", () => {
    const watch = watchGamepads();
    press(0);
    press(1, true, 1);
    expect(asked(watch, 10)).toEqual(["gamepad-0 choose", "gamepad-1 leave"]);
    expect(asked(watch, 5_000)).toEqual([]);
    press(0, false);
    expect(asked(watch, 5_010)).toEqual([]);
    press(0);
    expect(asked(watch, 5_020)).toEqual(["gamepad-0 choose"]);
  });

  test("repeat a direction that is held, late at first and then faster", () => {
    const watch = watchGamepads();
    press(15);
    const times = [0, 399, 400, 519, 520, 640];
    expect(times.map((now) => asked(watch, now).length)).toEqual([1, 0, 1, 0, 1, 1]);
  });

  test("lean as far as it takes, and one way is one wish whether by stick or by cross", () => {
    const watch = watchGamepads();
    lean(0.59, 0);
    expect(asked(watch, 0)).toEqual([]);
    lean(-0.6, 0.9);
    press(14);
    expect(asked(watch, 10)).toEqual(["gamepad-0 go left", "gamepad-0 go down"]);
  });

  test("do nothing by what was held as the watch began, until it is let go and pressed again", () => {
    press(1);
    lean(0, 1);
    const watch = watchGamepads();
    expect([...asked(watch, 0), ...asked(watch, 10_000)]).toEqual([]);
    press(1, false);
    lean(0, 0);
    expect(asked(watch, 10_010)).toEqual([]);
    press(1);
    lean(0, 1);
    expect(asked(watch, 10_020)).toEqual(["gamepad-0 leave", "gamepad-0 go down"]);
  });

  test("that are unplugged ask for nothing, and what they held is forgotten", () => {
    const watch = watchGamepads();
    press(0);
    Object.assign(pads[0] ?? {}, { connected: false });
    expect(asked(watch, 0)).toEqual([]);
    Object.assign(pads[0] ?? {}, { connected: true });
    expect(asked(watch, 10)).toEqual(["gamepad-0 choose"]);
  });
});
