import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  applyEdit,
  type Catalog,
  type Character,
  type Context,
  changesBetween,
  checkLoadout,
  concealedGear,
  countGear,
  createCharacter,
  type Edit,
  MantleError,
  openFitting,
  optionsFor,
  readCharacter,
  readSharedLook,
  resolveLook,
  shareLook,
  statsOf,
  wornParts,
} from "zealous-mantle";
import { rollCharacter } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { inWords } from "../../in-words.ts";
import { runs } from "../../runs.ts";
import { appearance, gear, part, smallCatalog } from "../../small-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });

function refused(catalog: Catalog, character: Character, edit: Edit, context?: Context) {
  const result = applyEdit(catalog, character, edit, context);
  if (result.ok) throw new Error("The edit was not refused");
  expect(result.character).toBe(character);
  return result.problems;
}

const wornIds = (catalog: Catalog, character: Character) => wornParts(catalog, character).map(({ part: { id } }) => id);

describe("creating a character", () => {
  test("a new character shows the defaults of required slots, and they are not stored", () => {
    expect(wornIds(demo, wren)).toEqual(["brows-soft", "eyes-round", "linen-shirt", "breeches", "clogs"]);
    expect(wren.loadout).toEqual({});
  });

  test("what other slots start with is put on and stored", () => {
    const catalog = smallCatalog({ slots: { hat: { ...gear, default: "cap" } }, parts: { cap: part("hat") } });
    expect(createCharacter(catalog, { body: "plain" }).loadout).toEqual({ hat: "cap" });
  });

  test("has an id that no other one has, whatever its name is, unless one is given", () => {
    const made = Array.from({ length: 200 }, () => createCharacter(demo, { body: "reed", name: "Wren" }).id);
    expect(new Set(made).size).toBe(200);
    expect(made.filter((id) => !/^[0-9a-z]{20}$/.test(id))).toEqual([]);
    expect(createCharacter(demo, { body: "reed", random: () => 0.999 }).id).toBe("z".repeat(20));
    expect(createCharacter(demo, { body: "reed", id: "7f3a-1" }).id).toBe("7f3a-1");
    expect(() => createCharacter(demo, { body: "reed", id: "a".repeat(65) })).toThrow("64 at most");
  });

  test.each([
    ["unknown-body", { body: "red" }, /"reed" if that is meant/],
    ["bad-id", { body: "reed", id: "../wren" }, /lower-case letters/],
    ["bad-name", { body: "reed", name: "a".repeat(17) }, /has 17 letters; 16 is the most/],
  ])("%s is refused with the reason", (code, options, words) => {
    const create = () => createCharacter(demo, options);
    expect(create).toThrow(MantleError);
    expect(create).toThrow(words);
    expect(create).toThrow(expect.objectContaining({ code }));
  });
});

