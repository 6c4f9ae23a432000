import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Catalog,
  createCharacter,
  describeProblem,
  type FrameEvent,
  memoryStore,
  openFigure,
  openSession,
  readCatalog,
  resolveLook,
} from "zealous-mantle";
import { messages } from "zealous-mantle/locales/en";
import { bakeSheet, eventsBetween, frameAt } from "zealous-mantle/raster";
import { runs } from "../../runs.ts";
import { smallCatalog, smallSource } from "../../small-catalog.ts";

function walking(walk: object, more: object = {}): Catalog {
  const { rig } = smallSource()["rigs"] as { rig: object };
  return smallCatalog({ rigs: { rig: { ...rig, animations: { walk, idle: { frames: 2, fps: 2 } } } }, ...more });
}

const lookOf = (catalog: Catalog) => resolveLook(catalog, createCharacter(catalog, { body: "plain", id: "one" }));

describe("what frames tell", () => {
  test.each([
    ["a frame that begins", { frames: 4, fps: 4, events: { 2: "step" } }, 0.4, 0.5, ["step"]],
    ["the very first frame", { frames: 4, fps: 4, events: { 0: "start" } }, -1, 0.1, ["start"]],
    ["nothing while one lasts", { frames: 4, fps: 4, events: { 2: "step" } }, 0.5, 0.74, []],
    ["all that pass in one tick", { frames: 4, fps: 4, events: { 1: "left", 3: "right" } }, 0, 0.9, ["left", "right"]],
    ["the same frame again in the next run", { frames: 4, fps: 4, events: { 1: "left" } }, 0.3, 1.3, ["left"]],
    ["several words in their order", { frames: 2, fps: 4, events: { 1: ["land", "dust"] } }, 0, 0.3, ["land", "dust"]],
    ["frames of uneven length", { frames: 3, durations: [0.5, 0.1, 0.4], events: { 2: "hit" } }, 0.55, 0.61, ["hit"]],
    [
      "a frame as often as the sequence shows it",
      { frames: 3, fps: 10, sequence: "back-and-forth", events: { 1: "tick" } },
      0,
      0.39,
      ["tick", "tick"],
    ],
    ["the end once, and no more", { frames: 2, fps: 4, loop: false, events: { 1: "end" } }, 0.3, 9, []],
    [
      "of a long pause the last run",
      { frames: 4, fps: 4, events: { 1: "left", 3: "right" } },
      0,
      3600,
      ["left", "right"],
    ],
  ] as const)("is %s", (_, walk, from, to, told) => {
    expect(eventsBetween(lookOf(walking(walk)), "walk", from, to)).toEqual(told);
  });

  test("comes once, in order, whatever the frame rate", () => {
    const animation = fc.record({
      frames: fc.integer({ min: 1, max: 5 }),
      ticks: fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 60 }),
      lengths: fc.array(fc.integer({ min: 2, max: 30 }), { minLength: 5, maxLength: 5 }),
      loop: fc.boolean(),
    });
    fc.assert(
      fc.property(animation, ({ frames, ticks, lengths, loop }) => {
        const durations = lengths.slice(0, frames).map((length) => length / 100);
        const events = Object.fromEntries(durations.map((_, frame) => [frame, `frame-${frame}`]));
        const look = lookOf(walking({ frames, durations, loop, events }));
        const walk = look.rig.animations.get("walk");
        const whole = lengths.slice(0, frames).reduce((sum, each) => sum + each, 0);
        const told: string[] = [];
        let [time, from] = [0, -1];
        // Ticks are no longer than a run: what lies farther back than that is a pause.
        for (const tick of ticks.map((each) => Math.min(each, whole))) {
          time += tick;
          told.push(...eventsBetween(look, "walk", from, time / 100));
          from = time / 100;
        }
        // Slowly: a hundredth of a second at a time, which frame is shown. A loop of one frame begins anew without another being shown.
        const seen: string[] = [];
        let before = -1;
        for (let at = 0; at <= time; at += 1) {
          const frame = walk === undefined ? 0 : frameAt(walk, at / 100);
          const isAnew = frames === 1 && loop && at % whole === 0;
          if (frame !== before || isAnew) seen.push(`frame-${frame}`);
          before = frame;
        }
        expect(told).toEqual(seen);
      }),
      runs(300),
    );
  });

  test("is emitted by a figure, also when a form shows another animation, and not twice when the clothes change", async () => {
    const catalog = walking(
      { frames: 4, fps: 4, events: { 2: "step" } },
      {
        slots: { hat: { kind: "gear" } },
        parts: { cap: { slot: "hat", layers: [{ image: "cap.png", depth: 5 }] } },
      },
    );
    const session = await openSession({ catalog, store: memoryStore() });
    session.add(createCharacter(catalog, { body: "plain", id: "one" }));
    session.seat(1).take("one");
    const loader = { images: { has: () => true }, load: async () => {} };
    const figure = openFigure({ session, seat: 1, loader, animation: "walk", facing: "west" });
    const told: FrameEvent[] = [];
    const stop = figure.on("event", (each) => told.push(each));
    figure.advance(0.6);
    expect(told).toEqual([{ word: "step", animation: "walk", facing: "west" }]);
    session.edit("one", { wear: "cap" });
    figure.facing = "south";
    figure.advance(0.1);
    expect(told).toHaveLength(1);
    figure.advance(1);
    expect(told).toHaveLength(2);
    // An animation that is begun anew tells from its beginning.
    figure.animation = "idle";
    figure.animation = "walk";
    figure.advance(0.5);
    expect(told).toHaveLength(3);
    stop();
    figure.advance(1);
    expect(told).toHaveLength(3);
  });

  test("is in the table of a baked sheet, and a frame that is not drawn is found", () => {
    const look = lookOf(walking({ frames: 2, fps: 4, events: { 1: "step" } }));
    const image = { width: 8, height: 12, data: new Uint8ClampedArray(8 * 12 * 4) };
    const images = new Map(look.layers.flatMap((layer) => layer.images.map((path) => [path, image] as const)));
    const { table } = bakeSheet(look, images, { animations: ["walk"], facings: ["south"] });
    expect(table.animations["walk"]?.events).toEqual({ 1: ["step"] });
    const { rig } = smallSource()["rigs"] as { rig: object };
    const walk = { frames: 4, fps: 4, events: { 4: "step" } };
    const { problems } = readCatalog(smallSource({ rigs: { rig: { ...rig, animations: { walk } } } }));
    expect(problems.map((problem) => describeProblem(problem, messages))[0]).toMatch(
      /^catalog\.json \/rigs\/rig\/animations\/walk\/events\/4: /,
    );
  });
});
