import { expect, test } from "@jest/globals";
import { globSync } from "tinyglobby";
import { demoFolder } from "../demo-catalog.ts";
import type { OwnFindings } from "./engines/phaser-page.ts";
import type { Findings } from "./engines/trial.ts";
import { useSite } from "./site.ts";

const site = useSite();
const demoFiles = globSync("**/*", { cwd: demoFolder });

test.each(["pixi", "phaser", "phaser-3.80", "three"])(
  "in %s figures are drawn as they are composed, go on when they are dressed anew, and leave nothing behind",
  async (engine) => {
    const { page, errors } = await site.run(`engines/${engine}`);
    const found: Findings = await page.evaluate((files) => Reflect.get(window, "tryOut")(files), demoFiles);
    expect(found.differing).toEqual([]);
    expect(found.opaque).toBeGreaterThan(50_000);
    expect(found).toMatchObject({ shownAfterExchange: "the new look", seatFollowed: true });
    expect([found.timeAfterExchange, found.timeAfterTurn]).toEqual([expect.closeTo(0.1, 9), expect.closeTo(0.2, 9)]);
    expect(found.attached).toEqual(found.crown);
    expect(found.crown[0]).toEqual(expect.any(Number));
    expect(found.touched).toEqual([{ part: expect.any(String) }, undefined]);
    // Some more than two seconds of a walk with a step every 0.4 seconds, the first at once.
    expect(found.words).toEqual(Array.from({ length: 6 }, () => "step"));
    expect(found.after).toEqual(found.before);
    expect(errors).toEqual([]);
  },
);

test.each(["phaser", "phaser-3.80"])(
  "in %s animations are the sprite's own: chains, pace and events are the engine's, and the loader counts pictures",
  async (engine) => {
    const { page } = await site.run(`engines/${engine}`);
    const found: OwnFindings = await page.evaluate((files) => Reflect.get(window, "tryOutOwn")(files), demoFiles);
    expect(found).toMatchObject({ progress: 1, failed: 0, global: 0 });
    expect(found.played).toEqual(["hail begins", "hail ends", "idle begins"]);
    expect(found.took).toBeCloseTo(found.lasts / 2, 1);
  },
);