describe("wearing and removing", () => {
  test("the character given is never changed", () => {
    const before = structuredClone(wren);
    edited(demo, wren, { wear: "storm-hat" }, { paint: "hair", ramp: "silver" }, { body: "oak" }, { rename: "Heron" });
    expect(wren).toEqual(before);
  });

  test("what was in the slot goes back to the bag", () => {
    const result = applyEdit(demo, edited(demo, wren, { wear: "storm-hat" }), { wear: "wool-cap" });
    expect(result).toMatchObject({ ok: true, displaced: [{ part: "storm-hat", slot: "hat", to: "bag" }] });
    expect(result.character.bag).toEqual({ "storm-hat": [1] });
  });

  test("appearance is a free choice and never goes to the bag", () => {
    const result = applyEdit(demo, edited(demo, wren, { wear: "braid" }), { wear: "curls" });
    expect(result).toMatchObject({ displaced: [{ part: "braid", to: "nowhere" }], character: { bag: {} } });
  });

  test("a displaced hat returns to the bag, and the reason is the rule's", () => {
    const hatted = edited(demo, wren, { wear: "storm-hat" });
    const result = applyEdit(demo, hatted, { wear: "hood-up" });
    expect(result).toMatchObject({
      ok: true,
      displaced: [
        {
          part: "storm-hat",
          to: "bag",
          because: { code: "never-together", params: { part: "hood-up", other: "storm-hat" } },
        },
      ],
    });
    expect(inWords(result.ok ? result.displaced[0]?.because : undefined)).toContain(
      "A hood does not close over a brim.",
    );
  });

  test("a rule that refuses changes nothing, and offers the edits that would do it", () => {
    const hooded = edited(demo, wren, { wear: "hood-up" });
    const [problem] = refused(demo, hooded, { wear: "lamp-crown" });
    expect(problem).toMatchObject({
      code: "never-together",
      fixes: [{ edits: [{ remove: "neck" }, { wear: "lamp-crown", in: "hat" }] }],
    });
    const mended = edited(demo, hooded, ...(problem?.fixes[0]?.edits ?? []));
    expect(wornIds(demo, mended)).toContain("lamp-crown");
  });

  test("a part that takes two slots clears both, and the default stays away while it is worn", () => {
    const booted = edited(demo, wren, { wear: "sea-boots" });
    const result = applyEdit(demo, booted, { wear: "waders" });
    expect(result).toMatchObject({ ok: true, displaced: [{ part: "sea-boots", slot: "boots" }] });
    expect(wornParts(demo, result.character).some(({ slot }) => slot === "boots")).toBe(false);
    expect(checkLoadout(demo, result.character)).toEqual([]);
    expect(wornIds(demo, edited(demo, result.character, { remove: "trousers" }))).toContain("clogs");
  });

  test("something in the second slot sends away what took both", () => {
    const wading = edited(demo, wren, { wear: "waders" });
    const booted = applyEdit(demo, wading, { wear: "sandals" });
    expect(booted).toMatchObject({ ok: true, displaced: [{ part: "waders" }] });
    expect(wornIds(demo, booted.character)).toEqual(expect.arrayContaining(["breeches", "sandals"]));
  });

  test("a required slot can be changed but not emptied", () => {
    expect(refused(demo, wren, { remove: "boots" })[0]).toMatchObject({ code: "default-stays" });
    expect(wornIds(demo, edited(demo, wren, { wear: "sandals" }, { remove: "boots" }))).toContain("clogs");
  });

  test("a default that comes back may not break a rule", () => {
    const catalog = smallCatalog({
      slots: { feet: { ...gear, required: true, default: "clogs" }, legs: gear },
      parts: { clogs: part("feet"), boots: part("feet"), silk: part("legs") },
      rules: [{ never: ["part:clogs", "part:silk"], then: "displace" }],
    });
    const booted = edited(catalog, createCharacter(catalog, { body: "plain" }), { wear: "boots" }, { wear: "silk" });
    expect(inWords(refused(catalog, booted, { remove: "feet" })[0])).toContain(
      '"clogs" and "silk" are never worn together',
    );
  });

  test("a part for two hands goes to the free one, and then to the first", () => {
    const one = edited(demo, wren, { wear: "lantern" });
    expect(one.loadout).toEqual({ "hand-right": "lantern" });
    expect(edited(demo, one, { wear: "oar" }).loadout).toEqual({ "hand-right": "lantern", "hand-left": "oar" });
    expect(edited(demo, one, { wear: "lantern" })).toBe(one);
    expect(edited(demo, one, { wear: "lantern", in: "hand-left" }).loadout).toEqual({
      "hand-right": "lantern",
      "hand-left": "lantern",
    });
  });

  test.each<[string, Edit, string, RegExp]>([
    ["a part that does not exist", { wear: "strom-hat" }, "unknown-part", /"strom-hat"/],
    ["a slot that does not exist", { wear: "storm-hat", in: "hta" }, "unknown-slot", /"hta"/],
    ["a slot the part does not go in", { wear: "storm-hat", in: "boots" }, "wrong-slot", /does not go in slot "boots"/],
    ["removing from a slot that does not exist", { remove: "hatt" }, "unknown-slot", /"hatt"/],
    ["cycling a slot that does not exist", { cycle: "hatt", step: 1 }, "unknown-slot", /"hatt"/],
    ["a channel that does not exist", { paint: "hiar", ramp: "silver" }, "unknown-channel", /"hiar"/],
    ["a ramp the channel does not offer", { paint: "hair", ramp: "mustard" }, "ramp-not-offered", /"mustard"/],
    ["an outfit that does not exist", { dress: "storm-wach" }, "unknown-outfit", /"storm-wach"/],
    ["a body that does not exist", { body: "elm" }, "unknown-body", /"elm"/],
    ["a name that is too long", { rename: "a".repeat(20) }, "name-too-long", /20 letters/],
  ])("%s is refused", (_name, edit, code, words) => {
    const problems = refused(demo, wren, edit);
    expect(problems.map((problem) => problem.code)).toEqual([code]);
    expect(inWords(problems[0])).toMatch(words);
    expect(problems[0]?.fixes.length).toBeGreaterThan(0);
  });

  test("in play, only what is carried can be put on", () => {
    const [problem] = refused(demo, wren, { wear: "storm-hat" }, { wardrobe: "bag" });
    expect(problem?.code).toBe("not-carried");
    const carrying = { ...wren, bag: { "storm-hat": [1, 1] } };
    const worn = applyEdit(demo, carrying, { wear: "storm-hat" }, { wardrobe: "bag" });
    expect(worn.character).toMatchObject({ loadout: { hat: "storm-hat" }, bag: { "storm-hat": [1] } });
    expect(applyEdit(demo, wren, { wear: "braid" }, { wardrobe: "bag" }).ok).toBe(true);
  });

  test("names keep their graphemes, are normalized and trimmed", () => {
    const named = (rename: string) => edited(demo, wren, { rename }).name;
    expect(named("  Wren\t of  Reeds ")).toBe("Wren of Reeds");
    expect(named("e\u0301")).toBe("\u00e9");
    expect(named("👩‍👩‍👧‍👦".repeat(16))).toBe("👩‍👩‍👧‍👦".repeat(16));
    expect(named("a\u0000b")).toBe("ab");
  });
});

