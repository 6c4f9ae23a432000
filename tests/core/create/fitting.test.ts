import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Character,
  catalogTitles,
  checkLoadout,
  countGear,
  createCharacter,
  type Edit,
  type EditResult,
  type Fitting,
  format,
  MantleError,
  openFitting,
  optionsFor,
  type Text,
  textIn,
  wornParts,
} from "zealous-mantle";
import { messages as english } from "zealous-mantle/locales/en";
import { solver } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { runs } from "../../runs.ts";
import { appearance, part, smallCatalog, smallSource } from "../../small-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const owner: Character = { ...wren, loadout: { hat: "wool-cap" }, bag: { scarf: [1] } };

describe("a fitting", () => {
  test("edits are tried on a draft; the character that was opened stays as it is", () => {
    const fitting = openFitting(demo, wren);
    fitting.wear("storm-hat");
    fitting.paint("oilcloth", "indigo");
    fitting.changeBody("oak");
    fitting.rename("Heron");
    expect(fitting.finish()).toMatchObject({
      name: "Heron",
      body: "oak",
      loadout: { hat: "storm-hat" },
      colors: { oilcloth: "indigo" },
    });
    expect(wren).toMatchObject({ name: "Wren", body: "reed", loadout: {}, colors: {} });
  });

  test("undo and redo walk the edits that changed something", () => {
    const fitting = openFitting(demo, wren);
    expect([fitting.canUndo, fitting.canRedo]).toEqual([false, false]);
    fitting.wear("storm-hat");
    fitting.wear("strom-hat");
    fitting.wear("storm-hat");
    fitting.cycle("boots", 1);
    const last = fitting.character;
    fitting.undo();
    expect(fitting.character.loadout).toEqual({ hat: "storm-hat" });
    fitting.undo();
    expect(fitting.character).toBe(wren);
    fitting.undo();
    expect([fitting.character, fitting.canUndo, fitting.canRedo]).toEqual([wren, false, true]);
    fitting.redo();
    fitting.redo();
    fitting.redo();
    expect(fitting.character).toBe(last);
    fitting.undo();
    fitting.remove("hat");
    expect(fitting.canRedo).toBe(false);
  });

  test("what is only tried on goes back to the wardrobe; what was owned goes to the bag", () => {
    const fitting = openFitting(demo, owner);
    for (const hat of ["storm-hat", "reed-cap", "pilot-cap"]) fitting.wear(hat);
    expect(fitting.character.bag).toEqual({ scarf: [1], "wool-cap": [1] });
    fitting.remove("hat");
    expect(fitting.character.bag).toEqual({ scarf: [1], "wool-cap": [1] });
    fitting.wear("scarf");
    expect(fitting.character.bag).toEqual({ "wool-cap": [1] });
  });

  test("listeners hear each change once, until they stop", () => {
    const received: string[] = [];
    const fitting = openFitting(demo, wren);
    const stop = fitting.on("change", ({ kind, changes }) => received.push(`${kind} ${changes.slots.join()}`));
    fitting.wear("braid");
    fitting.wear("no-such-part");
    fitting.dress("rest-day");
    fitting.undo();
    stop();
    fitting.redo();
    expect(received).toEqual(["edit hair", "edit shirt,neck,boots", "undo shirt,neck,boots"]);
  });

  test("a preview shows what an edit would come to, and changes nothing", () => {
    const fitting = openFitting(demo, wren);
    const received: string[] = [];
    fitting.on("change", ({ kind, options }) => received.push(`${kind} ${options.length}`));
    expect(fitting.preview({ wear: "storm-hat" }).ok).toBe(true);
    expect([fitting.shown.loadout, fitting.character, fitting.canUndo]).toEqual([{ hat: "storm-hat" }, wren, false]);
    fitting.preview();
    expect(fitting.shown).toBe(wren);
    fitting.preview({ wear: "storm-hat" });
    fitting.wear("nothing-of-the-kind");
    expect(fitting.shown).toBe(wren);
    expect(received).toEqual(["preview 0", "preview 0", "preview 0", "preview 0"]);
  });

  test("going back to the start is an edit like any other; giving up leaves no way back", () => {
    const fitting = openFitting(demo, wren);
    fitting.preset("old-hand");
    const aged = fitting.character;
    fitting.revert();
    expect(fitting.character).toBe(wren);
    fitting.undo();
    expect(fitting.character).toBe(aged);
    expect(fitting.cancel()).toBe(wren);
    expect([fitting.character, fitting.canUndo, fitting.canRedo]).toEqual([wren, false, false]);
  });

  test("every verb has a call, which does what its edit does", () => {
    const carrying = { ...wren, bag: { flares: [3] } };
    const doneBy = (change: (fitting: Fitting) => EditResult) => {
      const fitting = openFitting(demo, carrying);
      expect(change(fitting).ok).toBe(true);
      return fitting.character;
    };
    const calls: readonly (readonly [(fitting: Fitting) => EditResult, Edit])[] = [
      [(fitting) => fitting.answer("trade", "ferry"), { fact: "trade", value: "ferry" }],
      [(fitting) => fitting.split("flares", 1), { split: "flares", count: 1 }],
      [(fitting) => fitting.drop("flares", 2), { drop: "flares", count: 2 }],
      [(fitting) => fitting.drop("flares"), { drop: "flares" }],
      [
        (fitting) => fitting.together([{ rename: "Heron" }, { split: "flares", count: 1 }]),
        { together: [{ rename: "Heron" }, { split: "flares", count: 1 }] },
      ],
    ];
    for (const [call, edit] of calls) expect(doneBy(call)).toEqual(doneBy((fitting) => fitting.apply(edit)));
    const apart = openFitting(demo, { ...wren, bag: { flares: [1, 2] } });
    expect(apart.merge("flares").character.bag).toEqual({ flares: [3] });
  });

  test("what happened is emitted with exactly what changed", () => {
    const fitting = openFitting(demo, wren);
    const kinds: string[] = [];
    fitting.on("change", (change) => kinds.push(JSON.stringify([change.kind, change.changes])));
    const none = { body: false, name: false, slots: [], channels: [], bag: [], facts: [], concealed: [] };
    fitting.rename("Heron");
    fitting.paint("hair", "silver");
    fitting.answer("trade", "ferry");
    fitting.finish();
    expect(kinds.map((each) => JSON.parse(each))).toEqual([
      ["edit", { ...none, name: true }],
      ["edit", { ...none, channels: ["hair"] }],
      ["edit", { ...none, facts: ["trade"] }],
      ["finish", none],
    ]);
  });

  test("a preset gives its body, parts, colors and answers; the name stays", () => {
    const fitting = openFitting(demo, owner);
    expect(fitting.preset("old-hand").ok).toBe(true);
    expect(fitting.character).toMatchObject({ name: "Wren", body: "oak", facts: { trade: "ferry" } });
    expect(fitting.character.loadout).toEqual(demo.presets.get("old-hand")?.loadout);
    expect(fitting.character.bag).toEqual({ scarf: [1], "wool-cap": [1] });
    const refused = fitting.preset("old-hnad");
    expect(refused.ok ? [] : refused.problems.map(({ code, fixes }) => [code, inWords(fixes[0])])).toEqual([
      ["unknown-preset", 'Write "old-hand" if that is meant.'],
    ]);
  });

  test("a roll keeps what it is asked to, and the player's own gear", () => {
    const fitting = openFitting(demo, owner, { solver });
    fitting.wear("braid");
    fitting.paint("hair", "silver");
    const keep = { body: true, slots: ["hair"], channels: ["hair"] };
    const rolled = [1, 2, 3, 4, 5, 6].map((seed) => {
      expect(fitting.roll({ seed, keep }).ok).toBe(true);
      return fitting.character;
    });
    for (const each of rolled) {
      expect(each).toMatchObject({
        name: "Wren",
        body: "reed",
        loadout: { hair: "braid" },
        colors: { hair: "silver" },
      });
      expect(countGear(demo, each).get("wool-cap")).toBeGreaterThanOrEqual(1);
    }
    expect(new Set(rolled.map(({ loadout }) => JSON.stringify(loadout))).size).toBe(6);
  });

  test.each([
    ["refuse", false, [], undefined],
    ["settle", true, [], [{ wear: "waistcoat", in: "vest" }]],
    ["allow", true, ["needs-missing"], undefined],
  ] as const)("with drafts %s, a chain without a waistcoat comes to this", (drafts, ok, problems, settled) => {
    const fitting = openFitting(demo, wren, { drafts, solver });
    const result = fitting.wear("watch-chain");
    expect([result.ok, result.ok ? result.settled?.edits : undefined]).toEqual([ok, settled]);
    // Without the rule's own sentence, a player does not learn why more was done than was asked.
    const because = result.ok ? (result.settled?.because ?? []) : [];
    expect(because.map((each) => format(each, english, catalogTitles(demo)))).toEqual(
      drafts === "settle"
        ? ["With Watch chain there must be Waistcoat. A chain hangs from a waistcoat, or it hangs in the air."]
        : [],
    );
    expect(fitting.problems.map(({ code }) => code)).toEqual(problems);
    if (problems.length > 0) expect(fitting.finish).toThrow(/cannot be finished/);
    else expect(fitting.finish()).toBe(fitting.character);
  });

  test("what settles a draft is what the player chose longest ago", () => {
    const catalog = smallCatalog({
      slots: { a: appearance, b: appearance, c: appearance },
      parts: {
        one: part("a", { tags: ["loud"] }),
        two: part("b", { tags: ["loud"] }),
        three: part("c", { tags: ["loud"] }),
      },
      rules: [{ count: "tag:loud", atMost: 2 }],
    });
    const fitting = openFitting(catalog, createCharacter(catalog, { body: "plain" }), { drafts: "settle", solver });
    for (const id of ["two", "one", "three"]) fitting.wear(id);
    expect(fitting.character.loadout).toEqual({ a: "one", c: "three" });
  });

  test("an edit leaves the options of slots it cannot reach as they are", () => {
    const fitting = openFitting(demo, wren);
    const [hair, hats] = [fitting.options("hair"), fitting.options("hat")];
    fitting.wear("scarf");
    expect(fitting.options("hair")).toBe(hair);
    expect(fitting.options("hat")).not.toBe(hats);
    fitting.paint("hair", "silver");
    expect(fitting.options("hair")).toBe(hair);
  });

  test("reasons can be said with titles in place of ids, in lists and conditions too", () => {
    const catalog = smallCatalog({
      bodies: { plain: { rig: "rig", title: "Plain One" }, tall: { rig: "rig", title: "Tall One" } },
      slots: { hat: { ...appearance, title: { en: "Head", de: "Kopf" } }, face: appearance },
      parts: {
        cap: part("hat", { title: { en: "Red Cap", de: "Rote Kappe" } }),
        veil: part("face", { title: { en: "Veil", de: "Schleier" } }),
        crown: part("hat", { title: "Crown", fits: ["tall"] }),
      },
      rules: [{ if: "part:veil", needs: { any: ["part:cap", "slot:hat"] } }],
    });
    const plain = createCharacter(catalog, { body: "plain" });
    const said = (edit: Edit, language = "en") => {
      const result = openFitting(catalog, plain).apply(edit);
      const messages = result.ok ? [] : result.problems.flatMap((problem) => [problem, ...problem.fixes]);
      return messages.map((each) => format(each, english, catalogTitles(catalog, language))).join(" ");
    };
    expect(said({ wear: "veil" })).toBe(
      "With Veil there must be Red Cap or something in slot Head. Put Red Cap on first.",
    );
    expect(said({ wear: "veil" }, "de")).toContain(
      "With Schleier there must be Rote Kappe oder something in slot Kopf.",
    );
    expect(said({ wear: "crown" })).toBe("Crown was not made for body Plain One. It fits Tall One.");
    expect(said({ wear: "cap", in: "face" })).toBe("Red Cap does not go in slot Face. It goes in Head.");
  });

  test("what has no title of its own takes that of what it is about; tags and answers have titles too", () => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          ...(smallSource()["rigs"] as { rig: object }).rig,
          facings: [
            { id: "south", title: { en: "To the front", de: "Nach vorn" } },
            "west",
            { id: "east", mirror: "west" },
          ],
          animations: {
            idle: { frames: 2, fps: 2, title: { en: "Standing", de: "Stehen" } },
            walk: { frames: 4, fps: 8 },
          },
        },
      },
      slots: { hat: { ...appearance, title: { en: "Head", de: "Kopf" } }, face: appearance },
      tags: { warm: { title: { en: "Warm things", de: "Warmes" } } },
      parts: { cap: part("hat", { tags: ["warm"] }), veil: part("face") },
      rules: [{ if: "part:veil", needs: { all: ["tag:warm", "fact:trade=pilot"] } }],
      creation: {
        start: "covers",
        steps: {
          covers: { ask: "part", slot: "hat", next: "trade" },
          trade: {
            title: { en: "Trade", de: "Beruf" },
            ask: "fact",
            fact: "trade",
            from: { pilot: { title: { en: "Pilot", de: "Lotsin" } } },
          },
        },
      },
    });
    const { facings, animations } = catalog.rigs.get("rig") ?? {};
    const titled = (map: ReadonlyMap<string, { readonly title: Text }> | undefined) =>
      [...(map?.values() ?? [])].map(({ title }) => textIn(title, "de"));
    expect(titled(facings)).toEqual(["Nach vorn", "West", "East"]);
    expect(titled(animations)).toEqual(["Stehen", "Walk"]);
    expect(titled(catalog.creation?.steps)).toEqual(["Kopf", "Beruf"]);

    const refused = openFitting(catalog, createCharacter(catalog, { body: "plain" })).wear("veil");
    const said = refused.ok ? [] : refused.problems.map((each) => format(each, english, catalogTitles(catalog, "de")));
    expect(said).toEqual(["With Veil there must be something of the kind Warmes und Lotsin as Beruf."]);
  });

  test("every listener gets every change in its order, also those that a listener makes, and one that fails stops nobody", () => {
    const fitting = openFitting(demo, wren);
    const got: string[] = [];
    fitting.on("change", ({ changes }) => {
      if (changes.slots.includes("hat")) fitting.wear("oilskin");
      throw new Error("this listener fails");
    });
    const stop = fitting.on("change", ({ changes }) => got.push(changes.slots.join()));
    expect(() => fitting.wear("storm-hat")).toThrow("this listener fails");
    expect(got).toEqual(["hat", "coat"]);
    stop();
    expect(() => fitting.undo()).toThrow();
    expect([got, Object.keys(fitting.character.loadout).includes("hat")]).toEqual([["hat", "coat"], true]);
  });

  test("it cannot be finished while errors stand in the way, and says which", () => {
    const catalog = smallCatalog({
      slots: { eyes: { ...appearance, required: true } },
      parts: { round: part("eyes") },
    });
    const fitting = openFitting(catalog, createCharacter(catalog, { body: "plain" }));
    expect(fitting.problems.map(({ code }) => code)).toEqual(["required-slot"]);
    expect(fitting.finish).toThrow(MantleError);
    expect(fitting.finish).toThrow(/required-slot \(slot: "eyes"\)/);
    fitting.wear("round");
    expect(fitting.problems).toEqual([]);
    expect(fitting.finish().loadout).toEqual({ eyes: "round" });
  });

  test("options are those of the draft", () => {
    const fitting = openFitting(demo, wren);
    const stateOf = (id: string) => fitting.options("hat").find(({ part: each }) => each.id === id)?.state;
    expect(stateOf("lamp-crown")).toBe("ready");
    fitting.wear("hood-up");
    expect(stateOf("lamp-crown")).toBe("blocked");
  });
});

