import { describe, expect, test } from "@jest/globals";
import { applyEdit, type Character, createCharacter, MantleError, resolveLook } from "zealous-mantle";
import { checkArt } from "zealous-mantle/authoring";
import { celsAt, frameAt } from "zealous-mantle/raster";
import type { Size } from "zealous-mantle/types";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { appearance, gear, part, smallCatalog } from "../../small-catalog.ts";

const layered = smallCatalog({
  slots: { hair: appearance, hat: gear, "hand-left": gear, "hand-right": gear },
  ramps: { red: ["#ff0000"], blue: ["#0000ff"] },
  channels: { dye: { ramps: ["red", "blue"], default: "red", key: ["#808080"] } },
  parts: {
    braid: {
      slot: "hair",
      layers: [
        { image: "braid.png", depth: 20 },
        { image: "braid-top.png", depth: 21, group: "top" },
        { image: "braid-back.png", depth: { default: -5, west: 2 } },
      ],
    },
    cap: { slot: "hat", hides: ["hair/top"], layers: [{ image: "{body}/cap.png", depth: 30, channel: "dye" }] },
    helm: part("hat", { hides: ["hair"] }),
    lamp: {
      slot: ["hand-right", "hand-left"],
      layers: [
        { image: "lamp-right.png", depth: 5, in: "hand-right" },
        { image: "lamp-left.png", depth: 5, in: "hand-left" },
      ],
    },
    still: { slot: "hat", layers: [{ image: "still.png", depth: 30, animations: ["idle"], else: { walk: "idle" } }] },
    gone: { slot: "hat", layers: [{ image: "gone.png", depth: 30, animations: ["idle"] }] },
  },
});
const plain = createCharacter(layered, { body: "plain" });
const wearing = (...parts: readonly string[]): Character =>
  parts.reduce((character, wear) => applyEdit(layered, character, { wear }).character, plain);
const imagesAt = (character: Character, animation: string, facing: string, time = 0) =>
  celsAt(resolveLook(layered, character), { animation, facing, time }).map(({ image }) => image);

describe("a look", () => {
  test("lays layers back to front, by the depth of the facing", () => {
    const braided = wearing("braid");
    expect(imagesAt(braided, "idle", "south")).toEqual(["braid-back.png", "plain.png", "braid.png", "braid-top.png"]);
    expect(imagesAt(braided, "idle", "west")).toEqual(["plain.png", "braid-back.png", "braid.png", "braid-top.png"]);
    expect(imagesAt(braided, "idle", "east")).toEqual(imagesAt(braided, "idle", "west"));
  });

  test("leaves out what another part hides: a group, or a whole slot", () => {
    expect(imagesAt(wearing("braid", "cap"), "idle", "south")).toEqual([
      "braid-back.png",
      "plain.png",
      "braid.png",
      "plain/cap.png",
    ]);
    expect(imagesAt(wearing("braid", "helm"), "idle", "south")).toEqual(["plain.png", "part.png"]);
  });

  test("shows the layer of the hand the part is in", () => {
    expect(imagesAt(wearing("lamp"), "idle", "south")).toEqual(["plain.png", "lamp-right.png"]);
    const left = applyEdit(layered, plain, { wear: "lamp", in: "hand-left" }).character;
    expect(imagesAt(left, "idle", "south")).toEqual(["plain.png", "lamp-left.png"]);
  });

  test("colors follow the character, and the default when nothing is painted or offered", () => {
    const rampOf = (character: Character) =>
      resolveLook(layered, character).layers.find(({ part: id }) => id === "cap")?.recolor?.ramp;
    const capped = wearing("cap");
    expect(rampOf(capped)).toBe("red");
    expect(rampOf(applyEdit(layered, capped, { paint: "dye", ramp: "blue" }).character)).toBe("blue");
    expect(rampOf({ ...capped, colors: { dye: "green" } })).toBe("red");
  });

  test("has a key that is equal for equal looks and another for another look", () => {
    const keyOf = (character: Character) => resolveLook(layered, character).key;
    expect(keyOf(wearing("cap", "braid"))).toBe(keyOf({ ...wearing("braid", "cap"), name: "Heron", id: "heron" }));
    expect(keyOf(wearing("cap"))).not.toBe(keyOf(wearing("helm")));
    expect(keyOf(wearing("cap"))).not.toBe(keyOf({ ...wearing("cap"), colors: { dye: "blue" } }));
  });

  test("has another key when the same picture hangs elsewhere", () => {
    const points = { frames: { left: { idle: { south: [0, 0] } }, right: { idle: { south: [3, 0] } } } };
    const layers: readonly object[] = [
      {},
      { offset: [1, 0] },
      { scale: 2 },
      { attach: { point: "left" } },
      { attach: { point: "right" } },
      { attach: { point: "right", at: [1, 1] } },
      { attach: { point: "right", toward: "left", along: [1, 1] } },
      { opacity: 0.5 },
      { depth: { default: 0, west: 9 } },
    ];
    const keys = layers.map((layer) => {
      const art = [{ image: "a.png", depth: 0, ...layer }];
      const catalog = smallCatalog({ bodies: { plain: { rig: "rig", points, art } } });
      return resolveLook(catalog, createCharacter(catalog, { body: "plain" })).key;
    });
    expect(new Set(keys).size).toBe(layers.length);
  });

  test("a body the catalog does not have is a broken call", () => {
    expect(() => resolveLook(layered, { ...plain, body: "plan" })).toThrow(
      expect.objectContaining({ code: "unknown-body" }),
    );
  });
});

