import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  applyEdit,
  type Character,
  checkLoadout,
  createCharacter,
  format,
  optionsFor,
  readCatalog,
  statsOf,
} from "zealous-mantle";
import { ruleMessages, surveyRules } from "zealous-mantle/authoring";
import { messages } from "zealous-mantle/locales/en";
import { repairLoadout, solver } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { gear, part, smallCatalog, smallSource } from "../../small-catalog.ts";

const slots = { hat: gear, coat: gear, belt: gear, charm: gear };
const bodies = {
  plain: { rig: "rig", stats: { strength: 4, warmth: 1 } },
  frail: { extends: "plain", stats: { strength: 0 } },
};
const catalog = smallCatalog({
  slots,
  bodies,
  stats: { warmth: { min: 0, max: 10 }, speed: { min: 1 } },
  parts: {
    cap: part("hat", { gives: { warmth: 2 } }),
    furs: part("coat", { gives: { warmth: { add: 3, times: 2 }, speed: { add: -4 } }, requires: { strength: 4 } }),
    brace: part("belt", { gives: { strength: 3 } }),
    anchor: part("charm", { gives: { strength: 9, weight: 5 }, requires: { strength: 5 } }),
  },
});
const plain = createCharacter(catalog, { body: "plain" });
const wearing = (character: Character, ...parts: readonly string[]): Character =>
  parts.reduce((before, wear) => {
    const result = applyEdit(catalog, before, { wear });
    if (!result.ok) throw new Error(result.problems[0]?.code);
    return result.character;
  }, character);

describe("stats", () => {
  test("are the body's and the parts', sums first, then products, then bounds", () => {
    expect(statsOf(catalog, plain)).toEqual({ strength: 4, warmth: 1 });
    expect(statsOf(catalog, wearing(plain, "cap"))).toEqual({ strength: 4, warmth: 3 });
    // (1 + 3) × 2 = 8 warmth; −4 speed is kept at its least, 1.
    expect(statsOf(catalog, wearing(plain, "furs"))).toEqual({ strength: 4, warmth: 8, speed: 1 });
    // (1 + 2 + 3) × 2 = 12, kept at its most, 10.
    expect(statsOf(catalog, wearing(plain, "cap", "furs")).warmth).toBe(10);
  });

  test("do not depend on the order in which parts were put on", () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(["cap", "furs", "brace"]), (order) => {
        expect(statsOf(catalog, wearing(plain, ...order))).toEqual(
          statsOf(catalog, wearing(plain, ...order.toSorted())),
        );
      }),
    );
  });

  test("of a body the catalog does not have are none", () => {
    expect(statsOf(catalog, { ...plain, body: "elm" })).toEqual({});
  });

  test("with bounds that leave nothing are a problem", () => {
    const { problems } = readCatalog(smallSource({ stats: { warmth: { min: 3, max: 2 } } }));
    expect(problems.map(({ code, place }) => [code, place.pointer])).toEqual([["empty-bounds", "/stats/warmth/min"]]);
  });
});

describe("a set", () => {
  const storm = smallCatalog({
    slots,
    bodies,
    parts: {
      cap: part("hat", { gives: { warmth: 1 } }),
      oilskin: part("coat", { tags: ["oiled"] }),
      brace: part("belt"),
      anchor: part("charm", { requires: { strength: 6 } }),
    },
    rules: [
      {
        set: ["part:cap", "tag:oiled", "part:brace"],
        atLeast: 2,
        gives: { warmth: { add: 2, times: 3 }, strength: 2 },
      },
      { set: ["part:cap", "tag:oiled", "part:brace"], gives: { strength: 3 }, message: "Dressed for a storm." },
      { total: "strength", atMost: 8 },
    ],
  });
  const bare = createCharacter(storm, { body: "plain" });
  const dressed = (...wears: readonly string[]) =>
    wears.reduce((before, wear) => applyEdit(storm, before, { wear }).character, bare);

  test("gives something more while enough of it is worn, and more for all of it", () => {
    expect(statsOf(storm, dressed("cap"))).toEqual({ strength: 4, warmth: 2 });
    // (1 + 1 + 2) × 3
    expect(statsOf(storm, dressed("cap", "oilskin"))).toEqual({ strength: 6, warmth: 12 });
    const whole = { ...bare, loadout: { hat: "cap", coat: "oilskin", belt: "brace" } };
    expect(statsOf(storm, whole)).toEqual({ strength: 9, warmth: 12 });
  });

  test("shows in options what it would give, and why the last piece is too much", () => {
    expect(optionsFor(storm, dressed("cap"), "coat", { solver })).toMatchObject([
      {
        state: "ready",
        stats: [
          { stat: "strength", before: 4, after: 6 },
          { stat: "warmth", before: 2, after: 12 },
        ],
      },
    ]);
    const [brace] = optionsFor(storm, dressed("cap", "oilskin"), "belt", { solver });
    expect(brace).toMatchObject({ state: "blocked", problems: [{ code: "total-too-high", params: { value: 9 } }] });
    expect(brace?.problems[0]?.chain).toEqual([
      { kind: "worn", part: "cap", slot: "hat", issued: false },
      { kind: "worn", part: "oilskin", slot: "coat", issued: false },
      { kind: "worn", part: "brace", slot: "belt", issued: false },
      { kind: "set", number: 0, message: undefined },
      { kind: "set", number: 1, message: "Dressed for a storm." },
      { kind: "stat", id: "strength", value: 9 },
      { kind: "rule", number: 2, message: undefined },
    ]);
  });

  test("is mended by the fewest edits, and meets what a part requires only without that part", () => {
    const whole = { ...bare, loadout: { hat: "cap", coat: "oilskin", belt: "brace" } };
    expect(repairLoadout(storm, whole)).toMatchObject({ changes: 1, isProven: true });
    expect(applyEdit(storm, dressed("cap"), { wear: "anchor" }).ok).toBe(false);
    const armed = applyEdit(storm, dressed("cap", "oilskin"), { wear: "anchor" });
    expect(armed.ok).toBe(true);
    expect(applyEdit(storm, armed.character, { remove: "hat" })).toMatchObject({
      ok: false,
      problems: [{ code: "need-unmet", params: { part: "anchor" } }],
    });
    const own = smallCatalog({
      slots,
      bodies,
      parts: { cap: part("hat"), glove: part("coat", { requires: { strength: 5 } }) },
      rules: [{ set: ["part:cap", "part:glove"], gives: { strength: 2 } }],
    });
    const capped = applyEdit(own, createCharacter(own, { body: "plain" }), { wear: "cap" }).character;
    expect(applyEdit(own, capped, { wear: "glove" })).toMatchObject({ ok: false, problems: [{ code: "need-unmet" }] });
    expect(surveyRules(own, { raised: [] }).problems.map(({ code }) => code)).toEqual([
      "part-never-worn",
      "set-never-worn",
    ]);
  });

  test("is said in a sentence", () => {
    expect(storm.rules.flatMap((rule) => ruleMessages(rule)).map((each) => format(each, messages))).toEqual([
      'Wearing 2 of "cap", something of the kind "oiled", and "brace" gives 2 more warmth, 3 times the warmth, and 2 more strength.',
      'Wearing 3 of "cap", something of the kind "oiled", and "brace" gives 3 more strength.',
      "Strength comes to 8 at most.",
    ]);
  });
});

