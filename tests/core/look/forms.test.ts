import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  activeForms,
  applyEdit,
  checkLoadout,
  countGear,
  createCharacter,
  memoryStore,
  openSession,
  readCatalog,
  resolveLook,
} from "zealous-mantle";
import { extractPoints, pointImages } from "zealous-mantle/authoring";
import {
  animationOf,
  celsAt,
  createImage,
  durationOf,
  hasEnded,
  keepPose,
  pointAt,
  timedFrames,
} from "zealous-mantle/raster";
import { demo } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { runs } from "../../runs.ts";
import { appearance, gear, part, smallCatalog, smallSource } from "../../small-catalog.ts";

const wren = edited(
  demo,
  createCharacter(demo, { body: "reed", name: "Wren", id: "wren" }),
  { wear: "braid" },
  { paint: "hair", ramp: "silver" },
  { wear: "storm-hat" },
  { wear: "lantern", in: "hand-left" },
);

describe("forms", () => {
  test("last until their signal says so, and do not flicker at the threshold", () => {
    let before: readonly string[] = [];
    const shown = [5, 3, 2, 3, 2, 3, 4, 3].map((stamina) => {
      const look = resolveLook(demo, wren, { signals: { stamina }, before });
      before = look.activeForms;
      return look.form;
    });
    expect(shown).toEqual([undefined, undefined, "weary", "weary", "weary", "weary", undefined, undefined]);
  });

  test("are one at a time by priority, and one that waits behind another is not forgotten", () => {
    const tired = resolveLook(demo, wren, { signals: { stamina: 1 } });
    const wading = resolveLook(demo, wren, { signals: { stamina: 3, "in-water": true }, before: tired.activeForms });
    expect([wading.form, wading.activeForms]).toEqual(["wading", ["wading", "weary"]]);
    const ashore = resolveLook(demo, wren, { signals: { stamina: 3, "in-water": false }, before: wading.activeForms });
    expect(ashore.form).toBe("weary");
    expect(resolveLook(demo, wren, { signals: { stamina: 3, "in-water": 0 } }).form).toBeUndefined();
  });

  test("change what they say and nothing else, and leave nothing behind", () => {
    const plain = resolveLook(demo, wren);
    const weary = resolveLook(demo, wren, { signals: { stamina: 1 } });
    expect([animationOf(weary, "walk").id, animationOf(weary, "idle").id]).toEqual(["trudge", "idle"]);
    expect([plain.abilities, weary.abilities]).toEqual([
      ["walk", "run", "row", "call"],
      ["walk", "call"],
    ]);
    expect(weary.layers).toEqual(plain.layers);
    expect(weary.key).not.toBe(plain.key);
    expect(resolveLook(demo, wren, { signals: { stamina: 9 }, before: weary.activeForms })).toEqual(plain);
    const wading = resolveLook(demo, wren, { form: "wading" });
    const images = wading.layers.flatMap(({ images }) => images);
    expect(images).toContain("art/ripples.png");
    expect(images).not.toContain("art/reed/shadow.png");
    expect(() => resolveLook(demo, wren, { form: "wadign" })).toThrow(/no form "wadign". Write "wading"/);
  });

  test("may show other parts, colors and colliders, some layers only then, and some never", () => {
    const catalog = smallCatalog({
      slots: { hat: gear, boots: gear },
      ramps: { red: ["#ff0000"], ash: ["#888888"] },
      channels: { dye: { ramps: ["red"], default: "red", key: ["#000000"] } },
      parts: {
        cap: {
          slot: "hat",
          layers: [
            { image: "cap.png", depth: 1, channel: "dye" },
            { image: "glow.png", depth: 2, forms: ["ghost"] },
            { image: "feather.png", depth: 3, notForms: ["ghost"] },
          ],
        },
        clogs: part("boots"),
        fins: { slot: "boots", layers: [{ image: "fins.png", depth: 1 }] },
      },
      forms: {
        ghost: {
          when: [{ signal: "dead" }, { signal: "hour", atLeast: 20, atMost: 24 }],
          parts: { boots: null },
          colors: { dye: "ash" },
          opacity: 0.5,
          collider: { x: 0, y: 0, width: 1, height: 1 },
        },
        diver: { when: { signal: "depth", is: "deep" }, parts: { boots: "fins" } },
      },
    });
    const character = edited(catalog, createCharacter(catalog, { body: "plain" }), { wear: "cap" }, { wear: "clogs" });
    const of = (signals: Record<string, string | number | boolean>) => resolveLook(catalog, character, { signals });
    const images = (look: ReturnType<typeof of>) => look.layers.flatMap(({ images }) => images);
    expect(images(of({}))).toEqual(["plain.png", "cap.png", "feather.png", "part.png"]);
    const ghost = of({ dead: true, hour: 22 });
    expect(images(ghost)).toEqual(["plain.png", "cap.png", "glow.png"]);
    expect(ghost).toMatchObject({ opacity: 0.5, collider: { width: 1 } });
    expect(ghost.layers[1]?.recolor?.ramp).toBe("ash");
    expect(of({ dead: true, hour: 25 }).form).toBeUndefined();
    expect(images(of({ depth: "deep" }))).toContain("fins.png");
    expect(of({ depth: "deeper" }).form).toBeUndefined();
    expect(activeForms(catalog, { lineage: ["plain"] }, { dead: 1, hour: 20, depth: "deep" })).toEqual([
      "ghost",
      "diver",
    ]);
  });
});

