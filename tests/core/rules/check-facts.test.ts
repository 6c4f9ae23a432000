import { expect, test } from "@jest/globals";
import { checkCreation } from "zealous-mantle/authoring";
import { described } from "../../in-words.ts";
import { gear, part, smallCatalog } from "../../small-catalog.ts";

const trade = {
  title: "Trade",
  ask: "fact",
  fact: "trade",
  from: { smoker: { title: "Smoker" }, keeper: { title: "Keeper" } },
};

test("a condition on an answer that nobody can give is found wherever it stands, with what is meant", () => {
  const catalog = smallCatalog({
    slots: { hat: gear },
    parts: { veil: part("hat") },
    presets: { old: { title: "Old", body: "plain", parts: [], facts: { trade: "retired" } } },
    rules: [
      { if: "part:veil", needs: { any: ["fact:trade=smokr", "fact:trade=keeper"] } },
      { if: { not: "fact:trade=retired" }, needs: "body:plain" },
      // Of a question that no step asks, the game knows the answers.
      { if: "fact:luck=good", needs: "body:plain" },
    ],
    creation: {
      start: "trade",
      steps: {
        trade: { ...trade, next: [{ if: "fact:trade=keper", go: "hat" }, "name"] },
        hat: { title: "Hat", ask: "part", slot: "hat", next: ["name"] },
        name: { title: "Name", ask: "name", if: "fact:trade=queen" },
      },
    },
  });
  expect(checkCreation(catalog).map((problem) => `${problem.place.pointer} ${described(problem)}`)).toEqual([
    expect.stringMatching(/^\/creation\/steps\/hat .*Nobody is ever asked/),
    expect.stringMatching(/^\/creation\/steps\/trade\/next\/0\/if .*"keper" to "trade".*Write "fact:trade=keeper"/),
    expect.stringMatching(/^\/creation\/steps\/name\/if .*"queen" to "trade".*Write "smoker", "keeper", or "retired"/),
    expect.stringMatching(/^\/rules\/0\/needs .*"smokr" to "trade".*Write "fact:trade=smoker"/),
  ]);
});
