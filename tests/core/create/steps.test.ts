import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Answer,
  type Catalog,
  checkLoadout,
  createCharacter,
  MantleError,
  openSteps,
  readCatalog,
  readProgress,
  type Steps,
} from "zealous-mantle";
import { checkCreation, listPaths } from "zealous-mantle/authoring";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { runs } from "../../runs.ts";
import { appearance, part, smallCatalog, smallSource } from "../../small-catalog.ts";

const blank = createCharacter(demo, { body: "reed" });
const open = (catalog: Catalog = demo, character = blank) => openSteps(catalog, character);
const at = (steps: Steps) => steps.step?.id;

/** Answers one step after the other, and goes on, through any question back. */
function answerAll(steps: Steps, answers: readonly Answer[]): void {
  for (const answer of answers) {
    expect(steps.answer(answer).ok).toBe(true);
    steps.next();
    if (steps.confirming) steps.next();
  }
}

describe("a creation in steps", () => {
  test("asks one question at a time, and ends with the character that was described", () => {
    const steps = open();
    answerAll(steps, ["oak", "oak-young", "braid", "silver", "clay", "courier", "Tamsin"]);
    expect([at(steps), steps.problems]).toEqual([undefined, []]);
    expect(steps.finish()).toMatchObject({
      name: "Tamsin",
      body: "oak-young",
      loadout: { hair: "braid", hat: "storm-hat" },
      colors: { hair: "silver", skin: "clay" },
      facts: { trade: "courier" },
    });
  });

  test("takes what shows for the answer, where something does", () => {
    const steps = open();
    expect(steps.answered).toBe("reed");
    steps.next();
    expect([at(steps), steps.progress.answers]).toEqual(["reed-age", { build: "reed" }]);
    answerAll(steps, ["reed", null, "clay", null]);
    expect([at(steps), steps.answered]).toEqual(["trade", undefined]);
    const refused = steps.next();
    expect(
      refused.ok ? [] : refused.problems.map((problem) => [problem.code, inWords(problem), inWords(problem.fixes[0])]),
    ).toEqual([["not-answered", 'Step "trade" has no answer yet.', "Choose one first."]]);
  });

  test("each choice shows the figure as it would be, with later answers on it", () => {
    const steps = open();
    answerAll(steps, ["reed", "reed", "braid", "silver", "clay"]);
    steps.goTo("build");
    const oak = steps.choices.find(({ answer }) => answer === "oak");
    expect(oak?.shows).toMatchObject({
      body: "oak",
      loadout: { hair: "braid" },
      colors: { hair: "silver", skin: "clay" },
    });
    expect(steps.character.body).toBe("reed");
  });

  test("going back loses no later answer that fits, says which fell, and gives them back when they fit again", () => {
    const steps = open();
    answerAll(steps, ["reed", "reed", "braid", "silver", "clay", "beard-full", "lamps", "pilot-badge", "Wren"]);
    const whole = steps.character;
    expect(steps.goTo("reed-age")).toBe(true);
    const younger = steps.answer("reed-young");
    expect(younger.ok ? younger.dropped.map(({ step, answer }) => [step.id, answer]) : []).toEqual([
      ["beard", "beard-full"],
    ]);
    expect(steps.character).toMatchObject({ name: "Wren", loadout: { hair: "braid", badge: "pilot-badge" } });
    expect(steps.character.loadout).not.toHaveProperty("beard");
    expect(steps.answer("reed")).toEqual({ ok: true, dropped: [] });
    expect(steps.character).toEqual(whole);
    steps.goTo("trade");
    const changed = steps.answer("none");
    expect(changed.ok && changed.dropped.map(({ step }) => step.id)).toEqual(["badge"]);
  });

  test("asks back before it goes on, where the author wants it", () => {
    const steps = open();
    answerAll(steps, ["reed", "reed", "bob", "rust", "clay", "chin-tuft"]);
    steps.answer("ferry");
    steps.next();
    expect([at(steps), steps.confirming]).toEqual(["trade", true]);
    expect(steps.back()).toBe(true);
    expect([at(steps), steps.confirming, steps.answered]).toEqual(["trade", false, "ferry"]);
    steps.next();
    steps.answer("none");
    expect(steps.confirming).toBe(false);
    steps.next();
    steps.next();
    expect(at(steps)).toBe("name");
  });

  test("can be left for later where the author allows it, and nowhere else", () => {
    const steps = open();
    expect(steps.later()).toBe(false);
    answerAll(steps, ["reed", "reed", "bob", "rust", "clay"]);
    expect([at(steps), steps.later(), at(steps)]).toEqual(["beard", true, "trade"]);
    answerAll(steps, ["none", "Heron"]);
    expect(steps.path.find(({ step }) => step.id === "beard")?.state).toBe("later");
    expect(steps.finish().loadout).not.toHaveProperty("beard");
    expect(steps.goTo("beard")).toBe(true);
    steps.answer("mustache");
    expect(steps.finish().loadout.beard).toBe("mustache");
  });

  test("does not finish, nor jump ahead, while a question is open", () => {
    const steps = open();
    expect(steps.goTo("name")).toBe(false);
    expect(steps.finish).toThrow(MantleError);
    expect(steps.finish).toThrow(/not-answered \(step: "trade"\)\. not-answered \(step: "name"\)/);
    expect(steps.back()).toBe(false);
  });

  test("refuses what a step does not offer, a bare name, and what a rule or the game keeps away", () => {
    const steps = openSteps(demo, blank, { holdings: { "lamplighter-badge": "listed" }, names: { taken: ["Wren"] } });
    const refusal = (answer: Answer) => {
      const result = steps.answer(answer);
      return result.ok ? "taken" : result.problems.map(inWords).join(" ");
    };
    expect(refusal("reed-young")).toBe('Step "build" does not offer "reed-young".');
    expect(refusal(null)).toBe('Step "build" does not offer "".');
    answerAll(steps, ["reed", "reed", null, "clay", null]);
    expect(refusal("courier")).toContain('"storm-hat" is not owned.');
  });

  test("lists locked choices with the reason, and no secret ones", () => {
    const catalog = smallCatalog({
      slots: { hat: appearance },
      parts: { cap: part("hat"), crown: part("hat", { price: 9 }), halo: part("hat", { access: "secret" }) },
      creation: { start: "hat", steps: { hat: { ask: "part", slot: "hat", bare: false } } },
    });
    const steps = openSteps(catalog, createCharacter(catalog, { body: "plain" }), { holdings: {} });
    expect(steps.choices.map(({ answer, state, problems }) => [answer, state, problems[0]?.fixes[0]])).toEqual([
      ["cap", "ready", undefined],
      ["crown", "locked", { code: "acquire-for", params: { price: 9 } }],
    ]);
  });

  test("goes on after a reload where it stopped, even in the middle of a question back", () => {
    const steps = open();
    answerAll(steps, ["reed", "reed", "bob", "rust", "clay"]);
    steps.later();
    steps.answer("lamps");
    steps.next();
    const { progress } = readProgress(JSON.parse(JSON.stringify(steps.progress)));
    const again = openSteps(demo, blank, progress && { progress });
    expect([at(again), again.confirming, again.character]).toEqual(["trade", true, steps.character]);
    expect(again.path.map(({ state }) => state)).toEqual(steps.path.map(({ state }) => state));
    expect(readProgress({ mantle: "steps/2" })).toMatchObject({
      progress: undefined,
      problems: [{ code: "not-progress" }],
    });
    const strange = openSteps(demo, blank, {
      progress: { mantle: "steps/1", at: "gone", confirming: false, answers: { gone: "x", build: "elm" }, later: [] },
    });
    expect([at(strange), strange.character.body]).toEqual(["build", "reed"]);
  });

  test("a catalog without steps says so", () => {
    const catalog = smallCatalog();
    expect(() => openSteps(catalog, createCharacter(catalog, { body: "plain" }))).toThrow(/has no steps/);
  });

  test("whatever is answered, gone back to or put off, the way is a path of the catalog, and its end is a valid character", () => {
    const paths = new Set(listPaths(demo).paths.map((path) => path.join(" ")));
    const moves = fc.array(
      fc.oneof(
        { weight: 8, arbitrary: fc.nat({ max: 30 }) },
        fc.constantFrom("back" as const, "later" as const, "go" as const),
      ),
      { maxLength: 60, size: "max" },
    );
    fc.assert(
      fc.property(moves, (walk) => {
        const steps = open();
        for (const move of walk) {
          const ids = steps.path.map(({ step }) => step.id);
          expect(paths).toContain(ids.join(" "));
          if (move === "go") steps.goTo(ids[ids.length >> 1] ?? "");
          else if (typeof move === "string") steps[move]();
          else {
            const { choices } = steps;
            const choice = choices[move % choices.length];
            const answer = steps.step?.asks.kind === "name" ? "Wren" : choice?.answer;
            const can = choice === undefined || choice.state === "ready" || choice.state === "displaces";
            if (answer !== undefined && !steps.confirming) expect(steps.answer(answer).ok).toBe(can);
            steps.next();
          }
        }
        expect(checkLoadout(demo, steps.character)).toEqual([]);
        const again = openSteps(demo, blank, { progress: steps.progress });
        expect([at(again), again.character]).toEqual([at(steps), steps.character]);
      }),
      runs(150),
    );
  });
});

