import { expect, test } from "@jest/globals";
import { globSync } from "tinyglobby";
import { demoFolder } from "../demo-catalog.ts";
import type { Findings } from "./engines/trial.ts";
import { useSite } from "./site.ts";

const site = useSite();
const demoFiles = globSync("**/*", { cwd: demoFolder });

test.each(["pixi"])(
  "in %s figures are drawn as they are composed, go on when they are dressed anew, and leave nothing behind",
  async (engine) => {
    const { page, errors } = await site.run(`engines/${engine}`);
    const found: Findings = await page.evaluate((files) => Reflect.get(window, "tryOut")(files), demoFiles);
    expect(found.differing).toEqual([]);
    expect(found.opaque).toBeGreaterThan(50_000);
    expect(found).toMatchObject({ poseGoesOn: true, shownAfterExchange: "the new look", seatFollowed: true });
    expect(found.timeAfterTurn).toBeCloseTo(0, 9);
    expect(found.attached).toEqual(found.crown);
    expect(found.crown[0]).toEqual(expect.any(Number));
    expect(found.touched).toEqual([{ part: expect.any(String) }, undefined]);
    // A little more than two seconds of a walk with a step every 0.4 seconds, the first at once.
    expect(found.words).toEqual(Array.from({ length: 6 }, () => "step"));
    expect(found.after).toEqual(found.before);
    expect(errors).toEqual([]);
  },
);
