import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { applyEdit, type Catalog, type Character, checkLoadout, createCharacter, readCatalog } from "zealous-mantle";
import { type ExplainOptions, explainLook, relationsOf } from "zealous-mantle/authoring";
import { loadCatalog } from "zealous-mantle/node";
import { celsAt } from "zealous-mantle/raster";
import { rollCharacter } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { inWords } from "../../in-words.ts";
import { appearance, gear, part, smallCatalog, smallSource } from "../../small-catalog.ts";

describe("why a figure looks as it does", () => {
  test("what shows is what is drawn, layer by layer, back to front, whoever it is and whenever", () => {
    const { rig } = demo.bodies.values().next().value ?? {};
    const moment = fc.record({
      animation: fc.constantFrom(...(rig?.animations.keys() ?? [])),
      facing: fc.constantFrom(...(rig?.facings.keys() ?? [])),
      time: fc.double({ min: 0, max: 3, noNaN: true }),
    });
    const signals = fc.constantFrom({}, { "in-water": true }, { stamina: 1 }, { night: true });
    fc.assert(
      fc.property(fc.nat(500), moment, signals, (seed, at, now) => {
        const { look, layers } = explainLook(demo, rollCharacter(demo, { seed, emptyChance: 0.1 }), at, {
          signals: now,
        });
        const shown = layers.filter(({ because }) => because === undefined).map(({ image }) => image);
        expect(shown).toEqual(celsAt(look, at).map(({ layer }) => layer.images[0]));
      }),
      { numRuns: 60 },
    );
  });

  test("so are meshes, in three dimensions", async () => {
    const modeled = await loadCatalog("demo/saltmarsh-3d", { art: "none" });
    for (let seed = 0; seed < 12; seed += 1) {
      const moment = { animation: "idle", facing: "south", time: 0 };
      const { look, meshes } = explainLook(modeled, rollCharacter(modeled, { seed, emptyChance: 0.1 }), moment);
      const shown = meshes.filter(({ because }) => because === undefined);
      expect(shown.map(({ part, file, node }) => [part, file, node])).toEqual(
        look.meshes.map(({ part, file, node }) => [part, file, node]),
      );
      expect(meshes.length).toBeGreaterThan(shown.length);
    }
  });

  const catalog = smallCatalog({
    slots: { hat: gear, hair: appearance, "hand-left": gear, "hand-right": gear, coat: gear },
    rigs: {
      rig: {
        ...(smallSource()["rigs"] as { rig: object }).rig,
        animations: { idle: { frames: 2, fps: 2 }, walk: { frames: 4, fps: 8 } },
        points: { frames: { crown: { idle: { south: [[2, 1], null] }, walk: { south: [2, 1] } } } },
      },
    },
    bodies: { plain: { rig: "rig", art: [{ image: "{body}.png", depth: 0 }] }, other: { rig: "rig" } },
    parts: {
      hood: part("hat", { hides: ["hair/top"] }),
      curls: {
        slot: "hair",
        layers: [
          { image: "curls.png", depth: 4 },
          { image: "top.png", depth: 6, group: "top" },
        ],
      },
      plume: { slot: "hat", layers: [{ image: "plume.png", depth: 9, still: true, attach: { point: "crown" } }] },
      torch: { slot: ["hand-left", "hand-right"], layers: [{ image: "left.png", depth: 8, in: "hand-left" }] },
      gown: { slot: "coat", layers: [{ image: "gown.png", depth: 5, animations: ["idle"], else: false }] },
      cape: {
        slot: "coat",
        layers: [
          { image: "wet.png", depth: 5, forms: ["wet"] },
          { image: "dry.png", depth: 5, notForms: ["wet"] },
        ],
      },
      small: part("coat", { fits: ["other"] }),
      robe: part("coat"),
    },
    outfits: { solemn: { parts: ["hood"], others: "hide" } },
    forms: {
      wet: { when: { signal: "water" }, priority: 1 },
      ghost: { when: { signal: "dead" }, parts: { hat: null }, art: [{ image: "ghost.png", depth: 0 }] },
    },
    rules: [
      { never: ["part:hood", "part:torch"], message: "It would burn." },
      { if: "part:curls", needs: "slot:hat" },
      { total: "weight", atMost: 3 },
      { set: ["part:hood", "part:robe"], atLeast: 2, gives: { weight: 1 } },
    ],
  });
  const wearing = (loadout: Character["loadout"], more: Partial<Character> = {}): Character => ({
    ...createCharacter(catalog, { body: "plain", id: "wren" }),
    loadout,
    ...more,
  });
  const still = { animation: "idle", facing: "south", time: 0 };
  const reasons = (character: Character, moment = still, options: ExplainOptions = {}) =>
    explainLook(catalog, character, moment, options)
      .layers.filter(({ because }) => because !== undefined)
      .map(({ image, because }) => `${image}: ${inWords(because)}`);

  test.each<[string, readonly string[], readonly string[]]>([
    ["another part hides it", reasons(wearing({ hat: "hood", hair: "curls" })), ['top.png: "hood" hides it.']],
    ["it is for another hand", reasons(wearing({ "hand-right": "torch" })), ['left.png: It is for slot "hand-left".']],
    [
      "it is not drawn for the animation",
      reasons(wearing({ coat: "gown" }), { ...still, animation: "walk" }),
      ['gown.png: It is not drawn for "walk".'],
    ],
    [
      "it hangs on a point that is not seen",
      reasons(wearing({ hat: "plume" }), { ...still, time: 0.6 }),
      ['plume.png: The point "crown" is not seen in this frame.'],
    ],
    ["it is for a form", reasons(wearing({ coat: "cape" })), ['wet.png: It is shown in "wet".']],
    [
      "it is not for the form",
      reasons(wearing({ coat: "cape" }), still, { signals: { water: true } }),
      ['dry.png: It is not shown in form "wet".'],
    ],
    [
      "a form shows something else",
      reasons(wearing({ hat: "hood" }), still, { form: "ghost" }),
      ['plain.png: Form "ghost" has other pictures of the body.', 'part.png: Form "ghost" shows something else there.'],
    ],
    [
      "it was made for others",
      reasons(wearing({ coat: "small" })),
      ['part.png: "small" was not made for body "plain".'],
    ],
    [
      "an outfit conceals it",
      reasons(wearing({ hat: "hood", coat: "robe" }, { concealed: { by: "solemn", gear: { coat: "robe" } } })),
      ['part.png: Outfit "solemn" conceals it.'],
    ],
  ])("%s", (_, said, expected) => {
    expect(said).toEqual(expected);
  });

  test("points, forms with their signals, and the rules that are kept or broken", () => {
    const { points, forms, rules } = explainLook(catalog, wearing({ hair: "curls", "hand-left": "torch" }), still, {
      signals: { water: 1, dead: true },
    });
    expect([...points]).toEqual([["crown", { x: 0, y: -3 }]]);
    expect(forms).toEqual([
      { id: "wet", state: "shown", signals: { water: 1 } },
      { id: "ghost", state: "active", signals: { dead: true } },
    ]);
    expect(rules.map(({ number, state }) => [number, state])).toEqual([
      [0, "kept"],
      [1, "broken"],
      [2, "kept"],
    ]);
    expect(rules[0]?.message).toBe("It would burn.");
  });
});

