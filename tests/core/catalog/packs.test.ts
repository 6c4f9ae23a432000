import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  applyEdit,
  type Catalog,
  type Character,
  checkLoadout,
  createCharacter,
  type Edit,
  mergePacks,
  optionsFor,
  readCatalog,
  readCharacter,
  resolveLook,
} from "zealous-mantle";
import { compareSources, excludedByPacks, mergedSources, pairwiseCover, surveyRules } from "zealous-mantle/authoring";
import { judgeCharacter } from "zealous-mantle/judge";
import { countLoadouts, repairLoadout, rollCharacter } from "zealous-mantle/solver";
import { mergeCharacters } from "zealous-mantle/sync";
import { edited } from "../../edited.ts";
import { described, inWords } from "../../in-words.ts";
import { appearance, gear, part, smallSource } from "../../small-catalog.ts";

type Json = Readonly<Record<string, unknown>>;

const base = smallSource({
  slots: { hat: gear, coat: gear, hair: { ...appearance, required: true, default: "short" } },
  ramps: { red: ["#ff0000"], blue: ["#0000ff"], green: ["#00ff00"] },
  channels: { dye: { ramps: ["red", "blue"], default: "red", key: ["#101010"] } },
  parts: {
    cap: part("hat", { price: 5, tags: ["warm", "old"], fits: ["plain"] }),
    hood: part("hat"),
    cloak: part("coat"),
    short: part("hair"),
    long: part("hair"),
  },
  outfits: { plainly: { parts: ["cap", "cloak"] } },
  rules: [{ never: ["part:hood", "part:cloak"], message: "Too warm." }],
});

const pack = (id: string, more: Json = {}): Json => ({
  mantle: "pack/1",
  id,
  version: "1.0.0",
  over: "small",
  ...more,
});

const frost = pack("frost", {
  title: "Frost",
  parts: { "frost.cap": part("hat", { layers: [{ image: "cap.png", depth: 5 }] }) },
  ramps: { "frost.white": ["#ffffff"] },
  bodies: { "frost.giant": { extends: "plain" } },
  changes: {
    parts: { cap: { price: 7, tags: { add: ["fur"], remove: ["old"] }, fits: { add: ["frost.giant"] }, stack: 3 } },
    channels: { dye: { ramps: { add: ["frost.white"] } } },
  },
});
const tide = pack("tide", {
  needs: ["frost"],
  parts: { "tide.coat": part("coat") },
  rules: [{ never: ["part:frost.cap", "part:tide.coat"], message: "Frost and tide." }],
  changes: { parts: { cap: { price: 9, stack: null }, "frost.cap": { title: "Wet cap" }, hood: { retired: true } } },
});
const ember = pack("ember", { parts: { "ember.coat": part(["coat"]) }, slots: { "ember.hand": gear } });

const read = (packs: readonly Json[], main: Json = base) =>
  readCatalog(main as object, {}, { packs: mergePacks(packs.map((source) => ({ source }))) });

function laid(...packs: readonly Json[]): Catalog {
  const { catalog, problems } = read(packs);
  if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
  return catalog;
}

/** What reading with packs comes to, in words. */
const found = (...packs: readonly Json[]) => read(packs).problems.map(described);