describe("cycling a slot", () => {
  const cycled = (character: Character, slot: string, step: 1 | -1) => edited(demo, character, { cycle: slot, step });
  const hats = demo.slots.get("hat")?.parts.map(({ id }) => id) ?? [];

  test("passes every part and the empty slot once, and wraps", () => {
    let character = wren;
    const seen: (string | undefined)[] = [];
    for (let turn = 0; turn <= hats.length; turn += 1) {
      character = cycled(character, "hat", 1);
      seen.push(character.loadout["hat"]);
    }
    expect(seen).toEqual([...hats, undefined]);
    expect(cycled(wren, "hat", -1).loadout["hat"]).toBe(hats.at(-1));
  });

  test("a required slot is never empty on the way", () => {
    const boots = demo.slots.get("boots")?.parts ?? [];
    let character = wren;
    for (let turn = 0; turn < boots.length; turn += 1) {
      character = cycled(character, "boots", 1);
      expect(wornParts(demo, character).find(({ slot }) => slot === "boots")).toBeDefined();
    }
    expect(wornIds(demo, character)).toContain("clogs");
  });

  test("what cannot be worn is passed over", () => {
    const hooded = edited(demo, wren, { wear: "hood-up" });
    const seen = new Set<string | undefined>();
    let character = hooded;
    for (let turn = 0; turn < 20; turn += 1) {
      character = {
        ...cycled(character, "hat", 1),
        loadout: { ...cycled(character, "hat", 1).loadout, neck: "hood-up" },
      };
      seen.add(character.loadout["hat"]);
    }
    expect(seen.has("lamp-crown")).toBe(false);
    expect(seen.has("wool-cap")).toBe(true);
  });
});

