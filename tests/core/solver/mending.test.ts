import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  applyEdit,
  type Catalog,
  type Character,
  type Context,
  checkLoadout,
  createCharacter,
  type Edit,
  type LoadoutProblem,
  optionsFor,
} from "zealous-mantle";
import { surveyRules } from "zealous-mantle/authoring";
import { countLoadouts, repairLoadout, rollCharacter, solver } from "zealous-mantle/solver";
import { readSource, wearing } from "../../../bench/catalogs.ts";
import { type HardCase, hardCases } from "../../../bench/hard-catalogs.ts";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { everyLoadout, isValidSlowly, placesHoldSlowly, type World, wornSlowly } from "../../oracles/judge-slowly.ts";
import { isLong, runs } from "../../runs.ts";
import { gear, part, smallCatalog } from "../../small-catalog.ts";
import { catalogOf, loadoutIn, pool, worlds } from "../generated-worlds.ts";

const picks = fc.array(fc.nat({ max: 11 }), { minLength: 4, maxLength: 4 });
const bodies = fc.constantFrom("plain", "tall");
const bag = { "b-two": [1], "c-one": [1], "d-one": [1] };
const contexts = fc.constantFrom<Context>(
  {},
  { wardrobe: "bag" },
  { holdings: { "a-one": "listed", "b-two": "listed", "c-three": "secret" } },
  { stats: { carry: 2 } },
  { bagPlaces: 3 },
);

const bare = (catalog: Catalog) => createCharacter(catalog, { body: "plain" });

function afterEdits(catalog: Catalog, character: Character, edits: readonly Edit[], context: Context = {}): Character {
  return edits.reduce<Character>((before, edit) => {
    const result = applyEdit(catalog, before, edit, context);
    if (!result.ok) throw new Error(`${JSON.stringify(edit)}: ${result.problems.map(({ code }) => code).join(" ")}`);
    return result.character;
  }, character);
}

/** What makes a finding the same: its code and place, and the rule, or all it speaks of. */
function nameOf({ code, params, place, chain }: LoadoutProblem): string {
  const rule = chain.flatMap((fact) => (fact.kind === "rule" ? [fact.number] : []));
  return rule.length > 0 && code !== "never-together"
    ? `rule ${rule[0]}`
    : `${code} ${place.pointer} ${JSON.stringify(params)}`;
}

describe("fixes", () => {
  test("that are offered are accepted, and leave nothing of their finding", () => {
    fc.assert(
      fc.property(worlds, picks, bodies, contexts, ({ world, catalog }, pick, body, context) => {
        const character = { ...createCharacter(catalog, { body }), loadout: loadoutIn(world, pick), bag };
        const found = checkLoadout(catalog, character, { ...context, solver });
        for (const problem of found) {
          for (const { edits } of problem.fixes) {
            if (edits === undefined) continue;
            const later = checkLoadout(catalog, afterEdits(catalog, character, edits, context), context);
            const count = (problems: readonly LoadoutProblem[]) =>
              problems.filter((each) => nameOf(each) === nameOf(problem)).length;
            expect(count(later)).toBeLessThan(count(found));
          }
        }
      }),
      runs(250, 40_000),
    );
  });

  test("of a total take off as many parts as it takes, and of what is missing put something on", () => {
    const catalog = smallCatalog({
      slots: { a: gear, b: gear, c: gear, feet: { ...gear, required: true } },
      parts: {
        stone: part("a", { gives: { weight: 5 } }),
        anvil: part("b", { gives: { weight: 5 } }),
        chest: part("c", { gives: { weight: 5 } }),
        clogs: part("feet"),
      },
      rules: [{ total: "weight", atMost: 5 }],
    });
    const heavy = { ...bare(catalog), loadout: { a: "stone", b: "anvil", c: "chest" } };
    const [total, empty] = checkLoadout(catalog, heavy, { solver });
    expect([total?.fixes, empty?.fixes].map((fixes) => fixes?.map(({ edits }) => edits))).toEqual([
      [[{ remove: "b" }, { remove: "c" }]],
      [[{ wear: "clogs", in: "feet" }]],
    ]);
    expect([inWords(total), inWords(total?.fixes[0]), inWords(empty?.fixes[0])]).toEqual([
      "Weight comes to 15, and 5 is the most.",
      'To mend it, take off "anvil" and take off "chest".',
      'To mend it, put on "clogs" in slot "feet".',
    ]);
  });

  test("of what is not owned leave it behind, worn or carried, and so does the repair", () => {
    const catalog = smallCatalog({ slots: { hat: gear }, parts: { cap: part("hat"), crown: part("hat") } });
    const context: Context = { holdings: { crown: "listed", cap: "listed" } };
    const thief = { ...bare(catalog), loadout: { hat: "crown" }, bag: { cap: [1] } };
    const [worn, carried] = checkLoadout(catalog, thief, { ...context, solver });
    expect(worn?.fixes[0]?.edits).toEqual([{ remove: "hat" }, { drop: "crown" }]);
    expect(carried?.fixes[0]?.edits).toEqual([{ drop: "cap" }]);
    const { edits = [] } = repairLoadout(catalog, thief, context);
    const honest = afterEdits(catalog, thief, edits, context);
    expect([honest.loadout, honest.bag, checkLoadout(catalog, honest, context)]).toEqual([{}, {}, []]);
  });
});