describe("a pack laid over a catalog", () => {
  test("adds, changes what it says, lists item by item, and leaves the rest", () => {
    const catalog = laid(frost);
    const cap = catalog.parts.get("cap");
    expect([cap?.price, cap?.tags, [...(cap?.fits ?? [])], cap?.stack]).toEqual([
      7,
      ["warm", "fur"],
      ["plain", "frost.giant"],
      3,
    ]);
    expect(catalog.channels.get("dye")?.ramps).toEqual(["red", "blue", "frost.white"]);
    expect(catalog.slots.get("hat")?.parts.map(({ id }) => id)).toEqual(["cap", "hood", "frost.cap"]);
    expect([...catalog.packs.values()]).toEqual([{ id: "frost", version: "1.0.0", title: "Frost", needs: [] }]);
    const alone = laid();
    expect(alone.parts.get("cloak")).toEqual(catalog.parts.get("cloak"));
  });

  test("comes after those it needs, and in whichever order packs are named", () => {
    const orders = [
      [frost, tide, ember],
      [ember, tide, frost],
      [tide, ember, frost],
    ];
    const seen = orders.map((order) => {
      const catalog = laid(...order);
      const cap = catalog.parts.get("cap");
      return [
        [...catalog.packs.keys()],
        [...catalog.parts.keys()],
        cap?.price,
        cap?.stack,
        catalog.parts.get("frost.cap")?.title,
      ];
    });
    expect(seen[0]).toEqual([
      ["ember", "frost", "tide"],
      ["cap", "hood", "cloak", "short", "long", "ember.coat", "frost.cap", "tide.coat"],
      9,
      1,
      "Wet cap",
    ]);
    expect(new Set(seen.map((each) => JSON.stringify(each))).size).toBe(1);
    expect(read([frost, tide, ember]).problems).toEqual([]);
  });

  test("binds parts of its own, of the catalog and of other packs", () => {
    const catalog = laid(frost, tide);
    const wearer = edited(catalog, createCharacter(catalog, { body: "plain" }), { wear: "frost.cap" });
    const result = applyEdit(catalog, wearer, { wear: "tide.coat" });
    expect(result.ok ? [] : result.problems.map(inWords)).toEqual([
      '"frost.cap" and "tide.coat" are never worn together. Frost and tide.',
    ]);
  });

  test("finds its art in its own folder, and that of the catalog by a slash", () => {
    const layers = [
      { image: "art/{body}.png", depth: 1 },
      { image: "/cap.png", depth: 2 },
    ];
    const more = { layers: { add: [{ image: "band.png", depth: 3 }] } };
    const catalog = laid(
      pack("art", { parts: { "art.hat": part("hat", { layers }) }, changes: { parts: { hood: more } } }),
    );
    const dressed = (id: string) => edited(catalog, createCharacter(catalog, { body: "plain" }), { wear: id });
    const shown = (id: string) => resolveLook(catalog, dressed(id)).layers.flatMap(({ images }) => images);
    expect(shown("art.hat")).toEqual(["plain.png", "packs/art/art/plain.png", "cap.png", "part.png"]);
    expect(shown("hood")).toContain("packs/art/band.png");
    // So does what a frames table of the pack names, but not a picture that the table has none for.
    const framed = pack("art", {
      parts: {
        "art.hat": part("hat", { layers: [{ image: "own.png", frames: "hat.frames.json", depth: 1, facings: "any" }] }),
      },
    });
    const table = { mantle: "frames/1", frames: [{ image: "sheet.png", rect: [0, 0, 4, 4] }] };
    const tables = new Map([["packs/art/hat.frames.json", table]]);
    const reading = readCatalog(base as object, {}, { packs: mergePacks([{ source: framed }]), tables });
    expect(reading.problems).toEqual([]);
    expect(reading.catalog?.tables.get("packs/art/hat.frames.json")?.images).toEqual(["packs/art/sheet.png"]);
  });

  test("is read as a difference, entry by entry", () => {
    const packs = mergePacks([{ source: frost }]);
    const changes = compareSources(mergedSources([base], undefined), mergedSources([base], packs));
    expect(changes.map(({ section, id, fate }) => `${section} ${id} ${fate}`)).toEqual([
      "channels dye changed",
      "parts cap changed",
      "bodies frost.giant added",
      "ramps frost.white added",
      "parts frost.cap added",
    ]);
    expect(changes.find(({ id }) => id === "cap")?.keys[0]).toEqual({ pointer: "/price", before: 5, after: 7 });
  });
});