describe("outfits and bodies", () => {
  test("an outfit is put on whole, with its colors; other slots are kept or cleared as it says", () => {
    const before = edited(demo, wren, { wear: "braid" }, { wear: "scarf" }, { wear: "satchel" });
    const watch = edited(demo, before, { dress: "storm-watch" });
    expect(watch.loadout).toMatchObject({
      hat: "storm-hat",
      coat: "oilskin",
      neck: "scarf",
      back: "satchel",
      hair: "braid",
    });
    expect(watch.colors).toEqual({ oilcloth: "mustard", leather: "bark" });
    const rest = edited(demo, before, { dress: "rest-day" });
    expect(rest.loadout).toEqual({ hair: "braid", shirt: "smock", neck: "scarf", boots: "sandals" });
    expect(rest.bag).toEqual({ satchel: [1] });
  });

  test("an outfit that hides the rest leaves it on, unseen, for as long as it is worn whole", () => {
    const seen = (character: Character) => new Set(resolveLook(demo, character).layers.map((layer) => layer.part));
    const unseen = (character: Character) => [...concealedGear(demo, character)];
    const before = edited(demo, wren, { wear: "satchel" }, { wear: "oar" });
    const feast = edited(demo, before, { dress: "lamp-festival" });
    const slots = Object.keys(before.loadout);
    expect(feast.loadout).toMatchObject(before.loadout);
    expect(feast.bag).toEqual({});
    expect(unseen(feast)).toEqual(slots.map((slot) => [slot, "lamp-festival"]));
    expect(seen(feast)).toEqual(new Set([...seen(edited(demo, wren, { dress: "lamp-festival" }))]));
    const without = edited(demo, feast, { remove: "back" });
    const weight = (character: Character) => statsOf(demo, character)["weight"] ?? 0;
    expect(weight(feast)).toBeGreaterThan(weight(without));
    expect(changesBetween(before, feast).concealed).toEqual(slots);

    // What is put on later is seen, be it the same part again.
    expect(seen(edited(demo, feast, { wear: "mail-pack" })).has("mail-pack")).toBe(true);
    const shown = edited(demo, feast, { wear: "satchel" });
    expect(unseen(shown).map(([slot]) => slot)).toEqual(slots.filter((slot) => slot !== "back"));
    expect(seen(shown).has("satchel")).toBe(true);
    // It ends with the outfit, and with another; and it is saved.
    for (const edit of [{ remove: "neck" }, { dress: "storm-watch" }]) {
      const after = edited(demo, feast, edit as Edit);
      expect(unseen(after)).toEqual([]);
      expect(seen(after).has("satchel")).toBe(true);
    }
    expect(edited(demo, feast, { dress: "storm-watch" })).not.toHaveProperty("concealed");
    expect(readCharacter(JSON.parse(JSON.stringify(feast))).character).toEqual(feast);
    const { look } = readSharedLook(demo, shareLook(demo, feast));
    expect(look?.loadout).toEqual(edited(demo, wren, { dress: "lamp-festival" }).loadout);
  });

  test("an outfit that cannot be worn whole is refused, and nothing is put on", () => {
    const corked = edited(demo, wren, { wear: "cork-vest" });
    expect(refused(demo, corked, { dress: "storm-watch" })[0]?.code).toBe("never-together");
  });

  test("every outfit of the demo can be put on by every body", () => {
    for (const body of demo.bodies.keys()) {
      for (const dress of demo.outfits.keys()) {
        const character = edited(demo, createCharacter(demo, { body }), { dress });
        expect(checkLoadout(demo, character)).toEqual([]);
      }
    }
  });

  test("choices outlive a body change; what was not made for the new body comes off", () => {
    const catalog = smallCatalog({
      bodies: { plain: { rig: "rig" }, tall: { extends: "plain" } },
      slots: { hair: appearance, hat: gear, coat: gear },
      parts: { braid: part("hair"), cap: part("hat"), cloak: part("coat", { fits: ["plain"] }) },
    });
    const before = edited(
      catalog,
      createCharacter(catalog, { body: "plain" }),
      { wear: "braid" },
      { wear: "cap" },
      { wear: "cloak" },
    );
    const result = applyEdit(catalog, before, { body: "tall" });
    expect(result).toMatchObject({
      displaced: [{ part: "cloak", to: "bag" }],
      character: { body: "tall", loadout: { hair: "braid", hat: "cap" }, bag: { cloak: [1] } },
    });
    expect(refused(catalog, result.character, { wear: "cloak" })[0]).toMatchObject({
      code: "does-not-fit",
      fixes: [{ code: "fits-bodies", params: { bodies: ["plain"] } }],
    });
  });
});