test("a signal means the same in a rule, in a form and in a cue", async () => {
  const values = [undefined, true, false, 0, 1, 3, -1, Number.NaN, "", "0", "3", "3.0", "true", "false", "high", " "];
  for (const is of values) {
    const condition = is === undefined ? "signal:tide" : `signal:tide=${is}`;
    if (is === "" || Number.isNaN(is)) continue;
    const catalog = smallCatalog({
      slots: { hat: gear },
      parts: { cap: part("hat") },
      rules: [{ if: condition, needs: "part:cap" }],
      forms: { wet: { when: is === undefined ? { signal: "tide" } : { signal: "tide", is } } },
      cues: [{ on: "look", when: condition, do: [{ fact: "seen", value: "yes" }] }],
    });
    const plain = createCharacter(catalog, { body: "plain", id: "plain" });
    for (const tide of values) {
      const signals = tide === undefined ? {} : { tide };
      const session = await openSession({ catalog, store: memoryStore() });
      session.add(plain);
      session.seat(1).take("plain");
      session.signal(signals);
      const inRule = checkLoadout(catalog, plain, { signals }).length === 1;
      const inForm = resolveLook(catalog, plain, { signals }).form === "wet";
      const inCue = session.raise("look")[0]?.ok;
      expect([condition, tide, inForm, inCue]).toEqual([condition, tide, inRule, inRule]);
      await session.close({ discard: true });
    }
  }
});

describe("growing up", () => {
  const young = edited(
    demo,
    createCharacter(demo, { body: "reed-young", name: "Wren", id: "wren" }),
    { wear: "braid" },
    { paint: "hair", ramp: "silver" },
  );

  test("keeps every choice that fits, so a silver braid stays a silver braid", () => {
    const grown = applyEdit(demo, young, { grow: true });
    expect(grown).toMatchObject({
      ok: true,
      displaced: [],
      character: { body: "reed", loadout: { hair: "braid" }, colors: { hair: "silver" } },
    });
    const again = applyEdit(demo, grown.character, { grow: true });
    expect(again.ok ? [] : again.problems.map(({ code }) => code)).toEqual(["fully-grown"]);
  });

  test("exchanges what has a counterpart, takes off what has none, and reports both", () => {
    const catalog = smallCatalog({
      bodies: {
        small: { rig: "rig", art: [{ image: "s.png", depth: 0 }], growsInto: "tall" },
        tall: { rig: "rig", art: [{ image: "t.png", depth: 0 }] },
      },
      slots: { coat: gear, hat: gear, boots: gear },
      parts: {
        jacket: part("coat", { fits: ["small"], counterparts: { tall: "overcoat" } }),
        overcoat: part("coat", { fits: ["tall"] }),
        bonnet: part("hat", { fits: ["small"] }),
        clogs: part("boots"),
      },
    });
    const child = edited(
      catalog,
      createCharacter(catalog, { body: "small" }),
      { wear: "jacket" },
      { wear: "bonnet" },
      { wear: "clogs" },
    );
    const grown = applyEdit(catalog, child, { grow: true });
    expect(grown.ok && grown.displaced).toMatchObject([
      { part: "jacket", slot: "coat", to: "bag", becomes: "overcoat" },
      { part: "bonnet", slot: "hat", to: "bag" },
    ]);
    expect(grown.character).toMatchObject({
      loadout: { coat: "overcoat", boots: "clogs" },
      bag: { jacket: [1], bonnet: [1] },
    });
  });
});

