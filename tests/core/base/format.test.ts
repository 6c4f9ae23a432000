import { describe, expect, test } from "@jest/globals";
import {
  applyEdit,
  catalogTitles,
  checkLoadout,
  createCharacter,
  type Edit,
  editMessage,
  format,
  type Messages,
} from "zealous-mantle";
import { messages as english } from "zealous-mantle/locales/en";
import { englishArt } from "zealous-mantle/locales/en/art";
import { demo } from "../../demo-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const broken = { ...wren, loadout: { chain: "watch-chain", neck: "hood-up", hat: "storm-hat" } };

describe("a message", () => {
  test("is data: it goes over a wire, and is put into words behind it", () => {
    const problems = checkLoadout(demo, broken);
    const received: typeof problems = JSON.parse(JSON.stringify(problems));
    expect(received.map((each) => format(each, english))).toEqual(problems.map((each) => format(each, english)));
    expect(format(received[0] ?? { code: "was-taken-off", params: {} }, english, catalogTitles(demo))).toBe(
      "Storm hat and Hood up are never worn together. A hood does not close over a brim.",
    );
  });

  test("joins lists as its language does, and by the word for or where that is meant", () => {
    const parts = (count: number) => ["storm-hat", "reed-cap", "hood-up"].slice(0, count);
    const said = (count: number, language: string) =>
      format({ code: "take-off-first", params: { parts: parts(count) } }, english, { language });
    expect([said(1, "en"), said(3, "en"), said(2, "de")]).toEqual([
      'Take "storm-hat" off first.',
      'Take "storm-hat", "reed-cap", and "hood-up" off first.',
      'Take "storm-hat" und "reed-cap" off first.',
    ]);
    expect(format({ code: "goes-in", params: { slots: ["hand-left", "hand-right"] } }, english)).toBe(
      'It goes in "hand-left" or "hand-right".',
    );
  });

  test("has numbers as its language writes them, and plain ones where no language is given", () => {
    const bag = { code: "bag-too-full", params: { places: 12_500.25, count: 3 } } as const;
    const messages = { "bag-too-full": "{places}/{count}" };
    const said = ["en", "de", "ar-EG"].map((language) => format(bag, messages, { language }));
    expect(said).toEqual(["12,500.25/3", "12.500,25/3", "١٢٬٥٠٠٫٢٥/٣"]);
    expect(format(bag, messages)).toBe("12500.25/3");
  });

  test("has the word for a number in it, by the plural rules of its language", () => {
    const bag = { code: "bag-too-full", params: { places: 1, count: 2 } } as const;
    expect(format(bag, english)).toBe("The bag has 1 place, and 2 stacks are in it.");
    expect(format({ ...bag, params: { places: 12, count: 1 } }, english)).toBe(
      "The bag has 12 places, and 1 stack is in it.",
    );
    const messages = { "bag-too-full": "{count} {count:one=stos;few=stosy;many=stosów;other=stosu}" };
    const inPolish = [1, 3, 5, 22].map((count) => format({ ...bag, params: { count } }, messages, { language: "pl" }));
    expect(inPolish).toEqual(["1 stos", "3 stosy", "5 stosów", "22 stosy"]);
    const unpaired = Object.values({ ...english, ...englishArt }).filter((text) =>
      /:one=[^;}]*(;(?!other=)|\})/.test(text),
    );
    expect(unpaired).toEqual([]);
  });

  test("is said in the game's own sentences, in quotation marks of its own, and by its code where there are none", () => {
    const messages: Partial<Messages> = { "wrong-slot": "„{part}“ passt nicht in «{slot}»." };
    const result = applyEdit(demo, wren, { wear: "storm-hat", in: "hair" });
    const [problem] = result.ok ? [] : result.problems;
    const said = (titles = {}) => problem && format(problem, messages, titles);
    expect([said(), said(catalogTitles(demo))]).toEqual([
      "„storm-hat“ passt nicht in «hair».",
      "Storm hat passt nicht in Hair.",
    ]);
    expect(format({ code: "was-taken-off", params: {} }, messages)).toBe("was-taken-off");
  });

  test("formats an edit, and what it takes off where that is known", () => {
    const said = (edit: Parameters<typeof editMessage>[0], worn = {}) => format(editMessage(edit, worn), english);
    const edits = [{ remove: "hat" }, { wear: "reed-cap", in: "hat" }] as const;
    expect(said({ together: edits })).toBe('empty slot "hat" and put on "reed-cap" in slot "hat"');
    expect(said({ together: edits }, { hat: "storm-hat" })).toBe(
      'take off "storm-hat" and put on "reed-cap" in slot "hat"',
    );
  });
});

const every: readonly Edit[] = [
  { wear: "reed-cap" },
  { wear: "reed-cap", in: "hat" },
  { remove: "hat" },
  { cycle: "hat", step: 1 },
  { paint: "oilcloth", ramp: "indigo" },
  { dress: "storm-watch" },
  { body: "oak" },
  { grow: true },
  { rename: "Kite" },
  { fact: "trade", value: "pilot" },
  { fact: "trade", value: null },
  { preset: "old-hand" },
  { appearance: wren },
  { split: "flares", count: 2 },
  { merge: "flares" },
  { together: [{ remove: "hat" }, { grow: true }] },
];

test.each(every)("an edit of every verb has a sentence: %j", (edit) => {
  const said = format(editMessage(edit), english);
  expect(said).not.toMatch(/^edit-|\{/);
  for (const value of Object.values(edit)) if (typeof value === "string") expect(said).toContain(value);
});

test("advice belongs to a finding", () => {
  const codes = Object.keys(english);
  for (const code of codes) if (code.startsWith("mend-")) expect(codes).toContain(code.slice("mend-".length));
});