describe("judging a loadout", () => {
  test("all reasons come at once, each with edits that mend it", () => {
    const broken: Character = {
      ...wren,
      loadout: { hat: "storm-hat", neck: "hood-up", boots: "sandals", trousers: "waders", coat: "storm-hat" },
      colors: { hair: "mustard" },
    };
    const problems = checkLoadout(demo, broken);
    expect(problems.map(({ code }) => code).sort()).toEqual([
      "never-together",
      "never-together",
      "ramp-not-offered",
      "slot-taken-twice",
      "wrong-slot",
    ]);
    let mended = broken;
    for (const { fixes } of problems) {
      for (const edit of fixes[0]?.edits ?? []) {
        const result = applyEdit(demo, mended, edit);
        mended = result.character;
      }
    }
    expect(checkLoadout(demo, mended)).toEqual([]);
  });

  test("content the catalog does not know is kept, ignored and named", () => {
    const later: Character = {
      ...wren,
      loadout: { hat: "moon-hat", tail: "tuft" },
      colors: { glow: "moon" },
      bag: { "moon-hat": [1] },
    };
    const problems = checkLoadout(demo, later);
    expect(problems.map(({ code, severity }) => [code, severity])).toEqual([
      ["unknown-part", "warning"],
      ["unknown-slot", "warning"],
      ["unknown-part", "warning"],
      ["unknown-channel", "warning"],
    ]);
    expect(wornIds(demo, later)).toEqual(wornIds(demo, wren));
  });

  test("a body the catalog does not have is the one thing that is said", () => {
    expect(checkLoadout(demo, { ...wren, body: "elm" }).map(({ code }) => code)).toEqual(["unknown-body"]);
  });

  test("a required slot without a default must be filled", () => {
    const catalog = smallCatalog({
      slots: { eyes: { ...appearance, required: true } },
      parts: { round: part("eyes") },
    });
    const blank = createCharacter(catalog, { body: "plain" });
    expect(checkLoadout(catalog, blank).map(({ code }) => code)).toEqual(["required-slot"]);
    const seeing = edited(catalog, blank, { wear: "round" });
    expect(checkLoadout(catalog, seeing)).toEqual([]);
    expect(refused(catalog, seeing, { remove: "eyes" })[0]?.code).toBe("required-slot");
  });
});