describe("what is wrong with packs is told with its places", () => {
  const other = (id: string, price: number, more: Json = {}) =>
    pack(id, { changes: { parts: { cap: { price } } }, ...more });
  test.each<[string, readonly Json[], RegExp]>([
    [
      "an id of the catalog",
      [pack("mine", { parts: { cap: part("hat") } })],
      /^packs\/mine\/pack\.json \/parts\/cap: "cap" is already defined in catalog\.json at \/parts\/cap\. Call it "mine\.cap"/,
    ],
    [
      "an id of another pack",
      [pack("one", { parts: { fez: part("hat") } }), pack("two", { parts: { fez: part("hat") } })],
      /^packs\/two\/pack\.json.*"fez" is already defined in packs\/one\/pack\.json at \/parts\/fez\. Call it "two\.fez"/,
    ],
    [
      "a second flow",
      [pack("mine", { names: { longest: 5 } }), pack("yours", { names: { longest: 6 } })],
      /under "changes"/,
    ],
    ["a pack that is missing", [tide], /Pack "tide" needs pack "frost", which is not there\. Add pack "frost"/],
    ["one misspelled", [frost, pack("mine", { needs: ["forst"] })], /Write "frost" if that is meant/],
    [
      "a circle",
      [pack("one", { needs: ["two"] }), pack("two", { needs: ["three"] }), pack("three", { needs: ["one"] })],
      /^packs\/one\/pack\.json \/needs\/0: Each of these packs needs another.*: "one", "two", and "three"/,
    ],
    ["one pack twice", [frost, pack("frost", { version: "2.0.0" })], /twice: version 1\.0\.0, and version 2\.0\.0/],
    ["another catalog", [pack("mine", { over: "large" })], /made for catalog "large", and this is "small"/],
    ["a foreign name", [pack("mine", { parts: { "yours.cap": part("hat") } })], /Call it "mine\.cap"/],
    ["nothing to change", [pack("mine", { changes: { parts: { capp: { price: 1 } } } })], /no "capp" in parts.*"cap"/],
    [
      "a part taken away",
      [pack("mine", { changes: { parts: { cap: null } } })],
      /cannot be taken away.*"retired": true/,
    ],
    [
      "a change of the wrong form",
      [pack("mine", { changes: { parts: { cap: { price: "much" } } } })],
      /^packs\/mine\/pack\.json \/changes\/parts\/cap\/price: "much" is given where a number belongs/,
    ],
    [
      "a change that names nothing",
      [pack("mine", { changes: { parts: { cap: { slot: "heat" } } } })],
      /^packs\/mine\/pack\.json \/changes\/parts\/cap\/slot: There is no slot "heat"/,
    ],
    [
      "the form of an entry that is called as its section is",
      [pack("mine", { parts: { parts: part("hat") }, changes: { parts: { parts: { price: "much" } } } })],
      /^packs\/mine\/pack\.json \/changes\/parts\/parts\/price: "much" is given/,
    ],
    ["a key that is none", [pack("mine", { adds: {} })], /^packs\/mine\/pack\.json: "adds" is not a key/],
    [
      "a list with a number that is none",
      [pack("mine", { changes: { parts: { cap: { tags: { remove: [Number.POSITIVE_INFINITY] } } } } })],
      /^packs\/mine\/pack\.json \/changes: It holds Infinity, which is no number of JSON/,
    ],
    ["no id", [{ ...pack(""), id: 7 }], /^packs\/1\/pack\.json \/id: 7 is given where a string belongs/],
    [
      "two that change the same",
      [other("one", 1), other("two", 2)],
      /^packs\/two\/pack\.json \/changes\/parts\/cap\/price: Pack "one" and pack "two" both change "cap" \(price\)/,
    ],
    [
      "a retired part in an outfit",
      [pack("mine", { changes: { parts: { cap: { retired: true } } } })],
      /"plainly" still/,
    ],
    [
      "a retired default",
      [pack("mine", { changes: { parts: { short: { retired: true } } } })],
      /"hair" still puts it on/,
    ],
  ])("%s", (_, packs, said) => {
    const all = found(...packs);
    expect([all, all.filter((each) => said.test(each)).length]).toEqual([all, 1]);
  });

  test("what a stranger writes reaches nothing but its own entries", () => {
    const sly: Json = JSON.parse(
      '{"changes": {"parts": {"cap": {"__proto__": {"price": 1}, "tags": {"add": ["new"], "constructor": []}}}}}',
    );
    expect(found(pack("sly", sly))).toEqual([
      expect.stringContaining("packs/sly/pack.json /changes/parts/cap/tags: An object is given where a list belongs"),
      expect.stringContaining('packs/sly/pack.json /changes/parts/cap: "__proto__" is not a key known here'),
    ]);
    expect(Object.hasOwn(Object.prototype, "price")).toBe(false);
    const outside = pack("sly", {
      parts: { "sly.cap": part("hat", { layers: [{ image: "../../secret.png", depth: 1 }] }) },
    });
    const catalog = laid(outside);
    const wearer = edited(catalog, createCharacter(catalog, { body: "plain" }), { wear: "sly.cap" });
    const paths = resolveLook(catalog, wearer).layers.flatMap(({ images }) => images);
    // Whoever reads files refuses a path that leads out of the folder of a catalog.
    expect(paths).toContain("packs/sly/../../secret.png");
  });

  test("a pack that is broken is not missing as well", () => {
    expect(found(tide, { ...frost, parts: 7 })).toEqual([
      "packs/frost/pack.json /parts: 7 is given where an object belongs. Write an object.",
    ]);
  });

  test("a conflict has both places, and none where one pack is laid upon the other, or both say the same", () => {
    const [problem] = read([other("one", 1), other("two", 2)]).problems;
    expect(problem?.related).toEqual([{ file: "packs/one/pack.json", pointer: "/changes/parts/cap/price" }]);
    expect(found(other("one", 1), other("two", 2, { needs: ["one"] }))).toEqual([]);
    expect(found(other("one", 1), other("two", 1))).toEqual([]);
    const taken = (id: string) => pack(id, { changes: { outfits: { plainly: null } } });
    const titled = pack("two", { changes: { outfits: { plainly: { title: "So" } } } });
    expect(found(taken("one"), titled)).toEqual([
      expect.stringMatching(
        /^packs\/two\/pack\.json \/changes\/outfits\/plainly: Pack "one" and pack "two" both change "plainly"/,
      ),
    ]);
    expect(found(taken("one"), taken("two"))).toEqual([]);
    // So does one that takes away what another changed before.
    const late = read([titled, taken("zone")]).problems;
    expect(late.map(({ code, related }) => [code, related?.[0]?.file])).toEqual([
      ["conflicting-changes", "packs/two/pack.json"],
    ]);
    expect(laid(taken("one"), titled).outfits.has("plainly")).toBe(false);
  });

  test("a rule that keeps a part of the catalog from ever being worn", () => {
    const rule = { never: ["part:long", "slot:hair"], message: "Cut it." };
    const killing = pack("mine", {
      rules: [{ if: "part:long", needs: "part:frost.cap", message: "Keep it warm." }, rule].slice(0, 1),
    });
    const bound = pack("mine", {
      needs: ["frost"],
      rules: [...(killing["rules"] as Json[]), { never: ["part:frost.cap", "part:long"] }],
    });
    const catalog = laid(frost, bound);
    const told = excludedByPacks(surveyRules(catalog).problems, laid()).filter(({ severity }) => severity === "error");
    expect(told.map(inWords)).toEqual([
      expect.stringMatching(/^"long" can never be worn with pack "mine", and can without\./),
    ]);
    expect(told[0]?.related?.map(({ file }) => file)).toEqual(["packs/mine/pack.json", "packs/mine/pack.json"]);
    // What could not be worn before is nobody's fault.
    expect(excludedByPacks(surveyRules(laid(frost)).problems, laid())).toEqual([]);
  });
});

