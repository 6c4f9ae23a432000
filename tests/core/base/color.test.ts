import { describe, expect, test } from "@jest/globals";
import {
  differenceCiede2000,
  filterDeficiencyDeuter,
  filterDeficiencyProt,
  filterDeficiencyTrit,
  formatHex,
  oklab,
  oklch,
  type Rgb,
} from "culori";
import fc from "fast-check";
import {
  applyEdit,
  type ColorVision,
  checkLoadout,
  composeFrame,
  createCharacter,
  distinguish,
  MantleError,
  resolveLook,
} from "zealous-mantle";
import { createImage, fitRamp, makeRamp, recolorFor } from "zealous-mantle/raster";
import { repairLoadout } from "zealous-mantle/solver";
import { runs } from "../../runs.ts";
import { smallCatalog } from "../../small-catalog.ts";

const colors = fc.integer({ min: 0, max: 0xffffff });
const hex = (color: number) => `#${color.toString(16).padStart(6, "0")}`;
const toRgb = (color: number): Rgb => ({
  mode: "rgb",
  r: (color >> 16) / 255,
  g: ((color >> 8) & 255) / 255,
  b: (color & 255) / 255,
});
const lightness = (color: string) => oklab(color)?.l ?? Number.NaN;

describe("a ramp made from one color", () => {
  test("holds the color, goes from dark to light, and has as many steps as asked", () => {
    fc.assert(
      fc.property(colors, fc.integer({ min: 1, max: 256 }), (color, steps) => {
        const ramp = makeRamp(hex(color), { steps });
        expect(ramp).toHaveLength(steps);
        expect(ramp).toContain(hex(color));
        expect(ramp.filter((each) => !/^#[0-9a-f]{6}$/.test(each))).toEqual([]);
        const lights = ramp.map(lightness);
        // A byte is not fine enough to tell neighbors of a long ramp apart.
        expect(lights.filter((light, at) => light < (lights[at - 1] ?? 0) - 0.012)).toEqual([]);
      }),
      runs(300),
    );
  });

  test("is what its page shows, and keeps lightness and hue where chroma has to give way", () => {
    expect(makeRamp("#4a5bb5")).toEqual(["#091039", "#23327c", "#4a5bb5", "#78a1f1", "#d3e7ff"]);
    const [darkest, , , , lightest] = makeRamp("#4cfd15").map((color) => oklch(color));
    expect([darkest?.l, lightest?.l].map((light) => light?.toFixed(2))).toEqual(["0.20", "0.87"]);
    // Eighteen degrees toward blue from its own 141.
    expect(Math.abs((darkest?.h ?? 0) - 159)).toBeLessThan(2);
  });

  test.each([
    ["indigo", {}, /"indigo" is not a color/],
    ["#12345", {}, /is not a color/],
    ["#123456", { steps: 0 }, /cannot have 0 colors/],
    ["#123456", { steps: 257 }, /cannot have 257 colors/],
  ])("is refused for %s %j", (color, options, words) => {
    expect(() => makeRamp(color, options)).toThrow(words);
  });
});

describe("a ramp of another length than its key", () => {
  test("of the same length goes one by one", () => {
    expect(fitRamp([3, 2, 1], [9, 8, 7])).toEqual([3, 2, 1]);
  });

  test("gives its ends to the ends of the key, and one color to all of it when it has one", () => {
    fc.assert(
      fc.property(
        fc.array(colors, { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 2, max: 256 }),
        (source, count) => {
          const ramp = source.toSorted((one, other) => lightness(hex(one)) - lightness(hex(other)));
          const key = Array.from({ length: count }, (_, at) => Math.round((at * 255) / (count - 1)) * 0x010101);
          const fitted = fitRamp(ramp, key);
          expect(fitted).toHaveLength(count);
          expect([fitted[0], fitted.at(-1)]).toEqual([ramp[0], ramp.at(-1)]);
          if (ramp.length === 1) expect(new Set(fitted).size).toBe(1);
        },
      ),
    );
  });
});

const dyed = smallCatalog({
  rigs: {
    rig: {
      frame: { width: 6, height: 1 },
      origin: [0, 0],
      facings: ["south"],
      animations: { idle: { frames: 1, fps: 1 } },
    },
  },
  bodies: { plain: { rig: "rig", art: [{ image: "a.png", depth: 0, channel: "soft" }] } },
  ramps: { red: ["#200000", "#ff4040"], blue: ["#000040", "#8080ff"], long: ["#000000", "#00aa00", "#ffffff"] },
  channels: {
    soft: { ramps: ["red", "blue"], default: "red", key: ["#404040", "#c0c0c0"], match: "luminance", custom: true },
    hard: { ramps: ["red", "long"], default: "long", key: ["#404040", "#c0c0c0"] },
  },
});
const someone = createCharacter(dyed, { body: "plain" });

describe("a channel", () => {
  test("matched by luminance colors every pixel by how light it is, and keeps its alpha", () => {
    const image = createImage(6, 1);
    const grays = [0x40, 0x80, 0xc0, 0xff, 0x00, 0x80];
    for (const [at, gray] of grays.entries()) image.data.set([gray, gray, gray, at === 5 ? 90 : 255], at * 4);
    const moment = { animation: "idle", facing: "south", time: 0 };
    const { data } = composeFrame(resolveLook(dyed, someone), new Map([["a.png", image]]), moment);
    const shown = Array.from({ length: 6 }, (_, at) => [...data.subarray(at * 4, at * 4 + 4)]);
    // The key colors themselves, what is lighter or darker than any of them, and what lies between.
    expect(shown[0]).toEqual([0x20, 0, 0, 255]);
    expect(shown[2]).toEqual([0xff, 0x40, 0x40, 255]);
    expect([shown[3], shown[4]]).toEqual([shown[2], shown[0]]);
    expect(shown[1]?.[0]).toBeGreaterThan(0x60);
    expect(shown[1]?.[0]).toBeLessThan(0xb0);
    expect(shown[5]).toEqual([...(shown[1]?.slice(0, 3) ?? []), 90]);
  });

  test("takes a color of the character's own where it allows one, and refuses it where it does not", () => {
    const painted = applyEdit(dyed, someone, { paint: "soft", ramp: "#3366cc" });
    expect(painted.ok).toBe(true);
    expect(checkLoadout(dyed, painted.character)).toEqual([]);
    expect(repairLoadout(dyed, painted.character).edits).toEqual([]);
    const recolor = recolorFor(dyed, painted.character, "soft");
    expect(recolor?.ramp).toBe("#3366cc");
    expect(recolor?.colors).toContain(0x3366cc);
    const refused = applyEdit(dyed, someone, { paint: "hard", ramp: "#3366cc" });
    expect(refused.ok ? [] : refused.problems.map(({ code }) => code)).toEqual(["ramp-not-offered"]);
    expect(recolorFor(dyed, { colors: { hard: "#3366cc" } }, "hard")?.ramp).toBe("long");
    expect(resolveLook(dyed, painted.character).key).not.toBe(resolveLook(dyed, someone).key);
  });
});

describe("colors", () => {
  test("differ for every kind of eyes as much as a color library says", () => {
    const apart = differenceCiede2000();
    const seen: Readonly<Record<ColorVision, (color: Rgb) => Rgb>> = {
      normal: (color) => color,
      protan: filterDeficiencyProt(1),
      deutan: filterDeficiencyDeuter(1),
      tritan: filterDeficiencyTrit(1),
    };
    fc.assert(
      fc.property(
        colors,
        colors,
        fc.constantFrom<ColorVision>("normal", "protan", "deutan", "tritan"),
        (one, other, sight) => {
          const { difference } = distinguish(
            smallCatalog({
              ramps: { one: [hex(one)], other: [hex(other)] },
              channels: { dye: { ramps: ["one", "other"], default: "one", key: ["#808080"] } },
            }),
            [{ colors: { dye: "one" } }, { colors: { dye: "other" } }],
            { channel: "dye", sights: [sight] },
          );
          // To the digits that both write the white point with.
          expect(difference).toBeCloseTo(apart(seen[sight](toRgb(one)), seen[sight](toRgb(other))), 5);
        },
      ),
      runs(200),
    );
  });

  test("part of the way between two are those of a color library", () => {
    fc.assert(
      fc.property(colors, colors, (one, other) => {
        const [dark = 0, light = 0] = [one, other].toSorted((a, b) => lightness(hex(a)) - lightness(hex(b)));
        const fitted = fitRamp([dark, light], [0, 0x636363, 0xffffff]);
        const share = lightness("#636363") / lightness("#ffffff");
        const [from, to] = [oklab(hex(dark)), oklab(hex(light))];
        const at = (key: "l" | "a" | "b") => (from?.[key] ?? 0) + ((to?.[key] ?? 0) - (from?.[key] ?? 0)) * share;
        const expected = Number.parseInt(formatHex({ mode: "oklab", l: at("l"), a: at("a"), b: at("b") }).slice(1), 16);
        for (const shift of [16, 8, 0])
          expect(Math.abs((((fitted[1] ?? 0) >> shift) & 255) - ((expected >> shift) & 255))).toBeLessThanOrEqual(1);
      }),
      runs(200),
    );
  });
});

const shades = ["#202020", "#804040", "#c0a040", "#40a060", "#3050a0", "#a060a0", "#e0e0e0"];
const team = smallCatalog({
  ramps: Object.fromEntries(shades.map((color, at) => [`ramp-${at}`, [color]])),
  channels: { team: { ramps: shades.map((_, at) => `ramp-${at}`), default: "ramp-0", key: ["#808080"] } },
});
const player = (ramp: number) => ({ colors: { team: `ramp-${ramp}` } });

describe("telling characters apart", () => {
  test("finds the ramps whose nearest two are farthest apart, as trying every choice does", () => {
    const apart = differenceCiede2000();
    const least = (choice: readonly number[]) =>
      Math.min(
        ...choice.flatMap((one, at) =>
          choice.slice(0, at).map((other) => apart(shades[one] ?? "", shades[other] ?? "")),
        ),
      );
    const choices = (count: number): readonly (readonly number[])[] =>
      count === 0
        ? [[]]
        : choices(count - 1).flatMap((rest) =>
            [...shades.keys()].filter((at) => !rest.includes(at)).map((at) => [...rest, at]),
          );
    for (const count of [2, 3, 4]) {
      const crowd = Array.from({ length: count }, () => player(0));
      const found = distinguish(team, crowd, { channel: "team", sights: ["normal"] });
      expect(found.difference).toBeCloseTo(Math.max(...choices(count).map(least)), 6);
      expect(least(found.ramps.map((ramp) => Number(ramp.slice(5))))).toBeCloseTo(found.difference, 6);
    }
  });

  test("keeps the ramps it can, and looks with color-blind eyes too unless asked otherwise", () => {
    const two = distinguish(team, [player(0), player(6)], { channel: "team" });
    expect(two.ramps).toEqual(["ramp-0", "ramp-6"]);
    const all = distinguish(team, [player(1), player(3), player(5)], { channel: "team" });
    const normal = distinguish(team, [player(1), player(3), player(5)], { channel: "team", sights: ["normal"] });
    expect(all.difference).toBeLessThanOrEqual(normal.difference);
    expect(new Set(all.ramps).size).toBe(3);
  });

  test("shares ramps when there are too few, and says so by a difference of 0", () => {
    const crowd = Array.from({ length: 9 }, (_, at) => player(at % 7));
    const found = distinguish(team, crowd, { channel: "team" });
    expect([found.ramps.length, found.difference]).toEqual([9, 0]);
    expect(() => distinguish(team, crowd, { channel: "taem" })).toThrow(/Write "team"/);
    expect(() =>
      distinguish(
        team,
        Array.from({ length: 17 }, () => player(0)),
        { channel: "team" },
      ),
    ).toThrow(MantleError);
    expect(distinguish(team, [], { channel: "team" }).ramps).toEqual([]);
  });
});