describe("a moment", () => {
  test("picks the row of animation and facing and the column of the time", () => {
    const [cel] = celsAt(resolveLook(layered, plain), { animation: "walk", facing: "west", time: 0.375 });
    expect(cel).toMatchObject({ source: { x: 12, y: 12, width: 4, height: 4 }, x: -2, y: -4, flip: false });
  });

  test("a mirrored facing uses the drawn one, turned around the origin", () => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          frame: { width: 10, height: 4 },
          origin: [3, 4],
          facings: ["west", { id: "east", mirror: "west" }],
          animations: { idle: { frames: 1, fps: 1 } },
        },
      },
    });
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    const at = (facing: string) => celsAt(look, { animation: "idle", facing, time: 0 })[0];
    expect([at("west")?.x, at("west")?.flip]).toEqual([-3, false]);
    expect([at("east")?.x, at("east")?.flip]).toEqual([-7, true]);
    expect(at("east")?.source).toEqual(at("west")?.source);
  });

  test.each([
    [0, 0],
    [0.124, 0],
    [0.125, 1],
    [0.3 + 0.075, 3],
    [0.5, 0],
    [100.125, 1],
    [-0.01, 3],
  ])("at %d seconds a walk of 4 frames at 8 a second shows frame %d", (time, frame) => {
    expect(frameAt({ sequence: [0, 1, 2, 3], ends: [0.125, 0.25, 0.375, 0.5], loop: true }, time)).toBe(frame);
  });

  test("a layer without the animation shows what it says, or else nothing", () => {
    expect(imagesAt(wearing("still"), "walk", "south")).toEqual(["plain.png", "still.png"]);
    expect(imagesAt(wearing("gone"), "walk", "south")).toEqual(["plain.png"]);
    expect(imagesAt(wearing("gone"), "idle", "south")).toEqual(["plain.png", "gone.png"]);
    const cel = celsAt(resolveLook(layered, wearing("still")), { animation: "walk", facing: "west", time: 0.5 })[1];
    expect(cel?.source).toEqual({ x: 4, y: 4, width: 4, height: 4 });
  });

  test("animations that fall back in a circle show nothing, and come to an end", () => {
    const animations = {
      idle: { frames: 1, fps: 1 },
      row: { frames: 1, fps: 1, else: "wade" },
      wade: { frames: 1, fps: 1, else: "row" },
    };
    const catalog = smallCatalog({
      rigs: { rig: { frame: { width: 1, height: 1 }, origin: [0, 0], facings: ["south"], animations } },
      bodies: { plain: { rig: "rig", art: [{ image: "idle.png", depth: 0, animations: ["idle"] }] } },
    });
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    expect(celsAt(look, { animation: "row", facing: "south", time: 0 })).toEqual([]);
  });

  test.each([
    ["unknown-animation", { animation: "wlk", facing: "south", time: 0 }, /"walk" if that is meant/],
    ["unknown-facing", { animation: "walk", facing: "up", time: 0 }, /There are "south", "west", "east"/],
  ])("%s is a broken call", (code, moment, words) => {
    const ask = () => celsAt(resolveLook(layered, plain), moment);
    expect(ask).toThrow(MantleError);
    expect(ask).toThrow(expect.objectContaining({ code }));
    expect(ask).toThrow(words);
  });
});