describe("a change of body in play", () => {
  test("puts on only counterparts that are carried, and loses nothing on the way there and back", () => {
    const courier = {
      ...edited(demo, createCharacter(demo, { body: "oak" }), { wear: "mail-pack" }),
      bag: { oar: [2] },
    };
    const empty = applyEdit(demo, courier, { body: "oak-young" }, { wardrobe: "bag" });
    expect(empty.character).toMatchObject({ bag: { oar: [2], "mail-pack": [1] } });
    expect(empty.character.loadout["back"]).toBeUndefined();
    const carrying = { ...courier, bag: { satchel: [1] } };
    const smaller = applyEdit(demo, carrying, { body: "oak-young" }, { wardrobe: "bag" });
    expect(smaller.ok && smaller.displaced).toMatchObject([{ part: "mail-pack", to: "bag", becomes: "satchel" }]);
    expect(smaller.character).toMatchObject({ loadout: { back: "satchel" }, bag: { "mail-pack": [1] } });
    const back = applyEdit(demo, smaller.character, { grow: true }, { wardrobe: "bag" }).character;
    expect([...countGear(demo, back)].sort()).toEqual([...countGear(demo, carrying)].sort());
  });

  test("appearance gives way to its counterpart too, and comes from nowhere", () => {
    const catalog = smallCatalog({
      bodies: {
        small: { rig: "rig", art: [{ image: "s.png", depth: 0 }] },
        tall: { rig: "rig", art: [{ image: "t.png", depth: 0 }] },
      },
      slots: { hair: appearance },
      parts: {
        tufts: part("hair", { fits: ["small"], counterparts: { tall: "mane" } }),
        mane: part("hair", { fits: ["tall"], counterparts: { small: "tufts" } }),
      },
    });
    const child = edited(catalog, createCharacter(catalog, { body: "small" }), { wear: "tufts" });
    const grown = edited(catalog, child, { body: "tall" });
    expect(grown).toMatchObject({ loadout: { hair: "mane" }, bag: {} });
    expect(edited(catalog, grown, { body: "small" })).toEqual(child);
  });
});

describe("moments", () => {
  test("a one-shot stays on its last frame, and says that it has ended", () => {
    const look = resolveLook(demo, wren);
    const frames = [0, 0.124, 0.125, 0.625, 0.749, 0.75, 99].map((time) => {
      const [cel] = celsAt(look, { animation: "hail", facing: "south", time });
      return [(cel?.source.x ?? 0) / 64, hasEnded(look, { animation: "hail", facing: "south", time })];
    });
    expect(frames).toEqual([
      [0, false],
      [0, false],
      [1, false],
      [5, false],
      [5, false],
      [5, true],
      [5, true],
    ]);
    expect([durationOf(look, "hail"), hasEnded(look, { animation: "walk", facing: "south", time: 99 })]).toEqual([
      0.75,
      false,
    ]);
  });

  test("exactly on the border of two frames, the later one shows, however late it is", () => {
    const look = resolveLook(demo, wren);
    for (let frame = 0; frame < 100_000; frame += 37) {
      const [cel] = celsAt(look, { animation: "walk", facing: "south", time: frame / 10 });
      expect(cel?.source.x).toBe((frame % 8) * 64);
    }
  });

  test("the pose is kept through a change of clothes, body and form", () => {
    const look = resolveLook(demo, wren);
    const moment = { animation: "walk", facing: "west", time: 12.34 };
    const other = resolveLook(demo, edited(demo, wren, { body: "oak" }, { remove: "hat" }));
    expect(keepPose(look, other, moment)).toBe(moment);
    const weary = resolveLook(demo, wren, { form: "weary" });
    const kept = keepPose(look, weary, { ...moment, time: 0.4 });
    expect(kept.time * (7 / 8)).toBeCloseTo(0.4 * (10 / 8));
    expect(keepPose(weary, look, kept).time).toBeCloseTo(0.4);
  });

  test("the same frame is the same array, whenever it is asked for", () => {
    const look = resolveLook(demo, wren);
    const at = (time: number) => celsAt(look, { animation: "walk", facing: "east", time });
    expect(at(0.31)).toBe(at(0.39));
    expect(at(0.31)).toBe(at(0.31 + 0.8));
    expect(at(0.31)).not.toBe(at(0.41));
  });
});