describe("any walk through a fitting", () => {
  const walks = fc.array(
    fc.oneof(
      fc.record({ wear: fc.constantFrom(...demo.parts.keys()) }),
      fc.record({ remove: fc.constantFrom(...demo.slots.keys()) }),
      fc.record({ dress: fc.constantFrom(...demo.outfits.keys()) }),
      fc.record({ preset: fc.constantFrom(...demo.presets.keys()) }),
      fc.record({ body: fc.constantFrom(...demo.bodies.keys()) }),
      fc.constantFrom("undo" as const, "redo" as const),
    ),
    { maxLength: 25, size: "max" },
  );
  const policies = fc.constantFrom("refuse" as const, "settle" as const, "allow" as const);
  const take = (fitting: Fitting, step: Edit | "undo" | "redo") =>
    typeof step === "string" ? fitting[step]() : fitting.apply(step);

  test("never loses gear the player owned, and never leaves any in the bag that was not", () => {
    fc.assert(
      fc.property(walks, policies, (walk, drafts) => {
        const fitting = openFitting(demo, owner, { drafts, solver });
        for (const step of walk) take(fitting, step);
        const owned = countGear(demo, owner);
        const now = countGear(demo, fitting.character);
        for (const [id, count] of owned) expect(now.get(id) ?? 0).toBeGreaterThanOrEqual(count);
        for (const [id, stacks] of Object.entries(fitting.character.bag))
          expect(owned.get(id) ?? 0).toBeGreaterThanOrEqual(stacks.reduce((sum, count) => sum + count));
      }),
    );
  });

  test("keeps options that are those of a fitting just opened, and says which may be others", () => {
    fc.assert(
      fc.property(walks, policies, (walk, drafts) => {
        const fitting = openFitting(demo, owner, { drafts, solver });
        const slots = [...demo.slots.keys()];
        const said = new Set<string>();
        fitting.on("change", ({ options }) => {
          for (const slot of options) said.add(slot);
        });
        const listed = (slot: string) =>
          JSON.stringify(
            fitting
              .options(slot)
              .map(({ part: { id }, state, displaced, problems, stats }) => [id, state, displaced, problems, stats]),
          );
        for (const step of walk) {
          const lists = new Map(slots.map((slot) => [slot, fitting.options(slot)]));
          said.clear();
          take(fitting, step);
          for (const slot of slots) {
            const kept = listed(slot);
            if (!said.has(slot)) expect(fitting.options(slot)).toBe(lists.get(slot));
            const fresh = JSON.stringify(
              optionsFor(demo, fitting.character, slot).map(({ part: { id }, state, displaced, problems, stats }) => [
                id,
                state,
                displaced,
                problems,
                stats,
              ]),
            );
            expect(kept).toBe(fresh);
          }
        }
      }),
      runs(12),
    );
  });

  test("with drafts settled, never leaves anything broken, and always keeps the part that was put on", () => {
    fc.assert(
      fc.property(walks, (walk) => {
        const fitting = openFitting(demo, wren, { drafts: "settle", solver });
        for (const step of walk) {
          const result = take(fitting, step);
          expect(checkLoadout(demo, fitting.character)).toEqual([]);
          if (result?.ok === true && typeof step === "object" && "wear" in step)
            expect(wornParts(demo, fitting.character).map((worn) => worn.part.id)).toContain(step.wear);
        }
      }),
    );
  });

  test("is undone to the very beginning", () => {
    fc.assert(
      fc.property(walks, (walk) => {
        const fitting = openFitting(demo, owner);
        for (const step of walk) take(fitting, step);
        while (fitting.canUndo) fitting.undo();
        expect(fitting.character).toBe(owner);
      }),
    );
  });
});
