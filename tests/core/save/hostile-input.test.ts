import { readFile } from "node:fs/promises";
import { expect, test } from "@jest/globals";
import {
  applyEdit,
  createFromPreset,
  decodeSave,
  encodeSave,
  limits,
  type Message,
  memoryStore,
  openSession,
  type Problem,
  readCatalog,
  readCharacter,
  readSharedLook,
  shareLook,
} from "zealous-mantle";
import { judgeCharacter, readEdit } from "zealous-mantle/judge";
import { demo } from "../../demo-catalog.ts";
import { described, inWords, sentences } from "../../in-words.ts";
import { runs } from "../../runs.ts";
import { smallSource } from "../../small-catalog.ts";
import { hostileDocument, hostileText } from "../hostile-documents.ts";

const wren = { ...createFromPreset(demo, "old-hand", { id: "wren", name: "Wren" }), bag: { flares: [10] } };
const saved = encodeSave("character", { ...wren }, { key: "character-wren", revision: 2 });
const edit = {
  together: [
    { wear: "storm-hat" },
    { paint: "hair", ramp: "silver" },
    { fact: "trade", value: "lamps" },
    { appearance: wren },
  ],
};
const { numRuns } = runs(500);
const seeds = Array.from({ length: numRuns }, (_, seed) => seed);

/** Findings are few, and short enough to be shown. */
function expectFew(problems: readonly Problem<unknown>[]): void {
  expect(problems.length).toBeLessThanOrEqual(limits.findings + 1);
  expect(JSON.stringify(problems).length).toBeLessThan(150_000);
  for (const problem of problems) {
    expect(described(problem)).not.toContain("[object");
    for (const message of [problem, ...problem.fixes]) expectFilled(message);
  }
}

/** Every parameter that the sentence of a message names is there. */
function expectFilled({ code, params }: Message): void {
  const named = [...(sentences[code] ?? "").matchAll(/\{(\w+)/g)].map(([, name = ""]) => name);
  expect([code, named.filter((name) => Object(params)[name] === undefined)]).toEqual([code, []]);
}

test("no character, save, edit or code from outside makes a reader throw", () => {
  const code = shareLook(demo, wren);
  let accepted = 0;
  for (const seed of seeds) {
    const document = hostileDocument(wren, seed);
    const { character, problems } = readCharacter(document);
    expectFew(problems);
    expect(character === undefined).toBe(problems.length > 0);
    if (character !== undefined) {
      accepted += 1;
      // What is accepted is a document, and is read as it is.
      expect(readCharacter(JSON.parse(JSON.stringify(character)))).toEqual({ character, problems: [] });
    }
    expectFew(judgeCharacter(demo, hostileText(JSON.stringify(wren), seed)).problems);
    const opened = decodeSave(hostileText(saved, seed));
    expect(opened.ok ? opened.kind : inWords(opened.reason).length > 0).toBeTruthy();
    const reading = readEdit(demo, hostileDocument(edit, seed));
    expectFew(reading.problems);
    if (reading.edit !== undefined) applyEdit(demo, wren, reading.edit);
    expect(() => readSharedLook(demo, hostileText(JSON.stringify(code), seed))).not.toThrow();
  }
  expect(Reflect.get({}, "polluted")).toBeUndefined();
  expect([accepted > 0, accepted < numRuns / 2]).toEqual([true, true]);
});

test("no catalog from outside makes its reader throw", async () => {
  const files = ["catalog.json", "creation.json", "cues.json", "parts/head.json"];
  const texts = await Promise.all(files.map((name) => readFile(`demo/saltmarsh/${name}`, "utf8").catch(() => "{}")));
  const [main, ...included] = texts.map((text): unknown => JSON.parse(text));
  const small = smallSource({ slots: { hat: { kind: "gear" } }, rules: [{ if: "slot:hat", needs: "body:plain" }] });
  for (const seed of seeds.slice(0, numRuns / 5)) {
    expectFew(
      readCatalog(hostileDocument(main, seed), { "a.json": hostileDocument(included[seed % 3], seed) }).problems,
    );
    expectFew(readCatalog(hostileDocument(small, seed)).problems);
  }
});

test("no save from outside keeps a session from being opened, and the others from being found", async () => {
  const keys = ["character-wren", "profile", "character-other", "character-%zz"];
  for (const seed of seeds.slice(0, numRuns / 5)) {
    const store = memoryStore();
    for (const [at, key] of keys.entries())
      await store.write(key, { revision: 1 + (seed % 3), text: hostileText(saved, seed + at) }, []);
    const heron = { ...wren, id: "heron", name: "Heron" };
    await store.write(
      "character-heron",
      { revision: 1, text: encodeSave("character", heron, { key: "character-heron", revision: 1 }) },
      [],
    );
    const session = await openSession({ catalog: demo, store });
    expect(session.characters.some(({ id }) => id === "heron")).toBe(true);
    await session.close();
  }
});

test("readers that were found to throw do not any more", () => {
  const deep = "[".repeat(2_000) + "]".repeat(2_000);
  expect(decodeSave(`{"mantle":"save/1","kind":"x","seal":"s","content":${deep}}`)).toMatchObject({
    code: "damaged-save",
  });
  expect(decodeSave('{"mantle":"save/1","kind":"x","seal":"s","content":1e999}')).toMatchObject({ ok: false });
  const facts = Object.fromEntries(Array.from({ length: 125_000 }, (_, at) => [at, 1]));
  expectFew(readCharacter({ ...wren, facts }).problems);
  const parts = Object.fromEntries(Array.from({ length: 125_000 }, (_, at) => [at, 1]));
  const { problems } = readCatalog(smallSource({ parts }));
  expectFew(problems);
  expect(inWords(problems.at(-1))).toBe("There are 124950 more findings.");
  const session = { ...wren, bag: { flares: [Number.NaN] } };
  expect(readCharacter(session).problems).toHaveLength(1);
});

test("small catalogs cost little, whatever they ask for", () => {
  const bodies = (count: number) =>
    Object.fromEntries([
      ["b-0", { rig: "rig" }],
      ...Array.from({ length: count }, (_, at) => [`b-${at + 1}`, { extends: `b-${at}` }]),
    ]);
  expect(readCatalog(smallSource({ bodies: bodies(20) })).problems).toEqual([]);
  const chained = readCatalog(smallSource({ bodies: bodies(5_000) }));
  expect([chained.catalog, chained.problems[0]?.code]).toEqual([undefined, "long-lineage"]);

  const layers = Array.from({ length: 3_000 }, (_, at) => ({ image: "a.png", depth: 0, channel: `chanel-${at}` }));
  const channels = Object.fromEntries(
    Array.from({ length: 3_000 }, (_, at) => [`channel-${at}`, { ramps: ["red"], default: "red", key: ["#000000"] }]),
  );
  const art = smallSource({ bodies: { plain: { rig: "rig", art: layers } }, channels, ramps: { red: ["#ff0000"] } });
  const { problems } = readCatalog(art);
  expect(problems[0]).toMatchObject({ code: "unknown-channel" });
  expect(inWords(problems.at(-1))).toBe("There are 2900 more findings.");

  const animations = { idle: { frames: 1e9, fps: 1 } };
  const rigs = { rig: { frame: { width: 4, height: 4 }, origin: [2, 4], facings: ["south"], animations } };
  expect(readCatalog(smallSource({ rigs })).problems).toMatchObject([{ code: "value-too-large" }]);
});
