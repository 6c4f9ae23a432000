import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { globSync } from "tinyglobby";
import { composeFrame } from "zealous-mantle";
import { animationOf, timedFrames } from "zealous-mantle/raster";
import { rollCharacter } from "zealous-mantle/solver";
import { demo, demoFolder, dressed } from "../demo-catalog.ts";
import { mantle } from "../run-mantle.ts";
import { isLong } from "../runs.ts";
import type { OwnFindings } from "./engines/phaser-page.ts";
import { canvas, placeOf } from "./engines/places.ts";
import type { Findings, SheetFiles, SheetFindings } from "./engines/trial.ts";
import { useSite } from "./site.ts";

const site = useSite();
const demoFiles = globSync("**/*", { cwd: demoFolder });

/** The older version of an engine is for the long run. */
const olderToo = (engines: readonly string[]) => engines.filter((name) => isLong || name !== "phaser-3.80");

test.each(olderToo(["pixi", "phaser", "phaser-3.80", "three"]))(
  "in %s figures are drawn as they are composed, go on when they are dressed anew, and leave nothing behind",
  async (engine) => {
    const { page, errors } = await site.run(`engines/${engine}`);
    // In a long run, a hundred looks; decoding all of their pictures takes its time.
    const call = [demoFiles, isLong ? { looks: 100, births: 200 } : { looks: 2, births: 20 }] as const;
    const found: Findings = await page.evaluate((given) => Reflect.get(window, "tryOut")(...given), call);
    expect(found.differing).toEqual([]);
    expect(found.opaque).toBeGreaterThan(50_000);
    expect(found).toMatchObject({ shownAfterExchange: "the new look", seatFollowed: true });
    expect([found.timeAfterExchange, found.timeAfterTurn]).toEqual([expect.closeTo(0.1, 9), expect.closeTo(0.2, 9)]);
    expect(found.attached).toEqual(found.crown);
    expect(found.crown[0]).toEqual(expect.any(Number));
    expect(found.touched).toEqual([{ of: "part", part: expect.any(String) }, undefined]);
    expect(found.hit).toEqual([true, false]);
    // Some more than two seconds of a walk with a step every 0.4 seconds, the first at once.
    expect(found.words).toEqual(Array.from({ length: 6 }, () => "step"));
    expect(found.after).toEqual(found.before);
    expect(errors).toEqual([]);
  },
);

test.each(olderToo(["phaser", "phaser-3.80"]))(
  "in %s animations are the sprite's own: chains, pace and events are the engine's, and the loader counts pictures",
  async (engine) => {
    const { page } = await site.run(`engines/${engine}`);
    const found: OwnFindings = await page.evaluate((files) => Reflect.get(window, "tryOutOwn")(files), demoFiles);
    expect(found).toMatchObject({ progress: 1, failed: 0, global: 0 });
    expect(found.played).toEqual(["hail begins", "hail ends", "idle begins"]);
    expect(found.took).toBeCloseTo(found.lasts / 2, 1);
    expect(found.words).toEqual(["step", "step", "step"]);
  },
);

describe("a baked sheet", () => {
  let folder = "";
  const character = rollCharacter(demo, { seed: 7, emptyChance: 0.8 });
  const which = { animations: ["idle", "walk"], facings: ["south", "east"] };
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), "mantle-sheets-"));
    await writeFile(join(folder, "wren.json"), JSON.stringify(character));
  });
  afterAll(() => rm(folder, { recursive: true }));

  const sheets = [
    ["pixi", "map", ["--packed", "--extrude", "1"]],
    ["phaser", "list", ["--packed"]],
    ["pixi", "map", []],
    ["phaser", "map", ["--packed", "--gap", "2"]],
    ["phaser-3.80", "list", ["--max-size", "512"]],
  ] as const;
  test.each(isLong ? sheets : sheets.slice(0, 2))(
    "is read and drawn by the own loaders of %s, its table a %s, with %j",
    async (engine, form, more) => {
      const options = ["--animations", which.animations.join(), "--facings", which.facings.join(), "--table", form];
      const call = ["bake", demoFolder, join(folder, "wren.json"), "--out", folder, "--json", ...options, ...more];
      const { sheets } = JSON.parse((await mantle(...call)).stdout);
      expect(sheets).toHaveLength(1);
      const [{ image, table }] = sheets;
      const { frames } = JSON.parse(await readFile(table, "utf8"));
      const names: readonly string[] =
        form === "map" ? Object.keys(frames) : frames.map(({ filename }: { filename: string }) => filename);
      const { page, errors } = await site.run(`engines/${engine}`);
      await page.route("**/sheets/*", (route) =>
        route.fulfill({ path: join(folder, basename(route.request().url())) }),
      );
      const files: SheetFiles = { image: `/sheets/${basename(image)}`, table: `/sheets/${basename(table)}`, names };
      const found: SheetFindings = await page.evaluate((all) => Reflect.get(window, "drawSheet")(all), files);
      expect(found.animations).toEqual({ "idle/south": 4, "idle/east": 4, "walk/south": 8, "walk/east": 8 });
      expect(names).toHaveLength(24);
      const screen = Buffer.from(found.pixels, "base64");
      const { look, images } = await dressed(character);
      let opaque = 0;
      const differing = names.filter((name, number) => {
        const [animation = "", facing = "", frame = ""] = name.split("/");
        const { time = 0 } = timedFrames(animationOf(look, animation))[Number(frame)] ?? {};
        const { data, width } = composeFrame(look, images, { animation, facing, time });
        const { x, y } = placeOf(number);
        return data.some((value, at) => {
          const pixel = Math.floor(at / 4);
          if (data[pixel * 4 + 3] !== 255) return false;
          opaque += 1;
          const [across, down] = [
            x - look.rig.origin.x + (pixel % width),
            y - look.rig.origin.y + Math.floor(pixel / width),
          ];
          return screen[(down * canvas.width + across) * 4 + (at % 4)] !== value;
        });
      });
      expect(differing).toEqual([]);
      expect(opaque).toBeGreaterThan(10_000);
      expect(errors).toEqual([]);
    },
  );
});
