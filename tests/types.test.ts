import { expect, test } from "@jest/globals";
import { expectTypeOf } from "expect-type";
import {
  type applyEdit,
  type bakeSheet,
  type Catalog,
  type Character,
  type checkLoadout,
  type createCharacter,
  type Edit,
  type encodePng,
  type fitRamp,
  type Generation,
  type Image,
  type LoadoutProblem,
  type Look,
  MantleError,
  type Option,
  type openFitting,
  type Problem,
  type Reading,
  type readCatalog,
  type Session,
  type Store,
} from "zealous-mantle";
import type { MantleElements } from "zealous-mantle/elements";
import type { loadCatalog } from "zealous-mantle/node";

declare const catalog: Catalog;
declare const character: Character;

/** Never called: what it holds is for the compiler alone. */
function mistakes(): readonly unknown[] {
  const plain: Character = { ...character };
  return [
    () => {
      // @ts-expect-error A character is never changed in place.
      plain.name = "Heron";
    },
    () => {
      // @ts-expect-error What is worn is read, and changed by edits.
      plain.loadout["hat"] = "storm-hat";
    },
    // @ts-expect-error An edit has one verb that exists.
    { waer: "storm-hat" } satisfies Edit,
    // @ts-expect-error What to paint needs what to paint it with.
    { paint: "cloth" } satisfies Edit,
    // @ts-expect-error An edit has one verb, and not two.
    { wear: "storm-hat", remove: "hat" } satisfies Edit,
    () => {
      const screen = document.createElement("mantle-fitting");
      screen.addEventListener("mantle-finish", ({ character: { name } }) => name);
      // @ts-expect-error What a fitting tells of a part that is wanted has no character.
      screen.addEventListener("mantle-want", ({ character }) => character);
      // @ts-expect-error Other elements know nothing of characters.
      document.body.addEventListener("mantle-finish", ({ character }) => character);
    },
    { "mantle-fitting": { nameless: true, "onmantle-finish": () => undefined } } satisfies Partial<MantleElements>,
    // @ts-expect-error What is written in JSX has the types of the properties.
    { "mantle-stage": { zoom: "closer" } } satisfies Partial<MantleElements>,
    () => {
      // @ts-expect-error Parts are found by id, not by place.
      catalog.parts[0];
    },
    // @ts-expect-error How much art is looked at has three names.
    { art: "some" } satisfies Parameters<typeof loadCatalog>[1],
  ];
}

test("what the library takes and gives has the types its page says", () => {
  expectTypeOf<typeof readCatalog>().returns.toEqualTypeOf<Reading>();
  expectTypeOf<typeof createCharacter>().returns.toEqualTypeOf<Character>();
  expectTypeOf<typeof checkLoadout>().returns.toEqualTypeOf<readonly LoadoutProblem[]>();
  expectTypeOf<LoadoutProblem>().toExtend<Problem<unknown>>();
  expectTypeOf<ReturnType<ReturnType<typeof openFitting>["options"]>>().toEqualTypeOf<readonly Option[]>();
  expectTypeOf<typeof loadCatalog>().returns.resolves.toEqualTypeOf<Catalog>();
  expectTypeOf<Image["data"]>().toEqualTypeOf<Uint8ClampedArray>();
  expectTypeOf<typeof encodePng>().parameters.toEqualTypeOf<[Image]>();
  expectTypeOf<Parameters<typeof bakeSheet>[0]>().toEqualTypeOf<Look>();
  expectTypeOf<typeof fitRamp>().returns.toEqualTypeOf<readonly number[]>();
  expectTypeOf<Session["characters"]>().toEqualTypeOf<readonly Character[]>();
  expectTypeOf<Store["read"]>().returns.resolves.toEqualTypeOf<readonly Generation[]>();
  expectTypeOf<MantleError["code"]>().toBeString();
  expectTypeOf<ReturnType<typeof applyEdit>["character"]>().toEqualTypeOf<Character>();
  // A reading is a catalog or it is none, and asking is enough to know.
  expectTypeOf<Extract<Reading, { catalog: undefined }>["problems"]>().toEqualTypeOf<readonly Problem[]>();
  expect([mistakes.length, new MantleError("bad-call", "words")]).toEqual([
    0,
    expect.objectContaining({ code: "bad-call" }),
  ]);
});
