import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { applyEdit, type Character, checkLoadout, createCharacter, type Evidence, readCatalog } from "zealous-mantle";
import { solver } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { described, inWords } from "../../in-words.ts";
import { brokenSlowly, type RuleSource } from "../../oracles/judge-slowly.ts";
import { runs } from "../../runs.ts";
import { gear, part, smallCatalog, smallSource } from "../../small-catalog.ts";
import { type KnownWorld, loadoutIn, worlds } from "../generated-worlds.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });

describe("a part that needs another", () => {
  test("is refused while the other is missing, in words a player would understand", () => {
    const result = applyEdit(demo, wren, { wear: "watch-chain" });
    expect(result).toMatchObject({ ok: false, character: wren });
    expect(result.ok ? "" : result.problems.map(described)[0]).toBe(
      '/loadout/chain: With "watch-chain" there must be "waistcoat". A chain hangs from a waistcoat, or it hangs in the air. Put "waistcoat" on first.',
    );
  });

  test("keeps the other on, and the fix does what was wanted", () => {
    const chained = edited(demo, wren, { wear: "waistcoat" }, { wear: "watch-chain" });
    for (const edit of [{ remove: "vest" }, { wear: "cork-vest", in: "vest" }] as const) {
      const result = applyEdit(demo, chained, edit);
      const [fix] = result.ok ? [] : (result.problems[0]?.fixes ?? []);
      expect([inWords(fix), fix?.edits]).toEqual(['Take "watch-chain" off first.', [{ remove: "chain" }, edit]]);
      expect(checkLoadout(demo, edited(demo, chained, ...(fix?.edits ?? [])))).toEqual([]);
    }
  });

  test("is named when a loadout breaks it, with edits that mend it", () => {
    const broken: Character = { ...wren, loadout: { chain: "watch-chain" } };
    const [problem] = checkLoadout(demo, broken, { solver });
    expect(problem).toMatchObject({
      code: "needs-missing",
      fixes: [{ edits: [{ remove: "chain" }] }, { code: "do-edits", edits: [{ wear: "waistcoat", in: "vest" }] }],
    });
    expect(checkLoadout(demo, edited(demo, broken, ...(problem?.fixes[0]?.edits ?? [])))).toEqual([]);
  });
});

describe("counts and totals", () => {
  test("a third flame is one too many", () => {
    const bright = edited(demo, wren, { wear: "lantern" }, { wear: "lantern", in: "hand-left" });
    const result = applyEdit(demo, bright, { wear: "lamp-crown" });
    expect(result.ok ? [] : result.problems.map(inWords)).toEqual([
      'At most 2 of the kind "lamp" can be worn, not 3. The post office allows a courier two flames.',
    ]);
  });

  test("a total is held against another stat, and a weaker body lets things go", () => {
    const catalog = smallCatalog({
      bodies: { strong: { rig: "rig", stats: { carry: 9 } }, weak: { extends: "strong", stats: { carry: 4 } } },
      slots: { hat: gear, coat: gear, belt: gear },
      parts: {
        cap: part("hat", { gives: { weight: 3 } }),
        coat: part("coat", { gives: { weight: 5 } }),
        purse: part("belt", { gives: { weight: 2 } }),
      },
      rules: [{ total: "weight", atMost: { stat: "carry" } }],
    });
    const strong = edited(catalog, createCharacter(catalog, { body: "strong" }), { wear: "cap" }, { wear: "coat" });
    expect(applyEdit(catalog, strong, { wear: "purse" })).toMatchObject({
      ok: false,
      problems: [{ code: "total-too-high", params: { stat: "weight", value: 10, bound: 9 } }],
    });
    const weak = applyEdit(catalog, strong, { body: "weak" });
    expect(weak).toMatchObject({ ok: true, character: { loadout: { hat: "cap" }, bag: { coat: [1] } } });
    expect(checkLoadout(catalog, weak.character)).toEqual([]);
  });

  test("what is missing is said, and other edits go on", () => {
    const catalog = smallCatalog({
      slots: { hat: gear, coat: gear },
      parts: { cap: part("hat", { tags: ["warm"] }), coat: part("coat") },
      rules: [{ count: "tag:warm", atLeast: 1, message: "It is cold out there." }],
    });
    const bare = createCharacter(catalog, { body: "plain" });
    expect(checkLoadout(catalog, bare, { solver }).map(described)).toEqual([
      '/loadout: At least 1 of the kind "warm" must be worn, not 0. It is cold out there. To mend it, put on "cap" in slot "hat".',
    ]);
    const dressed = edited(catalog, bare, { wear: "coat" }, { wear: "cap" });
    expect(checkLoadout(catalog, dressed)).toEqual([]);
    expect(applyEdit(catalog, dressed, { remove: "hat" }).ok).toBe(false);
  });
});