describe("points", () => {
  test("are read from a marker picture: one pixel of a color in each cell", () => {
    const marks = createImage(16, 16);
    const mark = (x: number, y: number, color: readonly number[]) => marks.data.set([...color, 255], (y * 16 + x) * 4);
    mark(1, 2, [255, 0, 0]);
    mark(6, 3, [255, 0, 0]);
    mark(4 + 3, 4 + 1, [255, 0, 0]);
    const source = smallSource({
      bodies: { plain: { rig: "rig", points: { image: "{body}-marks.png", colors: { crown: "#ff0000" } } } },
    });
    expect(pointImages(source)).toEqual(["plain-marks.png"]);
    const read = readCatalog(source, {}, { pictures: new Map([["plain-marks.png", extractPoints(marks)]]) });
    expect(read.problems).toEqual([]);
    const catalog = read.catalog ?? demo;
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    const at = (facing: string, time: number) => pointAt(look, "crown", { animation: "idle", facing, time });
    expect([at("south", 0), at("south", 0.5), at("west", 0), at("west", 0.5), at("east", 0.5)]).toEqual([
      { x: -1, y: -2 },
      { x: 0, y: -1 },
      undefined,
      { x: 1, y: -3 },
      { x: -2, y: -3 },
    ]);
    mark(2, 2, [255, 0, 0]);
    const smeared = readCatalog(source, {}, { pictures: new Map([["plain-marks.png", extractPoints(marks)]]) });
    expect(smeared.problems[0]).toMatchObject({
      code: "smeared-point",
      params: { frame: 0, animation: "idle", facing: "south" },
    });
    const small = readCatalog(
      source,
      {},
      { pictures: new Map([["plain-marks.png", extractPoints(createImage(4, 4))]]) },
    );
    expect(small.problems[0]?.code).toBe("markers-mismatch");
  });

  test("a hat of one picture is on the crown in every frame of the demo", () => {
    for (const body of ["reed", "oak-young"]) {
      const look = resolveLook(demo, edited(demo, createCharacter(demo, { body }), { wear: "wool-cap" }));
      for (const animation of look.rig.animations.values()) {
        for (const facing of look.rig.facings.keys()) {
          for (const { time } of timedFrames(animation)) {
            const moment = { animation: animation.id, facing, time };
            const crown = pointAt(look, "crown", moment);
            const hats = celsAt(look, moment).filter(({ layer }) => layer.part === "wool-cap");
            expect(hats.length).toBeGreaterThan(0);
            for (const { x, y, flip } of hats)
              expect([x + (flip ? 64 - 1 - 31 : 31), y + 28]).toEqual([crown?.x, crown?.y]);
          }
        }
      }
    }
  });

  test("what is in the left hand stays in the left hand when the facing is mirrored", () => {
    const look = resolveLook(demo, wren);
    const held = (facing: string) =>
      celsAt(look, { animation: "idle", facing, time: 0 })
        .filter(({ layer }) => layer.part === "lantern")
        .map(({ image, flip }) => [image.includes("left"), flip]);
    expect(held("west")).toEqual([
      [true, false],
      [true, false],
    ]);
    expect(held("east")).toEqual([
      [false, true],
      [false, true],
    ]);
    // The left hand is near in the west and far in the east, so it is on the same side of the screen as the body's own.
    const hand = (facing: string) => pointAt(look, "hand-left", { animation: "idle", facing, time: 0 });
    const other = (facing: string) => pointAt(look, "hand-right", { animation: "idle", facing, time: 0 });
    expect(hand("east")?.x).toBe(-1 - (other("west")?.x ?? 0));
  });
});

test("looks are the same for the same choices, whatever was asked before", () => {
  fc.assert(
    fc.property(
      fc.array(fc.record({ stamina: fc.integer({ min: 0, max: 6 }), night: fc.boolean() }), { maxLength: 6 }),
      (walk) => {
        let before: readonly string[] = [];
        for (const signals of walk) before = resolveLook(demo, wren, { signals, before }).activeForms;
        const settled = resolveLook(demo, wren, { signals: { stamina: 9, night: false }, before });
        expect(settled).toEqual(resolveLook(demo, wren));
      },
    ),
    runs(50),
  );
});