describe("a layer", () => {
  const tall = { extends: "plain" };
  const drawn = (layer: object, facing = "south", animation = "idle", body = "plain") => {
    const catalog = smallCatalog({
      bodies: {
        plain: { rig: "rig", art: [{ image: "{body}.png", depth: 0, ...layer }] },
        tall,
        taller: { extends: "tall" },
      },
    });
    const look = resolveLook(catalog, createCharacter(catalog, { body }));
    return celsAt(look, { animation, facing, time: 0.5 }).map(({ source, x, y, width, height, flip }) => [
      [source.x, source.y],
      [x, y, width, height],
      flip,
    ]);
  };

  test.each<[string, object, string, string, string, unknown]>([
    ["is moved", { offset: [1, -2] }, "south", "idle", "plain", [[[4, 0], [-1, -6, 4, 4], false]]],
    [
      "is moved the other way in a mirror",
      { offset: [1, -2] },
      "east",
      "idle",
      "plain",
      [[[4, 4], [-3, -6, 4, 4], true]],
    ],
    [
      "is moved for one body",
      { offset: { tall: [0, -3] } },
      "south",
      "idle",
      "tall",
      [[[4, 0], [-2, -7, 4, 4], false]],
    ],
    [
      "is moved for the body another extends",
      { offset: { tall: [0, -3] } },
      "south",
      "idle",
      "taller",
      [[[4, 0], [-2, -7, 4, 4], false]],
    ],
    [
      "is not moved for others",
      { offset: { tall: [0, -3] } },
      "south",
      "idle",
      "plain",
      [[[4, 0], [-2, -4, 4, 4], false]],
    ],
    ["is scaled", { scale: 1.5 }, "south", "idle", "plain", [[[4, 0], [-2, -4, 6, 6], false]]],
    ["is scaled for one body", { scale: { taller: 2 } }, "west", "idle", "taller", [[[4, 4], [-2, -4, 8, 8], false]]],
    ["is still", { still: true }, "west", "walk", "plain", [[[0, 4], [-2, -4, 4, 4], false]]],
    ["serves any facing", { facings: "any" }, "west", "walk", "plain", [[[0, 4], [-2, -4, 4, 4], false]]],
    ["serves any facing, mirrored", { facings: "any" }, "east", "idle", "plain", [[[4, 0], [-2, -4, 4, 4], true]]],
    [
      "has art of its own for a mirrored facing",
      { facings: ["east", "south"] },
      "east",
      "idle",
      "plain",
      [[[4, 0], [-2, -4, 4, 4], false]],
    ],
    ["is not shown in a facing it is not drawn for", { facings: ["south"] }, "west", "idle", "plain", []],
    [
      "is not shown in animations it is not drawn for",
      { animations: ["walk"], else: false },
      "south",
      "idle",
      "plain",
      [],
    ],
  ])("%s", (_name, layer, facing, animation, body, cels) => {
    expect(drawn(layer, facing, animation, body)).toEqual(cels);
  });

  test("of a picture for one facing, or a still one, has a smaller sheet, and the check says which", () => {
    const size = (layer: object) => {
      const catalog = smallCatalog({
        bodies: { plain: { rig: "rig", art: [{ image: "a.png", depth: 0, ...layer }] } },
      });
      return inWords(checkArt(catalog, new Map([["a.png", { width: 1, height: 1 }]]))[0]);
    };
    expect(size({})).toContain("16×16 in all");
    expect(size({ still: true })).toContain("4×8 in all");
    expect(size({ still: true, facings: "any" })).toContain("4×4 in all");
    expect(size({ facings: ["south", "west", "east"] })).toContain("16×24 in all");
    expect(size({ layout: { cell: { width: 10, height: 2 } } })).toContain("40×8 in all");
  });

  test("of a form is asked for like any other", () => {
    const catalog = smallCatalog({
      bodies: { plain: { rig: "rig", art: [{ image: "{body}.png", depth: 0 }] }, tall },
      forms: { wet: { when: { signal: "rain" }, bodies: ["tall"], art: [{ image: "{body}-wet.png", depth: 0 }] } },
    });
    expect(checkArt(catalog, new Map()).map(({ place }) => place.file)).toEqual([
      "plain.png",
      "tall.png",
      "tall-wet.png",
    ]);
    const form = (body: string) =>
      resolveLook(catalog, createCharacter(catalog, { body }), { signals: { rain: 1 } }).form;
    expect([form("plain"), form("tall")]).toEqual([undefined, "wet"]);
  });
});