describe("options", () => {
  test("each part of a slot says what wearing it would do", () => {
    const hooded = edited(demo, wren, { wear: "hood-up" });
    const states = Object.fromEntries(optionsFor(demo, hooded, "hat").map(({ part: { id }, state }) => [id, state]));
    expect(states).toMatchObject({ "storm-hat": "displaces", "wool-cap": "ready", "lamp-crown": "blocked" });
    expect(optionsFor(demo, hooded, "neck").find(({ state }) => state === "worn")?.part.id).toBe("hood-up");
    expect(optionsFor(demo, hooded, "nowhere")).toEqual([]);
  });

  test("the verdict of an option is that of doing the edit", () => {
    fc.assert(
      fc.property(fc.integer(), fc.constantFrom(...demo.slots.keys()), (seed, slot) => {
        const character = rollCharacter(demo, { seed });
        for (const option of optionsFor(demo, character, slot)) {
          const result = applyEdit(demo, character, { wear: option.part.id, in: slot });
          expect(option.state === "blocked").toBe(!result.ok);
          if (result.ok) expect(checkLoadout(demo, result.character)).toEqual([]);
        }
      }),
      runs(40),
    );
  });
});

describe("rolling", () => {
  test("rolled characters are always valid, and the same seed makes the same one", () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const character = rollCharacter(demo, { seed });
        expect(checkLoadout(demo, character)).toEqual([]);
        expect(rollCharacter(demo, { seed })).toEqual(character);
      }),
      runs(60),
    );
  });
});

describe("gear is conserved", () => {
  const parts = [...demo.parts.keys()];
  const edits: fc.Arbitrary<Edit> = fc.oneof(
    fc.record({ wear: fc.constantFrom(...parts) }),
    fc.record({ wear: fc.constantFrom("lantern", "oar", "whistle"), in: fc.constantFrom("hand-left", "hand-right") }),
    fc.record({ remove: fc.constantFrom(...demo.slots.keys()) }),
    fc.record({ cycle: fc.constantFrom(...demo.slots.keys()), step: fc.constantFrom(1 as const, -1 as const) }),
    fc.record({ dress: fc.constantFrom(...demo.outfits.keys()) }),
    fc.record({ body: fc.constantFrom(...demo.bodies.keys()) }),
  );
  const bags = fc.dictionary(
    fc.constantFrom(
      ...parts.filter((id) => demo.parts.get(id)?.slots.every((slot) => demo.slots.get(slot)?.kind === "gear")),
    ),
    fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 2 }),
  );

  test("any sequence of edits keeps the sum of owned gear", () => {
    fc.assert(
      fc.property(bags, fc.array(edits, { maxLength: 30, size: "max" }), (bag, sequence) => {
        const start = { ...wren, bag };
        let character: Character = start;
        for (const edit of sequence) character = applyEdit(demo, character, edit, { wardrobe: "bag" }).character;
        expect(new Map([...countGear(demo, character)].sort())).toEqual(new Map([...countGear(demo, start)].sort()));
      }),
    );
  });

  test("any sequence of edits leaves a valid loadout", () => {
    fc.assert(
      fc.property(fc.array(edits, { maxLength: 30, size: "max" }), (sequence) => {
        let character: Character = wren;
        for (const edit of sequence) character = applyEdit(demo, character, edit).character;
        expect(checkLoadout(demo, character)).toEqual([]);
      }),
    );
  });
});

describe("an edit of a wrong form", () => {
  const wrong: readonly (readonly [unknown, string, string])[] = [
    [null, "", "edit-no-object"],
    [{}, "", "edit-without-verb"],
    [{ wear: 5 }, "", "edit-of-wrong-form"],
    [{ wear: "storm-hat", remove: "hat" }, "", "edit-of-two-verbs"],
    [
      { together: [{ remove: "hat" }, { appearance: { loadout: 1, colors: {} } }] },
      "/together/1",
      "edit-of-wrong-form",
    ],
  ];
  test.each(wrong)("is refused with its place, and throws nothing: %j", (edit, pointer, reason) => {
    const fitting = openFitting(demo, wren);
    for (const result of [applyEdit(demo, wren, edit as Edit), fitting.apply(edit as Edit)])
      expect(result).toMatchObject({
        ok: false,
        character: wren,
        problems: [{ code: "not-an-edit", params: { reason: { code: reason } }, place: { pointer } }],
      });
  });
});