describe("what is in the bag", () => {
  const catalog = smallCatalog({ slots: { hat: gear }, parts: { cap: part("hat"), flare: part("hat", { stack: 5 }) } });
  const carrying = { ...bare(catalog), bag: { flare: [5, 2], cap: [1] } };

  test("is left behind, all of it or so many, and never more than there is", () => {
    expect(applyEdit(catalog, carrying, { drop: "flare" }).character.bag).toEqual({ cap: [1] });
    expect(applyEdit(catalog, carrying, { drop: "flare", count: 3 }).character.bag).toEqual({ flare: [4], cap: [1] });
    for (const count of [0, 1.5, 8])
      expect(applyEdit(catalog, carrying, { drop: "flare", count })).toMatchObject({
        problems: [{ code: "cannot-drop" }],
      });
    expect(applyEdit(catalog, bare(catalog), { drop: "cap" })).toMatchObject({ problems: [{ code: "not-carried" }] });
  });

  test("leaves room, or is left alone, in a repair: its edits are accepted", () => {
    fc.assert(
      fc.property(
        worlds,
        picks,
        bodies,
        fc.nat({ max: 5 }),
        ({ world, catalog, valid, defaults }, pick, body, bagPlaces) => {
          const loadout = loadoutIn(world, pick);
          const character = { ...createCharacter(catalog, { body }), loadout, bag };
          const context = { bagPlaces, wardrobe: "open" } as const;
          const places = Math.max(bagPlaces, 3);
          const fits = valid(body, {}, loadout).filter((each) => stacksAfter(loadout, each) <= places);
          const { edits, changes, isProven } = repairLoadout(catalog, character, context);
          expect([isProven, edits === undefined]).toEqual([true, fits.length === 0]);
          if (edits === undefined) return;
          const mended = afterEdits(catalog, character, edits, context);
          expect(checkLoadout(catalog, mended).filter(({ severity }) => severity === "error")).toEqual([]);
          const shown = (each: Character["loadout"], slot: string) => each[slot] ?? defaults[slot];
          const distance = (each: Character["loadout"]) =>
            Object.keys(world.slots).filter((slot) => shown(each, slot) !== shown(loadout, slot)).length;
          expect(changes).toBe(Math.min(...fits.map(distance)));
        },
      ),
      runs(120),
    );
  });

  /** How many stacks there are once one loadout is exchanged for another; every part is a stack of its own. */
  function stacksAfter(before: Character["loadout"], after: Character["loadout"]): number {
    const counts = new Map(Object.keys(bag).map((id) => [id, 1]));
    const slots = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
      (slot) => before[slot] !== after[slot],
    );
    for (const old of slots.flatMap((slot) => before[slot] ?? [])) counts.set(old, (counts.get(old) ?? 0) + 1);
    for (const wanted of slots.flatMap((slot) => after[slot] ?? []))
      counts.set(wanted, Math.max(0, (counts.get(wanted) ?? 0) - 1));
    return [...counts.values()].reduce((sum, count) => sum + count, 0);
  }
});

