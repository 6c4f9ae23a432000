import { readSave, writeSave } from "../core/save/saves.ts";
import { openSave } from "../core/save/seal.ts";
import type { Store } from "../core/save/store.ts";

/** One thing that every store has to keep. */
export interface StoreCheck {
  /** What it keeps, as a sentence. */
  readonly name: string;
  /** Tries it on an empty store. Rejects with an `Error` that says what is not so. */
  run(store: Store): Promise<void>;
}

/**
 * What every store has to keep, for the tests of a store of one's own, with any test runner.
 *
 * It does not look at what happens to a store that is interrupted or full.
 *
 * @example
 * for (const { name, run } of storeContract) test(name, () => run(openMyEmptyStore()))
 */
export const storeContract: readonly StoreCheck[] = [
  {
    name: "keeps the newest generation and the one before",
    async run(store) {
      for (const content of [1, 2, 3]) await writeSave(store, "wren", "number", content);
      const kept = (await store.read("wren")).map((text) => openSave(text));
      agree(contents(kept), [3, 2], "the generations");
      agree((await readSave(store, "wren", "number")).content, 3, "the newest generation");
    },
  },
  {
    name: "lists its keys, whatever letters they have, and forgets removed ones",
    async run(store) {
      const keys = ["../up", "a b", "Wren", "wren", "潮", "con."];
      for (const key of keys) await store.write(key, [key]);
      agree(await store.list(), [...keys].sort(), "the keys");
      for (const key of keys) agree(await store.read(key), [key], `what is under "${key}"`);
      await store.remove("wren");
      await store.remove("never written");
      agree((await store.list()).includes("wren"), false, "whether a removed key is listed");
      agree(await store.read("wren"), [], "what is under a removed key");
    },
  },
  {
    name: "reads nothing where nothing was written",
    async run(store) {
      agree(await store.list(), [], "the keys of an empty store");
      agree(await store.read("wren"), [], "what is under a key of an empty store");
    },
  },
  {
    name: "gives back every letter of a text, and texts of a megabyte",
    async run(store) {
      const text = `"\\ \u0000 \u2028 潮 🌊 ${"long ".repeat(200_000)}`;
      await store.write("text", [text, "before"]);
      const [newest = "", before] = await store.read("text");
      agree([newest.length, newest === text, before], [text.length, true, "before"], "the texts");
    },
  },
  {
    name: "lets a damaged save give way to the one before it",
    async run(store) {
      await writeSave(store, "wren", "number", 1);
      await writeSave(store, "wren", "number", 2);
      const [newest = "", before = ""] = await store.read("wren");
      await store.write("wren", [newest.replace('"content":2', '"content":9'), before]);
      const found = await readSave(store, "wren", "number");
      agree(found.content, 1, "the content");
      agree(
        found.problems.map(({ code }) => code),
        ["damaged-save"],
        "the problems",
      );
    },
  },
  {
    name: "never lets a damaged save take the place of the whole one before it",
    async run(store) {
      await writeSave(store, "wren", "number", 1);
      await writeSave(store, "wren", "number", 2);
      const [, before = ""] = await store.read("wren");
      await store.write("wren", ["{ damaged", before]);
      await writeSave(store, "wren", "number", 3);
      agree(contents((await store.read("wren")).map((text) => openSave(text))), [3, 1], "the generations");
    },
  },
];

function contents(opened: readonly ReturnType<typeof openSave>[]): readonly unknown[] {
  return opened.map((each) => (each.ok ? each.content : "damaged"));
}

function agree(found: unknown, expected: unknown, what: string): void {
  const [one, other] = [JSON.stringify(found), JSON.stringify(expected)];
  if (one !== other) throw new Error(`The store is not as it should be: ${what}: ${one}, and not ${other}`);
}