describe("what rules make of two parts", () => {
  /** Puts every two parts of the demo on, one after the other, and sees what comes of it. */
  function tried(catalog: Catalog): ReadonlySet<string> {
    const found = new Set<string>();
    const [body = ""] = catalog.bodies.keys();
    const bare = { ...createCharacter(catalog, { body }), loadout: {} };
    const parts = [...catalog.parts.values()];
    for (const one of parts)
      for (const other of parts) {
        const [slot = ""] = one.slots;
        const place = other.slots.find((each) => each !== slot);
        if (one === other || place === undefined) continue;
        const problems = checkLoadout(catalog, { ...bare, loadout: { [slot]: one.id, [place]: other.id } });
        const isTold = problems.some(
          ({ code, params }) =>
            code === "never-together" &&
            [params["part"], params["other"]].every((id) => id === one.id || id === other.id),
        );
        if (isTold) found.add([one.id, other.id].sort().join(" "));
      }
    return found;
  }

  test("are found as by putting on every two", () => {
    const listed = relationsOf(demo).filter(({ kind }) => kind !== "needs");
    expect(new Set(listed.map(({ from, to }) => [from, to].sort().join(" ")))).toEqual(tried(demo));
  });

  test("takes off what it displaces, and refuses what it excludes", () => {
    const of = (kind: string) => relationsOf(demo, "hood-up").filter((each) => each.kind === kind);
    expect([
      of("displaces")
        .map(({ to }) => to)
        .sort(),
      of("excludes").map(({ to }) => to),
    ]).toEqual([["reed-cap", "storm-hat"], ["lamp-crown"]]);
    const hatted = edited(demo, createCharacter(demo, { body: "reed" }), { wear: "reed-cap" });
    const hooded = applyEdit(demo, hatted, { wear: "hood-up" });
    expect(hooded.ok && hooded.displaced.map(({ part: id }) => id)).toEqual(["reed-cap"]);
  });

  test("knows needs, and who is asked for; parts of one slot are no relation", () => {
    const { catalog } = readCatalog(
      smallSource({
        slots: { hat: gear, coat: gear, chain: gear },
        parts: {
          cap: part("hat", { tags: ["dark"] }),
          hood: part("hat", { tags: ["dark"] }),
          cloak: part("coat", { tags: ["dark"] }),
          watch: part("chain"),
        },
        rules: [
          { if: "part:watch", needs: { any: ["part:cloak", "part:cap"] } },
          { count: "tag:dark", atMost: 1 },
          { never: ["part:cap", "part:hood"] },
        ],
      }) as object,
    );
    const said = relationsOf(catalog as Catalog).map(({ kind, from, to }) => `${from} ${kind} ${to}`);
    expect(said).toEqual(["watch needs cloak", "watch needs cap", "cap excludes cloak", "hood excludes cloak"]);
    expect(relationsOf(catalog as Catalog, "cloak").map(({ kind, from, to }) => `${from} ${kind} ${to}`)).toEqual([
      "watch needs cloak",
      "cloak excludes cap",
      "cloak excludes hood",
    ]);
  });
});