describe("the flow of a catalog", () => {
  const bodies = { plain: { rig: "rig" }, tall: { rig: "rig" } };
  const fact = (next?: unknown, more = {}) => ({
    ask: "fact",
    fact: "trade",
    from: { pilot: {}, smith: {} },
    next,
    ...more,
  });
  const problemsOf = (steps: object, start = "one", more = {}) => {
    const { catalog, problems } = readCatalog(
      smallSource({
        bodies,
        slots: { hat: appearance },
        parts: { cap: part("hat") },
        creation: { start, steps },
        ...more,
      }),
    );
    return catalog === undefined ? problems : [...problems, ...checkCreation(catalog)];
  };

  test("every path is listed once, conditions on answers followed exactly", () => {
    const { catalog } = readCatalog(
      smallSource({
        bodies,
        creation: {
          start: "build",
          steps: {
            build: { ask: "body", next: "trade" },
            trade: fact([{ if: "fact:trade=pilot", go: "tall" }, "name"]),
            tall: { ask: "name", if: "body:tall", next: "name" },
            name: { ask: "name", next: [{ if: { all: ["body:plain", "fact:trade=pilot"] }, go: "last" }] },
            last: { ask: "outfit", if: { not: "fact:trade=pilot" } },
          },
        },
        outfits: { any: { parts: [] } },
      }),
    );
    expect(catalog && listPaths(catalog)).toEqual({
      paths: expect.arrayContaining([
        ["build", "trade", "name"],
        ["build", "trade", "tall", "name"],
      ]),
      circles: [],
      complete: true,
    });
    expect(catalog && listPaths(catalog).paths).toHaveLength(2);
    expect(catalog && listPaths(catalog, 3).complete).toBe(false);
  });

  test.each<[string, object, string, string]>([
    ["a start that is no step", { two: { ask: "name" } }, "unknown-step", "/creation/start"],
    ["a next that is no step", { one: { ask: "name", next: "tow" } }, "unknown-step", "/creation/steps/one/next"],
    [
      "a step nobody reaches",
      { one: { ask: "name" }, two: { ask: "body" } },
      "step-unreachable",
      "/creation/steps/two",
    ],
    [
      "a step whose condition no answer meets",
      { one: fact("two"), two: { ask: "name", if: "fact:trade=baker" } },
      "never-answered",
      "/creation/steps/two/if",
    ],
    [
      "steps nobody leaves",
      { one: { ask: "body", next: "two" }, two: { ask: "name", next: "one" } },
      "steps-in-circle",
      "/creation/steps/two/next",
    ],
    ["a part without a slot", { one: { ask: "part" } }, "step-without-key", "/creation/steps/one"],
    [
      "answers that are no map",
      { one: { ask: "fact", fact: "trade", from: ["pilot"] } },
      "answers-not-a-map",
      "/creation/steps/one/from",
    ],
    [
      "no answers at all",
      { one: { ask: "fact", fact: "trade", from: {} } },
      "question-without-answers",
      "/creation/steps/one/from",
    ],
    ["a key of another kind", { one: { ask: "name", slot: "hat" } }, "step-of-two-kinds", "/creation/steps/one/slot"],
    [
      "parts there are none of",
      { one: { ask: "part", slot: "hat", from: ["tag:red"] } },
      "step-offers-nothing",
      "/creation/steps/one/from",
    ],
    ["no outfit to offer", { one: { ask: "outfit" } }, "step-offers-nothing", "/creation/steps/one/from"],
    ["a body that is none", { one: { ask: "body", from: ["tal"] } }, "unknown-body", "/creation/steps/one/from/0"],
    ["a condition on nothing", { one: { ask: "name", if: "body:tal" } }, "unknown-body", "/creation/steps/one/if"],
    [
      "an answer that dresses in nothing",
      { one: { ask: "fact", fact: "trade", from: { pilot: { do: [{ dress: "x" }] } } } },
      "unknown-outfit",
      "/creation/steps/one/from/pilot/do/0/dress",
    ],
  ])("%s is found", (_name, steps, code, pointer) => {
    expect(problemsOf(steps).map((problem) => [problem.code, problem.place.pointer])).toEqual([[code, pointer]]);
  });

  test("presets are checked as outfits are, and against their body", () => {
    const parts = { cap: part("hat", { fits: ["tall"] }), hood: part("hat") };
    const presets = { one: { body: "plain", parts: ["cap", "hood"] }, two: { body: "pale", parts: ["cup"] } };
    const found = problemsOf({ one: { ask: "preset" } }, "one", { parts, presets });
    expect(found.map(({ code, place }) => [code, place.pointer])).toEqual([
      ["parts-clash", "/presets/one/parts/1"],
      ["preset-does-not-fit", "/presets/one/parts/0"],
      ["unknown-part", "/presets/two/parts/0"],
      ["unknown-body", "/presets/two/body"],
    ]);
  });

  test("two files that both have steps are found", () => {
    const creation = { start: "one", steps: { one: { ask: "name" } } };
    const { problems } = readCatalog(smallSource({ creation }), { "more.json": { creation } });
    expect(problems.map(({ code, place }) => [code, place.file])).toEqual([["duplicate-id", "more.json"]]);
  });
});
