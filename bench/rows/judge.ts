import { limits, makeName } from "zealous-mantle";
import { type JudgeContext, judgeCharacter } from "zealous-mantle/judge";
import { loadCatalog } from "zealous-mantle/node";
import { rollCharacter } from "zealous-mantle/solver";
import type { Access } from "zealous-mantle/types";
import { agree, type Row, sideBySide } from "../measure.ts";

/** Milliseconds that the worst body of the largest size may take. */
const longest = 20;

/** One character after another, as a server gets them: a text, and who owns what. */
export const judge: Row = {
  name: "judge",
  work: "judgeCharacter of the texts that players send",
  against: "JSON.parse of the same texts",
  unit: "µs",
  goal: { atMost: 4 },
  async measure() {
    const catalog = await loadCatalog("demo/saltmarsh", { art: "none" });
    const owned: Access = "owned";
    const holdings = Object.fromEntries([...catalog.parts.keys()].map((id) => [id, owned]));
    const context: JudgeContext = { holdings, names: { taken: ["Heron"] }, bagPlaces: 12 };
    const texts = Array.from({ length: 200 }, (_, seed) => {
      const character = rollCharacter(catalog, { seed, name: makeName(catalog, { seed }) ?? "" });
      return JSON.stringify({ ...character, bag: { flares: [10, 5], "wool-cap": [1] } });
    });
    for (const text of texts) {
      const { accepted, character } = judgeCharacter(catalog, text, context);
      agree(accepted && JSON.stringify(character) === text, `refuses ${text}`);
    }
    for (const [what, text] of hostileTexts(texts[0] ?? "")) {
      agree(text.length <= limits.characterLength, `${what} is larger than characters may be`);
      const takes = Math.min(...Array.from({ length: 5 }, () => timed(() => judgeCharacter(catalog, text, context))));
      agree(takes <= longest, `${what} takes ${takes.toFixed(1)} ms, and ${longest} is the most`);
    }
    const pair = await sideBySide(
      { run: () => texts.map((text) => judgeCharacter(catalog, text, context)), times: 20 },
      { run: () => texts.map((text): unknown => JSON.parse(text)), times: 20 },
    );
    const each = (milliseconds: number) => (milliseconds * 1_000) / texts.length;
    return { ours: each(pair.ours), theirs: each(pair.theirs) };
  },
};

function timed(run: () => unknown): number {
  const start = performance.now();
  run();
  return performance.now() - start;
}

/** Texts of nearly the largest size, each of which makes another step of the judging as dear as it can be. */
function hostileTexts(text: string): readonly (readonly [string, string])[] {
  const good: Readonly<Record<string, unknown>> = JSON.parse(text);
  const wide = (count: number, value: unknown) =>
    Object.fromEntries(Array.from({ length: count }, (_, at) => [`s${at}`, value]));
  return [
    ["a wide loadout", JSON.stringify({ ...good, loadout: wide(2_500, "x") })],
    ["wide colors", JSON.stringify({ ...good, colors: wide(2_500, "x") })],
    ["wide answers", JSON.stringify({ ...good, facts: wide(2_500, "x") })],
    ["a wide bag", JSON.stringify({ ...good, bag: wide(2_500, [1]) })],
    ["wrong answers", JSON.stringify({ ...good, facts: wide(2_700, 1) })],
    ["a deep bag", JSON.stringify({ ...good, bag: { flares: Array.from({ length: 15_000 }, () => 1) } })],
    ["unknown keys", JSON.stringify({ ...good, ...wide(2_700, 1) })],
    ["a list", `[${"0,".repeat(15_500)}0]`],
    ["nothing but depth", "[".repeat(15_000) + "]".repeat(15_000)],
    ["one long answer", JSON.stringify({ ...good, facts: { trade: "x".repeat(30_000) } })],
  ];
}