describe("what was broken before", () => {
  const slots = { left: gear, right: gear, head: gear, back: gear };
  const catalog = smallCatalog({
    slots,
    parts: {
      lamp: part(["left", "right"]),
      oil: part(["head", "back"]),
      cloak: part("back", { occupies: ["head"] }),
      helm: part("left", { occupies: ["head"] }),
      hood: part("head"),
    },
    rules: [{ never: ["part:lamp", "part:oil"] }],
  });

  test("is the same in whatever slots it is", () => {
    const broken = { ...bare(catalog), loadout: { left: "lamp", back: "oil" } };
    // The two change the order of their slots, and nothing is worse.
    expect(applyEdit(catalog, broken, { together: [{ remove: "back" }, { wear: "oil", in: "head" }] }).ok).toBe(true);
  });

  test("lets no second clash slip through, though the part is the same", () => {
    const broken = { ...bare(catalog), loadout: { left: "lamp", back: "oil" } };
    expect(applyEdit(catalog, broken, { wear: "lamp", in: "right" })).toMatchObject({
      ok: false,
      problems: [{ code: "never-together" }],
    });
  });

  test("names all who take a slot, where three do", () => {
    const crowded = { ...bare(catalog), loadout: { head: "hood", back: "cloak", left: "helm" } };
    const [problem] = checkLoadout(catalog, crowded, { solver });
    expect(inWords(problem)).toBe('Only one of "helm", "hood", and "cloak" can take slot "head".');
    const [fix, ...others] = problem?.fixes ?? [];
    expect([others, fix?.edits?.length]).toEqual([[], 2]);
    expect(checkLoadout(catalog, afterEdits(catalog, crowded, fix?.edits ?? []))).toEqual([]);
  });
});

describe("a roll", () => {
  test("never has what has no weight, and is said to be impossible where nothing else will do", () => {
    const catalog = smallCatalog({
      slots: { feet: { ...gear, required: true, default: "clogs" }, hat: gear, neck: gear },
      parts: {
        clogs: part("feet", { rarity: "plain" }),
        boots: part("feet"),
        crown: part("hat", { rarity: "royal" }),
        scarf: part("neck"),
      },
      rules: [{ if: "part:scarf", needs: "part:crown" }],
    });
    for (let seed = 0; seed < 40; seed += 1) {
      const { loadout } = rollCharacter(catalog, { seed, weights: { royal: 0, plain: 0 }, emptyChance: 0 });
      expect(loadout).toEqual({ feet: "boots" });
    }
    const none = smallCatalog({
      slots: { feet: { ...gear, required: true } },
      parts: { boots: part("feet", { rarity: "royal" }) },
    });
    expect(() => rollCharacter(none, { seed: 1, weights: { royal: 0 } })).toThrow(
      "without parts of a weight of 0 (royal)",
    );
  });

  test("keeps what a slot shows: a default, nothing, or the part that takes it", () => {
    const catalog = smallCatalog({
      slots: { feet: { ...gear, required: true, default: "clogs" }, hat: gear, coat: gear },
      parts: {
        clogs: part("feet"),
        boots: part("feet"),
        cap: part("hat"),
        waders: part("coat", { occupies: ["feet", "hat"] }),
        jacket: part("coat"),
      },
    });
    const shows = (loadout: Character["loadout"], slots: readonly string[]) => {
      const keep = { character: { ...bare(catalog), loadout }, slots };
      return Array.from({ length: 60 }, (_, seed) => rollCharacter(catalog, { seed, keep, emptyChance: 0 }).loadout);
    };
    for (const loadout of shows({}, ["feet", "hat"])) expect(loadout).toEqual({ coat: "jacket" });
    for (const loadout of shows({ coat: "waders" }, ["hat"])) expect(loadout).toEqual({ coat: "waders" });
    expect(shows({ hat: "cap" }, ["hat"]).every(({ hat }) => hat === "cap")).toBe(true);
  });
});

