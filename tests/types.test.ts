import { expect, test } from "@jest/globals";
import { expectTypeOf } from "expect-type";
import {
  applyEdit,
  type Catalog,
  type CatalogIds,
  type CatalogSource,
  type Character,
  checkLoadout,
  createCharacter,
  createFromPreset,
  type Edit,
  type Fitting,
  type Generation,
  type Image,
  type LoadoutMessages,
  type LoadoutProblem,
  type Look,
  MantleError,
  type Option,
  openFitting,
  openSession,
  type Problem,
  type Reading,
  readCatalog,
  resolveLook,
  type Session,
  type Store,
} from "zealous-mantle";
import type { MantleElements, ScreenLanguage } from "zealous-mantle/elements";
import { listeners } from "zealous-mantle/jsx/react";
import type { loadCatalog } from "zealous-mantle/node";
import type { bakeSheet, encodePng } from "zealous-mantle/raster";
import { celsAt, type fitRamp, pointAt } from "zealous-mantle/raster";
import { openSolver, rollCharacter, serveSolver } from "zealous-mantle/solver";

declare const catalog: Catalog;
declare const character: Character;
declare const store: Store;

/** A catalog in TypeScript: its form is checked where it is written, and its ids are known. */
const written = {
  mantle: "catalog/1",
  id: "written",
  version: "1",
  rigs: {
    person: {
      frame: { width: 16, height: 24 },
      origin: [8, 22],
      facings: ["south", { id: "north", title: { en: "To the back", de: "Nach hinten" } }],
      animations: { idle: { frames: 2, fps: 2 } },
    },
  },
  bodies: { person: { rig: "person", art: [{ image: "body.png", depth: 0 }] } },
  slots: { hat: { kind: "gear" } },
  parts: { cap: { slot: "hat", layers: [{ image: "cap.png", depth: 10 }] } },
  rules: [{ never: ["part:cap", "slot:hat"], message: "Never both." }],
} as const satisfies CatalogSource;

/** Never called, as below: what is no catalog, and what is no whole language, does not compile. */
function forms(screens: Omit<ScreenLanguage, "undo">, sentences: Omit<LoadoutMessages, "never-together">) {
  // @ts-expect-error A key that slots do not have.
  const misspelled = { ...written, slots: { hat: { kind: "gear", requierd: true } } } satisfies CatalogSource;
  // @ts-expect-error A kind that slots do not have.
  const mistaken = { ...written, slots: { hat: { kind: "geer" } } } satisfies CatalogSource;
  // @ts-expect-error A text of the screens is missing.
  const language: ScreenLanguage = screens;
  // @ts-expect-error A sentence is missing.
  const messages: LoadoutMessages = sentences;
  return [misspelled, mistaken, language, messages];
}