describe("a retired part", () => {
  const catalog = laid(frost, tide);
  const newcomer = createCharacter(catalog, { body: "plain" });
  const owner = { ...newcomer, loadout: { hat: "hood" } };
  const state = (character: Character) =>
    optionsFor(catalog, character, "hat").find(({ part }) => part.id === "hood")?.state;

  test("is given to nobody", () => {
    expect(state(newcomer)).toBe("secret");
    const refused = applyEdit(catalog, newcomer, { wear: "hood" });
    expect(refused.ok ? [] : refused.problems.map(inWords)).toEqual(['"hood" is no longer available.']);
    const rolled = Array.from({ length: 60 }, (_, seed) => rollCharacter(catalog, { seed }).loadout["hat"]);
    expect(rolled).toContain("cap");
    expect(rolled).not.toContain("hood");
    expect(pairwiseCover(catalog).characters.map(({ loadout }) => loadout["hat"])).not.toContain("hood");
    const before = countLoadouts(laid(frost), { body: "plain" }).count;
    expect(
      countLoadouts(laid(frost, pack("mine", { changes: { parts: { hood: { retired: true } } } })), { body: "plain" })
        .count,
    ).toBeLessThan(before);
  });

  test("stays with who wears or carries it, and can be put on again", () => {
    expect(state(owner)).toBe("worn");
    expect(checkLoadout(catalog, owner)).toEqual([]);
    const carrying = edited(catalog, owner, { wear: "cap" });
    expect([carrying.bag["hood"], state(carrying)]).toEqual([[1], "ready"]);
    expect(edited(catalog, carrying, { wear: "hood" }).loadout["hat"]).toBe("hood");
    expect(state(edited(catalog, carrying, { drop: "hood" }))).toBe("secret");
    // Mending takes off what is in the way, and does not lose it.
    const mended = repairLoadout(catalog, { ...owner, loadout: { hat: "hood", coat: "cloak" } });
    expect(mended.edits).toHaveLength(1);
    expect(rollCharacter(catalog, { seed: 3, keep: { character: owner, slots: ["hat"] } }).loadout["hat"]).toBe("hood");
  });
});