describe("on generated catalogs, compared with trying everything", () => {
  test("a roll keeps what slots show, never has what has no weight, and says when there is no such loadout", () => {
    const locks = fc.subarray(["a", "b", "c", "d"]);
    fc.assert(
      fc.property(worlds, picks, bodies, locks, fc.boolean(), ({ world, valid }, pick, body, slots, weighed) => {
        const parts = Object.entries(world.parts).map(([id, each]) => [
          id,
          id.endsWith("-one") ? { ...each, rarity: "odd" } : each,
        ]);
        const catalog = catalogOf({ ...world, parts: Object.fromEntries(parts) });
        const loadout = loadoutIn(world, pick);
        fc.pre(placesHoldSlowly(world, { body, loadout }));
        const shown = (each: Character["loadout"], slot: string) => {
          const worn = wornSlowly(world, { body, loadout: each });
          const takes = ([own, id]: readonly [string, string]) =>
            own === slot || world.parts[id]?.occupies?.includes(slot);
          return JSON.stringify(worn.find(takes) ?? null);
        };
        const kept = slots.map((slot) => shown(loadout, slot));
        const isOdd = ([slot, id]: readonly [string, string]) =>
          id.endsWith("-one") && !kept.includes(JSON.stringify([slot, id]));
        const allowed = valid(body)
          .filter((each) => slots.every((slot, at) => shown(each, slot) === kept[at]))
          .filter((each) => !weighed || !wornSlowly(world, { body, loadout: each }).some(isOdd))
          .map((each) => JSON.stringify(Object.entries(each).sort()));
        const keep = { character: { ...createCharacter(catalog, { body }), loadout }, slots };
        for (let seed = 0; seed < 5; seed += 1) {
          const roll = () => rollCharacter(catalog, { seed, body, keep, weights: weighed ? { odd: 0 } : {} });
          if (allowed.length === 0) expect(roll).toThrow(expect.objectContaining({ code: "nothing-to-roll" }));
          else expect(allowed).toContain(JSON.stringify(Object.entries(roll().loadout).sort()));
        }
      }),
      runs(150),
    );
  });

  test("a repair counts what the game adds to stats", () => {
    fc.assert(
      fc.property(
        worlds,
        picks,
        bodies,
        fc.integer({ min: -3, max: 4 }),
        ({ world, catalog, defaults }, pick, body, carry) => {
          const raised = Object.entries(world.bodies).map(([id, stats]) => [
            id,
            { ...stats, carry: (stats["carry"] ?? 0) + carry },
          ]);
          const lifted = { ...world, bodies: Object.fromEntries(raised) };
          const loadout = loadoutIn(world, pick);
          const shown = (each: Character["loadout"], slot: string) => each[slot] ?? defaults[slot];
          const sizes = everyLoadout(world, loadout)
            .filter((each) => isValidSlowly(lifted, { body, loadout: each }))
            .map(
              (each) => Object.keys(world.slots).filter((slot) => shown(each, slot) !== shown(loadout, slot)).length,
            );
          const { edits, changes } = repairLoadout(
            catalog,
            { ...createCharacter(catalog, { body }), loadout },
            { stats: { carry } },
          );
          expect(edits === undefined ? Number.POSITIVE_INFINITY : changes).toBe(Math.min(...sizes));
        },
      ),
      runs(80),
    );
  });
});

