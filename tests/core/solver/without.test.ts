import { describe, expect, test } from "@jest/globals";
import { checkLoadout, createCharacter, openFitting, optionsFor } from "zealous-mantle";
import { solver } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const chained = { ...wren, loadout: { chain: "watch-chain" } };

describe("without the search", () => {
  test("what needs it is refused, with the entry that has it", () => {
    const refusal = /needs the search\. Import \{ solver \} from "zealous-mantle\/solver" and pass it as "solver"\./;
    expect(() => openFitting(demo, wren, { drafts: "settle" })).toThrow(refusal);
    expect(() => openFitting(demo, wren).roll({ seed: 1 })).toThrow(expect.objectContaining({ code: "no-solver" }));
    const [option] = optionsFor(demo, wren, "chain");
    expect(() => option?.editsToWear).toThrow(expect.objectContaining({ code: "no-solver" }));
  });

  test("options are judged as with it, and say nothing of edits where they become JSON", () => {
    const read = (options: ReturnType<typeof optionsFor>) => JSON.parse(JSON.stringify(options));
    const [plain, solving] = [optionsFor(demo, wren, "chain"), optionsFor(demo, wren, "chain", { solver })].map(read);
    expect(plain[0]).not.toHaveProperty("editsToWear");
    expect(solving[0].editsToWear).toEqual([
      { wear: "waistcoat", in: "vest" },
      { wear: "watch-chain", in: "chain" },
    ]);
    expect(plain).toEqual(solving.map(({ editsToWear: _, ...option }: { editsToWear: unknown }) => option));
  });

  test("findings are the same, with the fixes that take something off", () => {
    const [plain] = checkLoadout(demo, chained);
    const [solving] = checkLoadout(demo, chained, { solver });
    expect({ ...plain, fixes: [] }).toEqual({ ...solving, fixes: [] });
    expect(plain?.fixes.map(({ edits }) => edits)).toEqual([[{ remove: "chain" }]]);
    expect(solving?.fixes.map(({ edits }) => edits)).toEqual([
      [{ remove: "chain" }],
      [{ wear: "waistcoat", in: "vest" }],
    ]);
  });

  test("a fitting takes it later, and gives its options anew", () => {
    const fitting = openFitting(demo, wren);
    const chain = () => fitting.options("chain")[0];
    expect(() => chain()?.editsToWear).toThrow();
    fitting.update({ solver });
    expect(chain()?.editsToWear).toHaveLength(2);
    expect(fitting.roll({ seed: 1 }).ok).toBe(true);
  });
});