describe("judging art", () => {
  const whole = { width: 16, height: 16 };
  const sizes = (body: Size | undefined, more: Readonly<Record<string, Size>> = {}) =>
    new Map<string, Size | undefined>([["plain.png", body], ...Object.entries(more)]);
  const catalog = smallCatalog();

  test("a picture that divides into its cells is fine", () => {
    expect(checkArt(catalog, sizes(whole))).toEqual([]);
  });

  test.each<[string, ReadonlyMap<string, Size | undefined>, string, RegExp]>([
    ["missing", new Map(), "missing-picture", /Draw it/],
    ["not a PNG", sizes(undefined), "bad-picture", /Save it again/],
    ["cut short", sizes({ width: 16, height: 15 }), "grid-mismatch", /cut short/],
    ["of other cells", sizes({ width: 28, height: 20 }), "grid-mismatch", /7×5 pixels, give the layer a "layout"/],
    ["twice as large", sizes({ width: 32, height: 32 }), "grid-mismatch", /2 times the size of the rig, 8×8 pixels/],
    ["short of an animation", sizes({ width: 16, height: 8 }), "grid-mismatch", /4×2 pixels|animations/],
    [
      "the same from all sides",
      sizes({ width: 16, height: 8 }),
      "grid-mismatch",
      /2 of 4 rows, as for one facing.*"facings": "any"/,
    ],
    ["used by no layer", sizes(whole, { "old.png": whole }), "unused-picture", /remove the file/],
  ])("a picture that is %s is a problem with its mend", (_name, found, code, words) => {
    const [problem] = checkArt(catalog, found);
    expect(problem?.code).toBe(code);
    expect(problem?.fixes.map(inWords).join(" ")).toMatch(words);
  });

  test("a sheet with rows and columns swapped is reported as such", () => {
    const rigs = {
      rig: {
        frame: { width: 4, height: 4 },
        origin: [2, 4],
        facings: ["south"],
        animations: { idle: { frames: 3, fps: 2 } },
      },
    };
    const [problem] = checkArt(smallCatalog({ rigs }), sizes({ width: 4, height: 12 }));
    expect(inWords(problem?.fixes[0])).toMatch(/Rows and columns are swapped/);
  });

  test("every picture of the demo is asked for on every body", () => {
    const problems = checkArt(demo, new Map());
    expect(problems.every(({ code }) => code === "missing-picture")).toBe(true);
    for (const body of demo.bodies.keys())
      expect(problems.some(({ place }) => place.file === `art/${body}/storm-hat.png`)).toBe(true);
  });
});