describe("what is decided", () => {
  test("signals are compared as text, and do not hold while they are nothing", () => {
    const catalog = smallCatalog({
      slots: { hat: gear },
      parts: { cap: part("hat") },
      rules: [
        { if: "part:cap", needs: "signal:tide=3" },
        { if: "part:cap", needs: "signal:flood" },
      ],
    });
    const wears = (signals: NonNullable<Context["signals"]>) =>
      applyEdit(catalog, bare(catalog), { wear: "cap" }, { signals }).ok;
    expect([3, "3", 4].map((tide) => wears({ tide, flood: true }))).toEqual([true, true, false]);
    expect([true, 1, "yes", false, 0, ""].map((flood) => wears({ tide: 3, flood }))).toEqual([
      true,
      true,
      true,
      false,
      false,
      false,
    ]);
  });

  test("nobody has to own a default, and it does not yield to a rule; one part in two slots counts twice, and is no pair of its own", () => {
    const catalog = smallCatalog({
      slots: { feet: { ...gear, required: true, default: "clogs" }, left: gear, right: gear },
      parts: { clogs: part("feet", { access: "listed" }), lamp: part(["left", "right"]), eel: part("left") },
      rules: [
        { count: "part:lamp", atMost: 1 },
        { never: ["part:lamp", "part:eel"] },
        { never: ["part:clogs", "part:eel"], then: "displace" },
      ],
    });
    const codes = (loadout: Character["loadout"], context: Context = {}) =>
      checkLoadout(catalog, { ...bare(catalog), loadout }, context).map(({ code }) => code);
    expect(codes({}, { holdings: {} })).toEqual([]);
    expect(codes({ left: "lamp", right: "lamp" })).toEqual(["count-too-high"]);
    expect(applyEdit(catalog, bare(catalog), { wear: "eel" })).toMatchObject({
      problems: [{ code: "never-together" }],
    });
  });
});