describe("needs", () => {
  test("a part never helps to meet its own need", () => {
    const refused = applyEdit(catalog, plain, { wear: "anchor" });
    expect(refused).toMatchObject({
      ok: false,
      character: plain,
      problems: [{ code: "need-unmet", params: { part: "anchor", min: 5, stat: "strength", value: 4 } }],
    });
    expect(checkLoadout(catalog, wearing(plain, "brace", "anchor"))).toEqual([]);
  });

  test("what meets another's need cannot be taken off before it", () => {
    const braced = wearing(plain, "brace", "anchor");
    const result = applyEdit(catalog, braced, { remove: "belt" });
    expect(result).toMatchObject({
      ok: false,
      character: braced,
      problems: [{ code: "need-unmet", params: { part: "anchor", min: 5, stat: "strength" } }],
    });
    const lighter = applyEdit(catalog, braced, { remove: "charm" }).character;
    expect(applyEdit(catalog, lighter, { remove: "belt" }).ok).toBe(true);
  });

  test("a need that was unmet before does not stand in the way of other edits", () => {
    const broken = { ...plain, loadout: { charm: "anchor" } };
    expect(applyEdit(catalog, broken, { wear: "cap" }).ok).toBe(true);
    const [problem] = checkLoadout(catalog, broken, { solver });
    expect(problem).toMatchObject({
      code: "need-unmet",
      place: { pointer: "/loadout/charm" },
      fixes: [{ edits: [{ remove: "charm" }] }, { edits: [{ wear: "brace", in: "belt" }] }],
    });
  });

  test("a weaker body takes off what it cannot bear, one after another, and the bag has it", () => {
    const result = applyEdit(catalog, wearing(plain, "cap", "furs", "brace", "anchor"), { body: "frail" });
    expect(result).toMatchObject({
      ok: true,
      character: { body: "frail", loadout: { hat: "cap", belt: "brace" }, bag: { anchor: [1], furs: [1] } },
    });
    expect(checkLoadout(catalog, result.character)).toEqual([]);
  });

  test("options say each stat before and after, and why a part is blocked", () => {
    const [furs] = optionsFor(catalog, wearing(plain, "cap"), "coat", { solver });
    expect(furs).toMatchObject({
      state: "ready",
      stats: [
        { stat: "warmth", before: 3, after: 10 },
        { stat: "speed", before: 0, after: 1 },
      ],
    });
    expect(optionsFor(catalog, plain, "charm", { solver })).toMatchObject([
      { state: "blocked", problems: [{ code: "need-unmet" }] },
    ]);
  });

  test("in the demo, mittens give a reed the grip for a pocket anchor", () => {
    const wren = createCharacter(demo, { body: "reed" });
    expect(applyEdit(demo, wren, { wear: "anchor-charm" }).ok).toBe(false);
    const gloved = applyEdit(demo, wren, { wear: "mittens" }).character;
    expect(statsOf(demo, applyEdit(demo, gloved, { wear: "anchor-charm" }).character)).toMatchObject({
      strength: 5,
      luck: 3,
    });
  });
});
