import { readFile } from "node:fs/promises";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  applyEdit,
  type Character,
  createCharacter,
  createFromPreset,
  encodeSave,
  type Holdings,
  type Json,
  limits,
  openSteps,
} from "zealous-mantle";
import { type JudgeContext, judgeCharacter, judgeSave, readEdit } from "zealous-mantle/judge";
import { rollCharacter } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { runs } from "../../runs.ts";

const courier = createFromPreset(demo, "old-hand", { id: "wren", name: "Wren" });
const wren: Character = { ...courier, bag: { flares: [10] } };

/** Everything the demo has is owned, and there are three of each. */
const holdings: Holdings = Object.fromEntries([...demo.parts.keys()].map((id) => [id, "owned"]));
const counts = Object.fromEntries([...demo.parts.keys()].map((id) => [id, 30]));
const context: JudgeContext = { holdings, counts, bagPlaces: 12, names: { taken: ["Heron"] } };

function judge(sent: unknown, more: JudgeContext = {}) {
  const { accepted, problems } = judgeCharacter(demo, JSON.stringify(sent), { ...context, ...more });
  return { accepted, codes: problems.filter(({ severity }) => severity === "error").map(({ code }) => code) };
}

describe("a character from a stranger", () => {
  test("is accepted when the library made it, as it was sent", () => {
    expect(judgeCharacter(demo, JSON.stringify(wren), context)).toEqual({
      accepted: true,
      character: wren,
      problems: [],
    });
    expect(judgeCharacter(demo, `\uFEFF${JSON.stringify(wren, null, 2)}`, context).accepted).toBe(true);
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        expect(judge(rollCharacter(demo, { seed, name: "Wren" }))).toEqual({ accepted: true, codes: [] });
      }),
      runs(60),
    );
  });

  test("is accepted after every way through the creation, and in every outfit", () => {
    const steps = openSteps(demo, createCharacter(demo, { body: "reed" }), { names: { taken: ["Heron"] } });
    for (let left = 40; steps.step !== undefined && left > 0; left -= 1) {
      if (steps.step.asks.kind === "name") steps.answer("Wren");
      else if (steps.choices.length > 0 && steps.answered === undefined)
        steps.answer(steps.choices.find(({ state }) => state !== "blocked")?.answer ?? null);
      steps.next();
    }
    expect(judge(steps.finish())).toEqual({ accepted: true, codes: [] });
    for (const outfit of demo.outfits.keys()) {
      const dressed = applyEdit(demo, rollCharacter(demo, { seed: 7, body: "reed" }), { dress: outfit });
      if (dressed.ok) expect(judge(dressed.character)).toEqual({ accepted: true, codes: [] });
    }
  });

  const festive = applyEdit(
    demo,
    { ...wren, loadout: { ...wren.loadout, hat: "wool-cap" } },
    { dress: "lamp-festival" },
  );
  const tampered: readonly (readonly [string, unknown, string])[] = [
    ["no object", [wren], "not-a-character"],
    ["nothing", null, "not-a-character"],
    ["another form", { ...wren, mantle: "character/2" }, "not-a-character"],
    ["a key too many", { ...wren, isAdmin: true }, "not-a-character"],
    ["a key too few", { ...wren, bag: undefined }, "not-a-character"],
    ["a prototype", JSON.parse(`{"__proto__":{"isAdmin":true},${JSON.stringify(wren).slice(1)}`), "not-a-character"],
    ["an id that leads elsewhere", { ...wren, id: "../../wren" }, "not-a-character"],
    ["half a part in the bag", { ...wren, bag: { flares: [0.5] } }, "not-a-character"],
    ["less than nothing in the bag", { ...wren, bag: { flares: [-4] } }, "not-a-character"],
    ["a stack of nothing", { ...wren, bag: { flares: [] } }, "not-a-character"],
    ["1e9 of what does not stack", { ...wren, bag: { "wool-cap": [1e9] } }, "not-a-character"],
    ["many of what does not stack", { ...wren, bag: { "wool-cap": [3] } }, "stack-too-large"],
    ["more stacks than places", { ...wren, bag: { flares: Array.from({ length: 13 }, () => 1) } }, "bag-too-full"],
    ["more than is owned", { ...wren, bag: { flares: [20, 15] } }, "too-many"],
    ["a hairstyle in the bag", { ...wren, bag: { [wren.loadout["hair"] ?? "bob"]: [1] } }, "appearance-in-bag"],
    ["an unknown part in the bag", { ...wren, bag: { "moon-boots": [1] } }, "unknown-part"],
    ["an unknown body", { ...wren, body: "elm" }, "unknown-body"],
    ["an unknown part", { ...wren, loadout: { ...wren.loadout, hat: "moon-hat" } }, "unknown-part"],
    ["an unknown slot", { ...wren, loadout: { ...wren.loadout, tail: "wool-cap" } }, "unknown-slot"],
    ["a part in a slot it does not go in", { ...wren, loadout: { ...wren.loadout, hat: "sea-boots" } }, "wrong-slot"],
    ["a part that breaks a rule", { ...wren, loadout: { ...wren.loadout, chain: "watch-chain" } }, "needs-missing"],
    ["an unknown channel", { ...wren, colors: { aura: "red" } }, "unknown-channel"],
    ["a color that is not offered", { ...wren, colors: { hair: "#123456" } }, "ramp-not-offered"],
    ["another catalog", { ...wren, catalog: { id: "elsewhere", version: "1.0.0" } }, "other-catalog"],
    ["another version", { ...wren, catalog: { ...wren.catalog, version: "9.0.0" } }, "other-version"],
    ["an answer that no step offers", { ...wren, facts: { trade: "admiral" } }, "answer-not-offered"],
    ["an answer that nobody asks for", { ...wren, facts: { ...wren.facts, level: "99" } }, "unknown-fact"],
    ["something concealed under nothing", { ...wren, concealed: { by: "storm-watch", gear: {} } }, "nothing-concealed"],
    ["nothing concealed", { ...festive.character, concealed: { by: "lamp-festival", gear: {} } }, "nothing-concealed"],
    [
      "something concealed that is not worn",
      { ...festive.character, concealed: { by: "lamp-festival", gear: { back: "satchel" } } },
      "nothing-concealed",
    ],
    ["a name of 5,000 letters", { ...wren, name: "W".repeat(5_000) }, "not-a-character"],
    ["a name of 17 letters", { ...wren, name: "W".repeat(17) }, "name-too-long"],
    ["a name of a hundred marks", { ...wren, name: `W${"\u0301".repeat(100)}` }, "name-not-seen"],
    ["a name that is taken", { ...wren, name: "HERON" }, "name-taken"],
    ["a name that looks like a taken one", { ...wren, name: "Her0n" }, "name-taken"],
    ["a name in letters that look like others", { ...wren, name: "Hеrоn" }, "name-of-two-scripts"],
    ["a name that cannot be seen", { ...wren, name: "Wr\u200ben" }, "name-not-seen"],
    ["a name that turns the direction", { ...wren, name: "\u202enerW" }, "name-not-seen"],
    ["a name of letters that do not exist", { ...wren, name: "Wren\u{e0fff}" }, "name-not-seen"],
    ["a name with half a letter", { ...wren, name: "Wren\ud800" }, "name-not-seen"],
    ["a name that is not tidy", { ...wren, name: " Wren\n" }, "name-not-seen"],
  ];
  test.each(tampered)("is refused with %s", (_what, sent, code) => {
    const { accepted, codes } = judge(sent);
    expect([accepted, codes]).toEqual([false, expect.arrayContaining([code])]);
  });

  test("is refused for what it does not own or know", () => {
    const [hat = "storm-hat"] = [...demo.parts.keys()].filter((id) => demo.parts.get(id)?.slots[0] === "hat");
    const worn = { ...wren, loadout: { ...wren.loadout, hat } };
    expect(judge(worn, { holdings: { ...holdings, [hat]: "listed" } }).codes).toContain("not-owned");
    expect(judge(worn, { holdings: { ...holdings, [hat]: "secret" } }).codes).toContain("not-known");
  });

  test("keeps answers that the game says it may", () => {
    const asked = { ...wren, facts: { ...wren.facts, level: "12", guild: "anything" } };
    expect(judge(asked, { answers: { level: ["11", "12"], guild: "any" } })).toEqual({ accepted: true, codes: [] });
    expect(judge(asked, { answers: { level: ["11"], guild: "any" } }).codes).toEqual(["answer-not-offered"]);
  });

  test("is answered within limits, whatever it sends", () => {
    const wide = Object.fromEntries(Array.from({ length: 2_500 }, (_, at) => [`s-${at}`, "x"]));
    const bodies = [
      JSON.stringify({ ...wren, loadout: wide }),
      JSON.stringify({ ...wren, colors: wide }),
      JSON.stringify(Object.fromEntries(Array.from({ length: 5_000 }, (_, at) => [`k${at}`, at]))),
      `${"[".repeat(2_000)}${"]".repeat(2_000)}`,
      '{"mantle":1e999}',
      "x".repeat(limits.characterLength + 1),
      "",
    ];
    for (const text of bodies) {
      const { accepted, problems } = judgeCharacter(demo, text, context);
      expect([accepted, problems.length > 0, problems.length <= limits.findings + 1]).toEqual([false, true, true]);
    }
    const { problems } = judgeCharacter(demo, bodies[0] ?? "", context);
    expect(problems.at(-1)).toMatchObject({ code: "more-findings", params: { count: 2400 } });
  });
});

