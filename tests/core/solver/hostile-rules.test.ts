import { describe, expect, test } from "@jest/globals";
import { allOptions, type Catalog, checkLoadout, createCharacter, MantleError, optionsFor } from "zealous-mantle";
import { surveyRules } from "zealous-mantle/authoring";
import { completeLoadout, countLoadouts, repairLoadout, rollCharacter, solver } from "zealous-mantle/solver";
import { randomFrom } from "../../../src/core/base/random.ts";
import { demo } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { inWords } from "../../in-words.ts";
import { gear, part, smallCatalog } from "../../small-catalog.ts";

const bare = (catalog: Catalog) => createCharacter(catalog, { body: "plain" });

describe("rules that contradict each other", () => {
  const catalog = smallCatalog({
    slots: { hat: gear, coat: gear, belt: gear },
    parts: { cap: part("hat"), cloak: part("coat"), sash: part("belt"), rope: part("belt") },
    rules: [
      { if: "part:cap", needs: "part:cloak", message: "A cap is pinned to a cloak." },
      { if: "part:cloak", needs: "part:sash" },
      { never: ["part:cap", "part:sash"] },
      { if: "part:rope", needs: { not: "part:sash" } },
    ],
  });

  test("are named with a proof of which nothing can be left out", () => {
    const { problems, isProven } = surveyRules(catalog);
    expect(isProven).toBe(true);
    expect(problems.map(({ code, place }) => [code, place.pointer])).toEqual([
      ["part-never-worn", "/parts/cap"],
      ["rule-never-fires", "/rules/3"],
    ]);
    expect(inWords(problems[0])).toBe(
      '"cap" can never be worn. With "cap" there must be "cloak". With "cloak" there must be "sash". Never together: "cap" and "sash".',
    );
    expect(problems[0]?.chain).toEqual([
      { kind: "body", id: "plain" },
      { kind: "worn", part: "cap", slot: "hat", issued: false },
      { kind: "rule", number: 0, message: "A cap is pinned to a cloak." },
      { kind: "rule", number: 1, message: undefined },
      { kind: "rule", number: 2, message: undefined },
    ]);
  });

  test("leave no way to wear the part, and the repair takes it off", () => {
    expect(optionsFor(catalog, bare(catalog), "hat", { solver })[0]).toMatchObject({
      state: "blocked",
      editsToWear: undefined,
    });
    const broken = { ...bare(catalog), loadout: { hat: "cap" } };
    expect(repairLoadout(catalog, broken)).toEqual({
      edits: [{ remove: "hat" }],
      changes: 1,
      lowerBound: 1,
      isProven: true,
    });
    expect(completeLoadout(catalog, broken)).toMatchObject({ edits: undefined, isProven: true });
  });

  test("that leave nothing valid are said, and no search runs on", () => {
    const none = smallCatalog({
      slots: { hat: gear },
      parts: { cap: part("hat") },
      rules: [
        { count: "slot:hat", atLeast: 1 },
        { count: "part:cap", atMost: 0 },
      ],
    });
    expect(countLoadouts(none, { body: "plain" })).toMatchObject({ count: 0n, isProven: true });
    expect(repairLoadout(none, bare(none))).toMatchObject({ edits: undefined, isProven: true });
    expect(() => rollCharacter(none, { seed: 1 })).toThrow(expect.objectContaining({ code: "nothing-to-roll" }));
    expect(surveyRules(none).problems.map(({ code }) => code)).toEqual(["part-never-worn"]);
  });
});