describe("conditions", () => {
  const catalog = smallCatalog({
    bodies: { plain: { rig: "rig" }, tall: { extends: "plain" } },
    slots: { hat: gear, coat: gear },
    parts: { cap: part("hat"), hood: part("hat"), coat: part("coat", { occupies: ["hat"] }), cloak: part("coat") },
    outfits: { travel: { parts: ["hood", "cloak"] } },
    rules: [
      { if: "part:cap", needs: { any: ["body:tall", "fact:trade=pilot"] } },
      { if: "outfit:travel", needs: { not: "fact:trade=pilot" } },
      { if: { all: ["slot:coat", { not: "slot:hat" }] }, needs: "body:tall" },
    ],
  });
  const judged = (body: string, loadout: Character["loadout"], facts: Character["facts"] = {}) =>
    checkLoadout(catalog, { ...createCharacter(catalog, { body }), loadout, facts }).length;

  test("read bodies, facts, whole outfits and filled slots, by any, all and not", () => {
    expect([
      judged("plain", { hat: "cap" }),
      judged("tall", { hat: "cap" }),
      judged("plain", { hat: "cap" }, { trade: "pilot" }),
    ]).toEqual([1, 0, 0]);
    const pilot = { trade: "pilot" };
    expect([judged("plain", { hat: "hood", coat: "cloak" }, pilot), judged("plain", { hat: "hood" }, pilot)]).toEqual([
      1, 0,
    ]);
    // The coat fills the slot of the hat, so the hat's slot is not empty.
    expect([judged("plain", { coat: "cloak" }), judged("plain", { coat: "coat" })]).toEqual([1, 0]);
  });

  test("an outfit is put on in an order that works", () => {
    const chained = smallCatalog({
      slots: { vest: gear, chain: gear },
      parts: { chain: part("chain"), vest: part("vest") },
      outfits: { best: { parts: ["chain", "vest"] } },
      rules: [{ if: "part:chain", needs: "part:vest" }],
    });
    expect(edited(chained, createCharacter(chained, { body: "plain" }), { dress: "best" }).loadout).toEqual({
      chain: "chain",
      vest: "vest",
    });
  });
});

describe("a rule that cannot mean what it says is a problem", () => {
  const slots = { hat: gear };
  const parts = { cap: part("hat", { tags: ["wool"], gives: { warmth: 1 } }) };
  test.each<[string, RuleSource, string, string]>([
    ["nothing", { message: "Hm." }, "rule-of-no-kind", "/rules/0"],
    ["two kinds at once", { never: ["tag:wool", "part:cap"], atMost: 1 }, "rule-of-two-kinds", "/rules/0/atMost"],
    ["an if without needs", { if: "part:cap" }, "incomplete-rule", "/rules/0/if"],
    ["a set that gives nothing", { set: ["part:cap"] }, "incomplete-rule", "/rules/0/set"],
    ["a set of more than it has", { set: ["part:cap"], atLeast: 2, gives: {} }, "bound-of-set", "/rules/0/atLeast"],
    ["a set of nobody", { set: ["part:cpa"], gives: {} }, "unknown-part", "/rules/0/set/0"],
    ["a total without bounds", { total: "warmth" }, "rule-without-bounds", "/rules/0"],
    ["a stat nothing has", { total: "wramth", atMost: 1 }, "unknown-stat", "/rules/0/total"],
    [
      "a count bounded by a stat",
      { count: "tag:wool", atMost: { stat: "warmth" } },
      "bound-of-count",
      "/rules/0/atMost",
    ],
    [
      "a body that does not exist",
      { if: "part:cap", needs: { any: ["body:plian", "slot:hat"] } },
      "unknown-body",
      "/rules/0/needs/any/0",
    ],
    [
      "an outfit that does not exist",
      { if: { not: "outfit:best" }, needs: "part:cap" },
      "unknown-outfit",
      "/rules/0/if/not",
    ],
  ])("%s", (_name, rule, code, pointer) => {
    const { catalog, problems } = readCatalog(smallSource({ slots, parts, rules: [rule] }));
    expect(catalog).toBeUndefined();
    expect(problems.map((problem) => [problem.code, problem.place.pointer])).toContainEqual([code, pointer]);
  });

  test("conditions nested without end are refused, and the stack holds", () => {
    let condition: unknown = "part:cap";
    for (let depth = 0; depth < 50_000; depth += 1) condition = { not: condition };
    expect(
      readCatalog(smallSource({ slots, parts, rules: [{ if: condition, needs: "part:cap" }] })).problems.map(
        ({ code }) => code,
      ),
    ).toEqual(["beyond-limits"]);
  });
});

describe("on generated catalogs", () => {
  const picks = fc.array(fc.nat({ max: 11 }), { minLength: 4, maxLength: 4 });
  const bodies = fc.constantFrom("plain", "tall");

  test("the check agrees with the slow judge about every rule", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, ({ world, catalog }, pick, body) => {
        const loadout = loadoutIn(world, pick);
        const found = checkLoadout(catalog, { ...createCharacter(catalog, { body }), loadout }, { solver });
        const numbers = new Set(found.flatMap(({ chain }) => chain.flatMap((fact) => ruleNumber(fact))));
        expect([...numbers].sort()).toEqual(brokenSlowly(world, { body, loadout }));
      }),
      runs(2_000),
    );
  });

  test("no edit breaks what held before, and gear is conserved", () => {
    const edits = ({ world }: KnownWorld) =>
      fc.array(
        fc.oneof(
          fc.record({ wear: fc.constantFrom(...Object.keys(world.parts), "none") }),
          fc.record({ remove: fc.constantFrom(...Object.keys(world.slots)) }),
        ),
        { maxLength: 12 },
      );
    const played = worlds.chain((world) => fc.tuple(fc.constant(world), edits(world)));
    fc.assert(
      fc.property(played, bodies, ([{ world, catalog }, sequence], body) => {
        const partIds = Object.keys(world.parts).sort();
        let character: Character = {
          ...createCharacter(catalog, { body }),
          bag: Object.fromEntries(partIds.map((id) => [id, [1]])),
        };
        for (const edit of sequence) {
          const before = brokenSlowly(world, { body, loadout: character.loadout });
          character = applyEdit(catalog, character, edit, { wardrobe: "bag" }).character;
          const after = brokenSlowly(world, { body, loadout: character.loadout });
          expect(after.filter((number) => !before.includes(number))).toEqual([]);
          expect([...Object.keys(character.bag), ...Object.values(character.loadout)].sort()).toEqual(partIds);
        }
      }),
      runs(500),
    );
  });
});

function ruleNumber(fact: Evidence): readonly number[] {
  return fact.kind === "rule" ? [fact.number] : [];
}