describe("names", () => {
  const named = (name: string, taken: readonly string[] = []) => {
    const result = applyEdit(demo, wren, { rename: name }, { names: { taken } });
    return result.ok ? "taken over" : result.problems[0]?.code;
  };

  test.each([
    "Wren",
    "Élodie",
    "Ørjan",
    "Рябинка",
    "Αλκυών",
    "潮",
    "うみ Wren",
    "쇠백로",
    "عصفور",
    "पक्षी",
    "क्‍ष",
    "Wren 2",
    "👩🏽‍🚀",
    "❤️",
  ])("%s is one", (name) => expect(named(name)).toBe("taken over"));

  test.each([
    ["Heron", "Нerоn", "name-of-two-scripts"],
    ["cocoa", "сосоа", "name-taken"],
    ["Iris", "lris", "name-taken"],
    ["Warner", "Wamer", "name-taken"],
    ["Ｗｒｅｎ２", "Wren2", "name-taken"],
  ])("%s is not given a second time as %s", (taken, name, code) => expect(named(name, [taken])).toBe(code));
});

test("the page on saves has every limit", async () => {
  const page = await readFile("docs/saves.md", "utf8");
  const table = page.slice(page.indexOf("## Limits"));
  for (const [name, value] of Object.entries(limits))
    expect([name, table.includes(value.toLocaleString("en"))]).toEqual([name, true]);
});