describe("a repair", () => {
  test("keeps what the player chose last, then appearance, then what is worn", () => {
    const broken = { ...createCharacter(demo, { body: "reed" }), loadout: { neck: "hood-up", hat: "lamp-crown" } };
    expect(repairLoadout(demo, broken, { recent: ["neck", "hat"] }).edits).toEqual([{ remove: "neck" }]);
    expect(repairLoadout(demo, broken, { recent: ["hat", "neck"] }).edits).toEqual([{ remove: "hat" }]);
    expect(repairLoadout(demo, broken, { keep: ["hat"] }).edits).toEqual([{ remove: "neck" }]);
    const chained = { ...broken, loadout: { chain: "watch-chain" } };
    expect(repairLoadout(demo, chained).edits).toEqual([{ wear: "waistcoat", in: "vest" }]);
    expect(repairLoadout(demo, chained, { wardrobe: "bag" }).edits).toEqual([{ remove: "chain" }]);
  });

  test("fills required slots without a default, and paints what is not offered", () => {
    const catalog = smallCatalog({
      slots: { feet: { ...gear, required: true } },
      parts: { clogs: part("feet"), boots: part("feet") },
      ramps: { plain: ["#000000"] },
      channels: { cloth: { ramps: ["plain"], default: "plain", key: ["#000000"] } },
    });
    const character = { ...bare(catalog), colors: { cloth: "gone" } };
    const { edits = [] } = repairLoadout(catalog, character);
    expect(edits).toEqual([
      { wear: "clogs", in: "feet" },
      { paint: "cloth", ramp: "plain" },
    ]);
    expect(checkLoadout(catalog, edited(catalog, character, ...edits))).toEqual([]);
  });

  test("says when it gave up, and refuses a body that is not there", () => {
    const broken = { ...createCharacter(demo, { body: "reed" }), loadout: { neck: "hood-up", hat: "lamp-crown" } };
    expect(repairLoadout(demo, broken, { budget: 0 })).toMatchObject({ edits: undefined, isProven: false });
    expect(() => repairLoadout(demo, { ...broken, body: "elm" })).toThrow(MantleError);
  });
});

describe("size", () => {
  test("a slot of 5,000 parts and a hundred tags are judged, counted and rolled", () => {
    const many = Object.fromEntries(
      Array.from({ length: 5_000 }, (_, number) => [
        `cap-${number}`,
        part("hat", { tags: [`tag-${number % 100}`], gives: { weight: number % 3 } }),
      ]),
    );
    const catalog = smallCatalog({
      slots: { hat: gear, coat: gear, empty: gear },
      parts: { ...many, cloak: part("coat", { gives: { weight: 2 } }) },
      rules: [
        ...Array.from({ length: 50 }, (_, number) => ({ never: [`tag:tag-${number}`, "part:cloak"] })),
        { total: "weight", atMost: 3 },
      ],
    });
    const cloaked = edited(catalog, bare(catalog), { wear: "cloak" });
    const states = [...allOptions(catalog, cloaked).values()].flat().map(({ state }) => state);
    // Half of the caps have a tag that goes with the cloak, and of those two in three are light enough.
    const light = Array.from({ length: 5_000 }, (_, number) => number).filter(
      (number) => number % 100 >= 50 && number % 3 < 2,
    ).length;
    expect(states.filter((state) => state === "ready")).toHaveLength(light);
    expect(countLoadouts(catalog, { body: "plain" })).toMatchObject({
      count: BigInt(5_001 + 1 + light),
      isProven: true,
    });
    expect(checkLoadout(catalog, rollCharacter(catalog, { seed: 4 }))).toEqual([]);
    expect(surveyRules(catalog).problems).toEqual([]);
  });

  test("a tight catalog of 60 slots and 120 rules is mended within the budget, or given up", () => {
    const random = randomFrom(2);
    const pick = () => random.pick(tags) ?? "";
    const slots = Array.from({ length: 60 }, (_, number) => `s${number}`);
    const tags = Array.from({ length: 40 }, (_, number) => `t${number}`);
    const parts = Object.fromEntries(
      slots.flatMap((slot) =>
        [0, 1, 2, 3].map((number) => {
          const weight = 1 + Math.floor(random.next() * 9);
          return [`${slot}-${number}`, { tags: [...new Set([pick(), pick()])], gives: { weight }, slot }] as const;
        }),
      ),
    );
    // The first part of each slot, worn together, keeps every rule; little else does.
    const planted = Object.fromEntries(slots.map((slot) => [slot, `${slot}-0`]));
    const worn = Object.values(planted).flatMap((id) => parts[id] ?? []);
    const hasTag = new Set(worn.flatMap((each) => each.tags));
    const rules: object[] = [{ total: "weight", atMost: worn.reduce((sum, { gives }) => sum + gives.weight, 0) }];
    while (rules.length < 120) {
      const [one, other] = [pick(), pick()];
      if (one === other) continue;
      if (!hasTag.has(one) || !hasTag.has(other)) rules.push({ never: [`tag:${one}`, `tag:${other}`] });
      if (!hasTag.has(one) || hasTag.has(other)) rules.push({ if: `tag:${one}`, needs: `tag:${other}` });
    }
    const catalog = smallCatalog({
      slots: Object.fromEntries(slots.map((slot) => [slot, { ...gear, required: true }])),
      parts: Object.fromEntries(Object.entries(parts).map(([id, { slot, ...more }]) => [id, part(slot, more)])),
      rules,
    });
    expect(checkLoadout(catalog, { ...bare(catalog), loadout: planted })).toEqual([]);
    const loadout = Object.fromEntries(slots.map((slot) => [slot, `${slot}-${Math.floor(random.next() * 4)}`]));
    const broken = { ...bare(catalog), loadout };
    const { edits, isProven } = repairLoadout(catalog, broken);
    if (edits === undefined) expect(isProven).toBe(false);
    else expect(checkLoadout(catalog, edited(catalog, broken, ...edits))).toEqual([]);
  });

  test("huge totals are bounded like any others", () => {
    const catalog = smallCatalog({
      slots: { hat: gear, coat: gear },
      parts: {
        cap: part("hat", { gives: { weight: 1e300 } }),
        cloak: part("coat", { gives: { weight: { add: 1e300, times: 1e300 } } }),
      },
      rules: [{ total: "weight", atMost: 1e300 }],
    });
    expect(countLoadouts(catalog, { body: "plain" })).toMatchObject({ count: 2n, isProven: true });
    const both = { ...bare(catalog), loadout: { hat: "cap", coat: "cloak" } };
    expect(checkLoadout(catalog, both).map(({ code }) => code)).toEqual(["total-too-high"]);
    expect(repairLoadout(catalog, both)).toMatchObject({ changes: 1, isProven: true });
  });
});