describe("a survey", () => {
  const catalog = smallCatalog({
    bodies: { plain: { rig: "rig", stats: { strength: 4 } } },
    slots: { hat: gear, left: gear, right: gear },
    parts: { helm: part("hat", { requires: { strength: 7 } }), oar: part(["left", "right"]) },
    rules: [{ count: "part:oar", atMost: 0 }, { never: ["part:oar", "part:helm"] }],
  });
  const dead = (options: Parameters<typeof surveyRules>[1]) =>
    surveyRules(catalog, options).problems.flatMap(({ code, params }) =>
      code === "part-never-worn" ? [params["part"]] : [],
    );

  test("calls no part dead that the game makes wearable by what it adds to stats", () => {
    expect(applyEdit(catalog, bare(catalog), { wear: "helm" }, { stats: { strength: 3 } }).ok).toBe(true);
    expect([dead({}), dead({ raised: [] }), dead({ raised: ["strength"] })]).toEqual([
      ["oar"],
      ["helm", "oar"],
      ["oar"],
    ]);
  });

  test("says once what a part needs in whichever of its slots it goes", () => {
    const catalog = smallCatalog({
      slots: { left: gear, right: gear },
      parts: { shield: part(["left", "right"], { requires: { strength: 4 } }) },
      stats: { strength: {} },
    });
    const [problem] = surveyRules(catalog, { raised: [] }).problems;
    const needs = (problem?.chain ?? []).filter(({ kind }) => kind === "need");
    expect(needs).toEqual([{ kind: "need", part: "shield", stat: "strength", min: 4 }]);
  });

  test("names the need of the part itself, where rules do not tell it from another", () => {
    const catalog = smallCatalog({
      slots: { left: gear, right: gear },
      parts: {
        buckler: part(["left", "right"], { requires: { strength: 4 } }),
        shield: part("right", { requires: { strength: 4 } }),
      },
      stats: { strength: {} },
    });
    const { problems } = surveyRules(catalog, { raised: [] });
    const needy = problems.map(({ chain }) => chain.flatMap((link) => (link.kind === "need" ? [link.part] : [])));
    expect(needy).toEqual([["buckler"], ["shield"]]);
  });

  test("proves it with nothing that can be left out, in whatever slots the part goes", () => {
    for (const { world, catalog } of pool.slice(0, isLong ? 600 : 20)) {
      for (const { chain, params } of surveyRules(catalog, { raised: [] }).problems) {
        const part = params["part"];
        if (typeof part !== "string") continue;
        for (const links of proofsIn(chain)) {
          const [about, ...needed] = links.filter(({ kind }) => kind !== "worn");
          const body = about?.kind === "body" ? about.id : "";
          expect(canWear(within(world, needed), part, body)).toBe(false);
          for (const link of needed.filter(({ kind }) => kind !== "set")) {
            const fewer = needed.filter((each) => each !== link);
            expect([link, canWear(within(world, fewer), part, body)]).toEqual([link, true]);
          }
        }
      }
    }
  });

  /** The proofs for each body. */
  function proofsIn(chain: LoadoutProblem["chain"]): readonly LoadoutProblem["chain"][] {
    const starts = [...chain.keys()].filter((at) => chain[at]?.kind === "body");
    return starts.map((start, at) => chain.slice(start, starts[at + 1]));
  }

  function canWear(world: World, part: string, body: string): boolean {
    const answers = [{}, { trade: "pilot" }, { trade: "smith" }];
    return everyLoadout(world).some((loadout) =>
      answers.some(
        (facts) =>
          isValidSlowly(world, { body, loadout, facts }) &&
          wornSlowly(world, { body, loadout }).some(([, worn]) => worn === part),
      ),
    );
  }

  /** The world in which nothing counts but what some links of a proof say. */
  function within(world: World, links: LoadoutProblem["chain"]): World {
    const numbers = links.flatMap((link) => (link.kind === "rule" ? [link.number] : []));
    // What sets give is no rule that could be left out.
    const rules = world.rules.filter((rule, number) => rule["set"] !== undefined || numbers.includes(number));
    const required = links.flatMap((link) => (link.kind === "required" ? [link.slot] : []));
    const needy = links.flatMap((link) => (link.kind === "need" ? [link.part] : []));
    return {
      ...world,
      rules,
      slots: Object.fromEntries(
        Object.entries(world.slots).map(([id, slot]) => [
          id,
          slot.default === undefined && !required.includes(id) ? {} : slot,
        ]),
      ),
      parts: Object.fromEntries(
        Object.entries(world.parts).map(([id, { requires, ...own }]) => [
          id,
          needy.includes(id) && requires !== undefined ? { ...own, requires } : own,
        ]),
      ),
    };
  }
});