describe("an edit from a stranger", () => {
  const edits = [
    { wear: "storm-hat" },
    { wear: "storm-hat", in: "hat" },
    { remove: "hat" },
    { cycle: "hat", step: -1 },
    { paint: "hair", ramp: "silver" },
    { dress: "storm-watch" },
    { body: "oak" },
    { grow: true },
    { rename: "Heron" },
    { fact: "trade", value: null },
    { preset: "old-hand" },
    { appearance: { loadout: {}, colors: {} } },
    { split: "flares", count: 2 },
    { merge: "flares" },
  ];
  test("is read when it is one", () => {
    for (const edit of [...edits, { together: [...edits, { together: [] }] }])
      expect(readEdit(demo, edit)).toEqual({ edit, problems: [] });
  });

  test.each([
    [null, "An edit is an object"],
    [[], "An edit is an object"],
    [{}, "It has no verb"],
    [{ fly: "hat" }, "It has no verb"],
    [{ wear: "hat", remove: "hat" }, "It has two verbs"],
    [{ wear: 7 }, '"wear" does not have the form'],
    [{ wear: "hat", by: "me" }, '"wear" does not have the form'],
    [{ cycle: "hat", step: 2 }, '"cycle" does not have the form'],
    [{ split: "flares", count: 1e12 }, '"split" does not have the form'],
    [{ grow: false }, '"grow" does not have the form'],
    [{ fact: "trade" }, '"fact" does not have the form'],
    [{ rename: "W".repeat(300) }, '"rename" does not have the form'],
    [{ together: {} }, '"together" does not have the form'],
    [{ together: [], wear: "hat" }, "It has two verbs"],
    [{ together: [{ wear: "hat" }, { fly: 1 }] }, "It has no verb"],
    [{ together: Array.from({ length: 300 }, () => ({ grow: true })) }, "more than 200 edits"],
    [nested(20_000), "deeper than 64 levels"],
  ])("is refused where it is none: %#", (sent, words) => {
    const { edit, problems } = readEdit(demo, sent);
    expect([edit, problems]).toEqual([undefined, [expect.objectContaining({ code: "not-an-edit" })]]);
    expect(inWords(problems[0])).toContain(words);
  });

  test("answers only what the catalog or the game asks, however deep it stands", () => {
    const forged = {
      together: [{ paint: "oilcloth", ramp: "indigo" }, { together: [{ fact: "is-admin", value: "yes" }] }],
    };
    expect(readEdit(demo, forged)).toMatchObject({
      edit: undefined,
      problems: [{ code: "unknown-fact", place: { pointer: "/together/1/together/0" } }],
    });
    expect(readEdit(demo, { fact: "trade", value: "king" })).toMatchObject({
      problems: [{ code: "answer-not-offered" }],
    });
    for (const fact of [
      { fact: "trade", value: "lamps" },
      { fact: "is-admin", value: null },
    ])
      expect(readEdit(demo, fact)).toEqual({ edit: fact, problems: [] });
    expect(readEdit(demo, forged, { "is-admin": ["yes"] }).problems).toEqual([]);
  });

  test("holds others as deep as they come, and pours no more together than bags hold", () => {
    const deep = applyEdit(demo, wren, nested(20_000) as Parameters<typeof applyEdit>[2]);
    expect(deep).toEqual({ ok: true, character: wren, displaced: [] });
    const rich = { ...wren, bag: { "wool-cap": [1_000_000_000] } };
    expect(applyEdit(demo, rich, { merge: "wool-cap" })).toMatchObject({ ok: false, problems: [{ code: "bag-full" }] });
  });
});