describe("rolls", () => {
  test("in the demo bring up every part that can be worn without an answer", () => {
    const seen = new Set<string>();
    for (let seed = 0; seed < 600; seed += 1) {
      const character = rollCharacter(demo, { seed });
      expect(checkLoadout(demo, character)).toEqual([]);
      for (const id of Object.values(character.loadout)) seen.add(id);
    }
    const issued = [...demo.slots.values()].flatMap((slot) => (slot.required ? (slot.default ?? []) : []));
    const missing = [...demo.parts.keys()].filter((id) => !seen.has(id) && !issued.includes(id));
    expect(missing).toEqual(["lamplighter-badge"]);
    const keeper = rollCharacter(demo, {
      seed: 1,
      facts: { trade: "lamps" },
      weights: { rare: 1e6 },
      emptyChance: 0,
    });
    expect(keeper.loadout).toMatchObject({ badge: "lamplighter-badge", charm: "moon-charm" });
  });

  test("keep what they are asked to, and leave out what has no weight", () => {
    const wren = edited(
      demo,
      createCharacter(demo, { body: "reed", name: "Wren", id: "wren" }),
      { wear: "braid" },
      { paint: "hair", ramp: "silver" },
    );
    for (let seed = 0; seed < 30; seed += 1) {
      const keep = { character: wren, body: true, slots: ["hair", "hat"], channels: ["hair"] };
      const rolled = rollCharacter(demo, { seed, keep, weights: { rare: 0, uncommon: 0 } });
      expect(rolled).toMatchObject({
        id: "wren",
        name: "Wren",
        body: "reed",
        loadout: { hair: "braid" },
        colors: { hair: "silver" },
      });
      expect(rolled.loadout["hat"]).toBeUndefined();
      expect(Object.values(rolled.loadout).every((id) => demo.parts.get(id)?.rarity === undefined)).toBe(true);
    }
  });
});