describe("the fewest changes", () => {
  const solve = ({ source, loadout }: HardCase, options: Parameters<typeof repairLoadout>[2] = {}) => {
    const catalog = readSource(source);
    const character = wearing(catalog, loadout);
    const repair = repairLoadout(catalog, character, options);
    if (repair.edits !== undefined)
      expect(checkLoadout(catalog, afterEdits(catalog, character, repair.edits))).toEqual([]);
    return repair;
  };

  test.each(hardCases())("are proved where it is hard: $name", (hard) => {
    // What general solvers have proved of the same catalogs; nothing where there is no way.
    const least = { large: 5, "two-totals": 10, cover: 35, permutation: 5 }[hard.name];
    const { edits, changes, isProven } = solve(hard);
    expect([isProven, edits === undefined ? undefined : changes]).toEqual([true, least]);
  });

  test("are not waited for: the best that was found is returned with what is proved, and what ends the search is obeyed", () => {
    const [cover] = hardCases().filter(({ name }) => name === "cover");
    if (cover === undefined) throw new Error("There is no such case");
    const states: number[][] = [];
    const short = solve(cover, {
      budget: 2_500,
      report: ({ changes = 99, lowerBound }) => states.push([changes, lowerBound]),
    });
    expect(short).toMatchObject({ isProven: false });
    expect([short.edits !== undefined, short.lowerBound <= 35, short.changes >= 35]).toEqual([true, true, true]);
    // What is known only ever becomes better.
    expect(states).toEqual(states.toSorted(([a = 0, b = 0], [c = 0, d = 0]) => c - a || b - d));
    let time = 0;
    const clock = () => {
      time += 1;
      return time;
    };
    expect(solve(cover, { milliseconds: 2, clock })).toMatchObject({ isProven: false });
    expect(solve(cover, { signal: { aborted: true } })).toMatchObject({ isProven: false });
  });

  test("are found in a copy of the catalog as well, as a worker gets it", () => {
    const wren = { ...createCharacter(demo, { body: "reed" }), loadout: { chain: "watch-chain" } };
    const copy = structuredClone(demo);
    expect(repairLoadout(copy, wren)).toEqual(repairLoadout(demo, wren));
    expect(rollCharacter(copy, { seed: 5 })).toEqual(rollCharacter(demo, { seed: 5 }));
  });

  test("cost nothing for a default that was chosen, though it would come by itself", () => {
    const catalog = smallCatalog({
      slots: { feet: { ...gear, required: true, default: "clogs" }, coat: gear },
      parts: { clogs: part("feet"), waders: part("coat", { occupies: ["feet"] }) },
      rules: [{ count: "part:waders", atLeast: 1 }],
    });
    const character = { ...bare(catalog), loadout: { feet: "clogs" } };
    expect(repairLoadout(catalog, character)).toMatchObject({ changes: 1, isProven: true });
  });
});

test("a count that ends early lies between what is proved", () => {
  fc.assert(
    fc.property(worlds, bodies, fc.integer({ min: 1, max: 30 }), ({ catalog, valid }, body, budget) => {
      const { count, upperBound, isProven } = countLoadouts(catalog, { body, budget });
      const all = BigInt(valid(body).length);
      expect([count <= all, all <= upperBound, isProven === (count === upperBound)]).toEqual([true, true, true]);
    }),
    runs(300),
  );
});

describe("conditions in words", () => {
  const slots = { hat: gear, coat: gear, belt: gear };
  const parts = { cap: part("hat", { tags: ["tall"] }), cloak: part("coat"), gem: part("belt"), rope: part("belt") };
  const said = (rule: object, loadout: Character["loadout"]) => {
    const catalog = smallCatalog({ slots, parts, rules: [rule] });
    return checkLoadout(catalog, { ...bare(catalog), loadout }).map(inWords);
  };

  test("say a negation of each part, keep nesting, and ask only for what is missing", () => {
    expect(
      said({ if: "part:cap", needs: { not: { any: ["part:gem", "slot:coat"] } } }, { hat: "cap", belt: "gem" }),
    ).toEqual(['With "cap" there must be no "gem" and nothing in slot "coat".']);
    expect(
      said(
        { if: "part:cap", needs: { all: ["part:cap", { any: ["part:gem", { all: ["part:rope", "slot:coat"] }] }] } },
        { hat: "cap" },
      ),
    ).toEqual(['With "cap" there must be "gem" or both "rope" and something in slot "coat".']);
    expect(said({ if: { any: ["part:cap", "part:gem"] }, needs: "part:cloak" }, { hat: "cap" })).toEqual([
      'With "cap" there must be "cloak".',
    ]);
  });

  test("name what bounds a total, and who is allowed more", () => {
    const catalog = smallCatalog({
      bodies: { plain: { rig: "rig", stats: { carry: 7 } }, strong: { extends: "plain", stats: { carry: 9 } } },
      slots: { hat: gear },
      parts: { anvil: part("hat", { gives: { weight: 8 } }) },
      rules: [{ total: "weight", atMost: { stat: "carry" } }],
    });
    const [problem] = optionsFor(catalog, bare(catalog), "hat")[0]?.problems ?? [];
    expect(inWords(problem)).toBe(
      'Weight comes to 8, and 7 is the most. It is bounded by carry, which comes to 9 on body "strong".',
    );
  });
});
