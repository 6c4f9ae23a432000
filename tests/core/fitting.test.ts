import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Character,
  countGear,
  createCharacter,
  type Edit,
  type Fitting,
  MantleError,
  openFitting,
} from "zealous-mantle";
import { demo } from "../demo-catalog.ts";
import { appearance, part, smallCatalog } from "../small-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren" });
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
    const heard: string[] = [];
    const fitting = openFitting(demo, wren);
    const stop = fitting.subscribe((character) => heard.push(Object.values(character.loadout).join()));
    fitting.wear("braid");
    fitting.wear("no-such-part");
    fitting.dress("rest-day");
    fitting.undo();
    stop();
    fitting.redo();
    expect(heard).toEqual(["braid", "braid,smock,scarf,sandals", "braid"]);
  });

  test("it cannot be finished while errors stand in the way, and says which", () => {
    const catalog = smallCatalog({
      slots: { eyes: { ...appearance, required: true } },
      parts: { round: part("eyes") },
    });
    const fitting = openFitting(catalog, createCharacter(catalog, { body: "plain" }));
    expect(fitting.problems.map(({ code }) => code)).toEqual(["required-slot"]);
    expect(fitting.finish).toThrow(MantleError);
    expect(fitting.finish).toThrow(/Slot "eyes" must not be empty/);
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
      fc.constantFrom("undo" as const, "redo" as const),
    ),
    { maxLength: 25 },
  );
  const take = (fitting: Fitting, step: Edit | "undo" | "redo") =>
    typeof step === "string" ? fitting[step]() : fitting.apply(step);

  test("never loses gear the player owned, and never leaves any in the bag that was not", () => {
    fc.assert(
      fc.property(walks, (walk) => {
        const fitting = openFitting(demo, owner);
        for (const step of walk) take(fitting, step);
        const owned = countGear(demo, owner);
        const now = countGear(demo, fitting.character);
        for (const [id, count] of owned) expect(now.get(id) ?? 0).toBeGreaterThanOrEqual(count);
        for (const [id, stacks] of Object.entries(fitting.character.bag))
          expect(owned.get(id) ?? 0).toBeGreaterThanOrEqual(stacks.reduce((sum, count) => sum + count));
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
