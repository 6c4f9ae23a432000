import { expect, test } from "@jest/globals";
import { globSync } from "tinyglobby";
import { demoFolder } from "../demo-catalog.ts";
import type { Findings } from "./engines/trial.ts";
import { useSite } from "./site.ts";

const site = useSite();
const demoFiles = globSync("**/*", { cwd: demoFolder });

test.each(["pixi", "phaser", "phaser-3.80"])(
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