function nested(levels: number): unknown {
  let edit: unknown = { together: [] };
  for (let level = 1; level < levels; level += 1) edit = { together: [edit] };
  return edit;
}

describe("a save from a stranger", () => {
  const at = { key: "character-wren", revision: 3 };
  const sealed = (kind: string, content: unknown, address: typeof at | undefined = at) =>
    encodeSave(kind, content as Json, address);
  const judged = (text: string, { key, revision } = at) => judgeSave(demo, key, revision, text, context);
  /** Why it is refused: the problem, and the reason in it. */
  const whyNot = (text: string, place = at) => {
    const { accepted, problems } = judged(text, place);
    return [
      accepted,
      problems[0]?.code,
      (problems[0]?.params["reason"] as { readonly code?: string } | undefined)?.code,
    ];
  };

  test("is accepted with who is in it, as a profile, and where it was removed", () => {
    expect(judged(sealed("character", wren))).toEqual({ accepted: true, character: wren, problems: [] });
    expect(judged(sealed("removed", null))).toEqual({ accepted: true, character: undefined, problems: [] });
    const place = { key: "profile", revision: 1 };
    expect(judged(sealed("profile", { mantle: "profile/1" }, place), place).accepted).toBe(true);
  });

  test("is refused with the reason where it is of another place or kind, hides something, or is no save", () => {
    const text = sealed("character", wren);
    expect([
      whyNot(text, { ...at, revision: 4 }),
      whyNot(text, { ...at, key: "character-heron" }),
      whyNot(sealed("character", { ...wren, id: "heron" })),
      whyNot(encodeSave("character", wren as unknown as Json)),
      whyNot(sealed("profile", {})),
      whyNot(sealed("removed", { hidden: true })),
      whyNot(sealed("anything", {}, { ...at, key: "anything" }), { ...at, key: "anything" }),
      whyNot(sealed("profile", "x".repeat(40_000), { ...at, key: "profile" }), { ...at, key: "profile" }),
      whyNot(` ${text}`),
      whyNot(text.replace("Wren", "Wrem")),
    ]).toEqual([
      [false, "misplaced-save", "save-of-another"],
      [false, "misplaced-save", "save-of-another"],
      [false, "misplaced-save", "save-of-other-character"],
      [false, "misplaced-save", "save-not-here"],
      [false, "other-save", "save-of-other-kind"],
      [false, "damaged-save", "save-of-no-form"],
      [false, "misplaced-save", "save-of-no-session"],
      [false, "damaged-save", "text-too-long"],
      [false, "misplaced-save", "save-of-another"],
      [false, "damaged-save", "seal-mismatch"],
    ]);
  });

  test("never throws, and gives a reason whenever it refuses, whatever the text is", () => {
    const texts = fc.oneof(
      fc.string(),
      fc.json(),
      fc.jsonValue().map((content) => sealed("character", content)),
    );
    fc.assert(
      fc.property(texts, fc.constantFrom("character-wren", "profile", "", "character-"), (text, key) => {
        const { accepted, problems } = judgeSave(demo, key, 3, text, context);
        expect(accepted || problems.length > 0).toBe(true);
      }),
      runs(100),
    );
  });
});