describe("characters and packs that come and go", () => {
  const all = [frost, tide, ember];
  const worn = () => {
    const catalog = laid(...all);
    return edited(
      catalog,
      createCharacter(catalog, { body: "plain", id: "wren", name: "Wren" }),
      { wear: "ember.coat" },
      { wear: "frost.cap" },
      { paint: "dye", ramp: "frost.white" },
    );
  };

  test("a character names the packs it needs, and no others", () => {
    const catalog = laid(...all);
    const character = worn();
    expect(character.catalog).toEqual({ id: "small", version: "1", packs: { ember: "1.0.0", frost: "1.0.0" } });
    const plain = edited(catalog, character, { wear: "cap" }, { drop: "frost.cap" }, { paint: "dye", ramp: "red" });
    expect(plain.catalog.packs).toEqual({ ember: "1.0.0" });
    expect(edited(catalog, plain, { remove: "coat" }, { drop: "ember.coat" }).catalog).toEqual({
      id: "small",
      version: "1",
    });
    expect(createCharacter(laid(), { body: "plain" }).catalog).toEqual({ id: "small", version: "1" });
    expect(readCharacter(JSON.parse(JSON.stringify(character))).character).toEqual(character);
  });

  test("what is of a missing pack is kept, told of once, and dressed by defaults", () => {
    const without = laid(ember);
    const told = checkLoadout(without, worn()).map((problem) => `${problem.severity}: ${described(problem)}`);
    expect(told[0]).toBe(
      'warning: /catalog/packs/frost: Pack "frost" is not there. Its items are kept until the pack is loaded again. Load pack "frost".',
    );
    expect(told.slice(1).join("\n")).toContain('There is no part "frost.cap". It is kept, and not shown.');
    const bare = { ...worn(), loadout: { hair: "frost.mane" } };
    expect(resolveLook(without, bare).layers.map(({ part }) => part)).toContain("short");
    const giant = { ...worn(), body: "frost.giant" };
    expect(resolveLook(without, giant).layers[0]?.images).toEqual(["plain.png"]);
    expect(checkLoadout(without, giant).map(({ code }) => code)).toEqual(["missing-pack", "unknown-body"]);
    // Who misses no pack, and has a body that is not there, is mistaken.
    expect(() => resolveLook(without, { ...createCharacter(without, { body: "plain" }), body: "giant" })).toThrow(
      /giant/,
    );
    expect(judgeCharacter(without, JSON.stringify(worn())).accepted).toBe(false);
    expect(judgeCharacter(laid(...all), JSON.stringify(worn())).accepted).toBe(true);
  });

  test("what two devices wear of different packs is needed by both together, also where a pack is missing", () => {
    const whole = laid(...all);
    const base = createCharacter(whole, { body: "plain", id: "wren" });
    const mine = edited(whole, base, { wear: "frost.cap" });
    const theirs = edited(whole, base, { wear: "ember.coat" });
    for (const catalog of [whole, laid(ember), laid()]) {
      const { character, conflicts } = mergeCharacters(catalog, { base, mine, theirs });
      expect([character.loadout["hat"], character.loadout["coat"], conflicts]).toEqual(["frost.cap", "ember.coat", []]);
      expect(character.catalog).toEqual({ id: "small", version: "1", packs: { ember: "1.0.0", frost: "1.0.0" } });
    }
    // What neither wears any more is not asked for.
    const bare = edited(whole, mine, { remove: "hat" }, { drop: "frost.cap" });
    expect(mergeCharacters(whole, { base: mine, mine: bare, theirs: mine }).character.catalog).toEqual(base.catalog);
  });

  test("nothing is lost, in whichever order packs are loaded and unloaded, and whatever is done meanwhile", () => {
    const edits: readonly Edit[] = [
      { rename: "Tern" },
      { wear: "cap" },
      { wear: "long" },
      { wear: "cloak" },
      { remove: "coat" },
      { remove: "hat" },
      { wear: "frost.cap" },
      { wear: "ember.coat" },
      { wear: "tide.coat" },
    ];
    const gearIn = ({ loadout, bag }: Character) =>
      [...Object.entries(loadout).flatMap(([slot, id]) => (slot === "hair" ? [] : [id])), ...Object.keys(bag)].sort();
    const step = fc.record({
      packs: fc.subarray([0, 1, 2]),
      edits: fc.array(fc.constantFrom(...edits), { maxLength: 4 }),
    });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
        let character = worn();
        for (const { packs, edits: wanted } of steps) {
          // A pack that needs another is loaded with it.
          const chosen = new Set(packs.flatMap((at) => (at === 1 ? [0, 1] : [at])));
          const catalog = laid(...all.filter((_, at) => chosen.has(at)));
          for (const edit of wanted) {
            const before = gearIn(character);
            character = applyEdit(catalog, character, edit, { wardrobe: "open" }).character;
            // Gear may come from the open wardrobe, and none goes.
            expect(gearIn(character)).toEqual(expect.arrayContaining(before));
          }
          const saved = readCharacter(JSON.parse(JSON.stringify(character))).character;
          expect(saved).toEqual(character);
          const needs = new Set(gearIn(character).flatMap((id) => (id.includes(".") ? [id.split(".")[0] ?? ""] : [])));
          expect(Object.keys(character.catalog.packs ?? {})).toEqual(expect.arrayContaining([...needs]));
        }
        const whole = laid(...all);
        expect(
          checkLoadout(whole, character).filter(({ code }) => code.startsWith("unknown") || code === "missing-pack"),
        ).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
});