/** Never called, as below: ids that the compiler knows, and that it does not. */
function ids(read: unknown, more: Record<string, unknown>): readonly unknown[] {
  const bodies = { reed: {}, alder: {} };
  const source = { mantle: "catalog/1", bodies, slots: { hat: {} }, channels: { cloth: {} }, ramps: { indigo: [] } };
  const known = readCatalog(source, { "hats.json": { parts: { "storm-hat": { slot: "hat" } } } }).catalog;
  if (known === undefined) return [];
  const fitting = openFitting(known, createCharacter(known, { body: "reed" }));
  const moving = readCatalog({
    mantle: "catalog/1",
    rigs: { courier: { facings: ["south", { id: "east", mirror: "south" }], animations: { walk: {}, row: {} } } },
    rules: [{ if: { all: ["signal:flood", "part:boots"] }, needs: "signal:tide=high" }],
    forms: { weary: { when: [{ signal: "stamina", atMost: 2 }] } },
    cues: [{ on: "touch:locker" }, { on: "arrive" }],
    creation: { start: "name", steps: { name: { ask: "name", if: { not: "signal:hurried" } } } },
  }).catalog;
  if (moving === undefined) return [];
  const look = resolveLook(moving, character, { signals: { stamina: 1, tide: "high", hurried: true } });
  const session = openSession({ catalog: moving, store });
  const loose = readCatalog(read).catalog;
  const typed = readCatalog(written).catalog;
  if (typed === undefined) return [];
  const partly = readCatalog({ mantle: "catalog/1", slots: { hat: {} } }, more).catalog;
  return [
    () => fitting.wear("storm-hat", { in: "hat" }),
    // @ts-expect-error A part that the catalog does not have.
    () => fitting.wear("strom-hat"),
    () => openSolver({ worker: () => new Worker("solver-worker.js", { type: "module" }) }),
    () => serveSolver(self),
    // @ts-expect-error A worker that was started already could not be started again.
    () => openSolver({ worker: new Worker("solver-worker.js") }),
    // @ts-expect-error A slot that it does not have.
    () => fitting.wear("storm-hat", { in: "head" }),
    () => openFitting(typed, character).wear("cap"),
    // @ts-expect-error A part that the catalog in TypeScript does not have.
    () => openFitting(typed, character).wear("cpa"),
    () => fitting.paint("cloth", "#a1b2c3"),
    // @ts-expect-error A ramp that it does not have.
    () => fitting.paint("cloth", "indgio"),
    // @ts-expect-error An outfit, of a catalog that has none.
    () => fitting.dress("watch"),
    // @ts-expect-error A body that it does not have.
    () => createCharacter(known, { body: "reeed" }),
    // @ts-expect-error The same in an edit as data, and within another.
    () => applyEdit(known, character, { together: [{ wear: "storm-hat" }, { remove: "boots" }] }),
    // @ts-expect-error A body that the catalog does not have.
    () => rollCharacter(known, { seed: 1, body: "oka" }),
    // @ts-expect-error What is kept is a slot of the catalog.
    () => rollCharacter(known, { seed: 1, keep: { character, slots: ["boots"] } }),
    // @ts-expect-error A preset, of a catalog that has none.
    () => createFromPreset(known, "wren"),
    celsAt(look, { animation: "walk", facing: "east", time: 0 }),
    // @ts-expect-error A facing that no rig has.
    () => celsAt(look, { animation: "walk", facing: "sout", time: 0 }),
    // @ts-expect-error An animation that no rig has.
    () => pointAt(look, "crown", { animation: "wlak", facing: "east", time: 0 }),
    // @ts-expect-error A signal that nothing asks about.
    () => resolveLook(moving, character, { signals: { stamnia: 1 } }),
    async () => (await session).seat(1).signal({ flood: true }),
    // @ts-expect-error The same for the signals of a session.
    async () => (await session).signal({ folod: true }),
    async () => (await session).raise("touch:locker"),
    // @ts-expect-error A word that no cue is raised by.
    async () => (await session).raise("touch:jety"),
    session satisfies Promise<Session>,
    look satisfies Look,
    // Texts of imported JSON have no types of their own, so any facing is taken; keys have.
    (json: { mantle: string; rigs: { courier: { facings: string[]; animations: { walk: object } } } }) => {
      const { catalog: imported } = readCatalog(json);
      const shown = imported && resolveLook(imported, character);
      // @ts-expect-error An animation that no rig has.
      return shown && celsAt(shown, { animation: "wlak", facing: "anything", time: 0 });
    },
    // Whoever asks for it may name anything.
    () => openFitting<CatalogIds>(known, character).wear(String(read)),
    () => loose && applyEdit(loose, character, { wear: "any id" }),
    () => loose && openFitting(loose, character).options("any id"),
    // What is included may have anything in it.
    () => partly && openFitting(partly, character).remove("any id"),
    // Files that are included and not handed in may have anything in them.
    (json: { mantle: string; include: string[]; slots: { hat: object } }) => {
      const { catalog: alone } = readCatalog(json);
      return alone && openFitting(alone, character).remove("any id");
    },
    // Where ids are of no matter, a fitting that knows them is a fitting, and a catalog is one.
    () => checkLoadout(known, fitting.character),
    fitting satisfies Fitting,
    known satisfies Catalog,
  ];
}

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
      // @ts-expect-error The event of a fitting about a part that is wanted has no character.
      screen.addEventListener("mantle-request", ({ character }) => character);
      // @ts-expect-error Other elements know nothing of characters.
      document.body.addEventListener("mantle-finish", ({ character }) => character);
    },
    { "mantle-fitting": { noName: true, "onmantle-finish": () => undefined } } satisfies Partial<MantleElements>,
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

test("listeners of an element are its attributes in React, by the names of its events", () => {
  const keep = () => undefined;
  expect(listeners("mantle-fitting", { "mantle-finish": keep })).toEqual({ "onmantle-finish": keep });
});

test("what the library takes and gives has the types its page says", () => {
  expectTypeOf(readCatalog<unknown>).returns.toEqualTypeOf<Reading>();
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
  expect([forms.length, mistakes.length, ids.length, new MantleError("bad-call", "words")]).toEqual([
    2,
    0,
    2,
    expect.objectContaining({ code: "bad-call" }),
  ]);
});
