import { readSave, removeSave, writeSave } from "../core/save/saves.ts";
import { decodeSave, encodeSave } from "../core/save/seal.ts";
import type { Generation, Store } from "../core/save/store.ts";

/** One thing that every store has to keep. */
export interface StoreCheck {
  /** What it keeps, as a sentence. */
  readonly name: string;
  /** Tries it on an empty store. Rejects with an `Error` that names what does not hold. */
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
      agree(contents(await store.read("wren")), [3, 2], "the generations");
      agree(revisions(await store.read("wren")), [4, 3], "the revisions");
      agree((await readSave(store, "wren", "number")).content, 3, "the newest generation");
    },
  },
  {
    name: "keeps two generations of what was stored once, and reports where one of them is gone",
    async run(store) {
      await writeSave(store, "wren", "number", 1);
      agree(contents(await store.read("wren")), [1, 1], "the generations");
      await store.write("owl", { revision: 2, text: encodeSave("number", 1, { key: "owl", revision: 2 }) }, []);
      const { content, problems } = await readSave(store, "owl", "number");
      agree([content, codesOf(problems)], [1, ["missing-generation"]], "what is found");
    },
  },
  {
    name: "keeps the older generations that are named, and no others",
    async run(store) {
      await store.write("wren", generation(1), []);
      for (const revision of [2, 3]) await store.write("wren", generation(revision), [1, 2]);
      agree(revisions(await store.read("wren")), [3, 2, 1], "the revisions that are kept");
      await store.write("wren", { revision: 7, text: "text 7" }, [1, 5]);
      agree(await store.read("wren"), [generation(7), generation(1)], "the generations that are kept");
    },
  },
  {
    name: "refuses a revision that is no newer than what it has, and changes nothing then",
    async run(store) {
      await store.write("wren", { revision: 4, text: "text 4" }, []);
      for (const revision of [3, 4]) {
        const written = store.write("wren", { revision, text: "late" }, []);
        agree(await codeOf(written), "changed-elsewhere", `what revision ${revision} is answered`);
      }
      agree(await store.read("wren"), [generation(4)], "the generations");
    },
  },
  {
    name: "refuses a generation that is made upon others where there are none any more",
    async run(store) {
      const written = store.write("wren", { revision: 5, text: "late" }, [4]);
      agree(await codeOf(written), "changed-elsewhere", "what the writer is answered");
      agree(await store.read("wren"), [], "the generations");
    },
  },
  {
    name: "accepts the first of several writers who write at once, and refuses the others",
    async run(store) {
      await store.write("wren", { revision: 1, text: "text 1" }, []);
      const writers = ["one", "two", "three", "four"];
      const write = (text: string) => codeOf(store.write("wren", { revision: 2, text }, [1]));
      const codes = await Promise.all(writers.map(write));
      agree(codes.filter((code) => code === "stored").length, 1, "how many were stored");
      agree(codes.filter((code) => code === "changed-elsewhere").length, 3, "how many were refused");
      const [newest] = await store.read("wren");
      agree(newest?.text, writers[codes.indexOf("stored")], "what is stored");
    },
  },
  {
    name: "lists its keys, whatever letters they have",
    async run(store) {
      const keys = ["../up", "a b", "Wren", "wren", "潮", "con."];
      for (const key of keys) await store.write(key, { revision: 1, text: key }, []);
      agree(await listOf(store), { keys: [...keys].sort(), unknown: [] }, "the keys");
      for (const key of keys) agree((await store.read(key))[0]?.text, key, `what is under "${key}"`);
    },
  },
  {
    name: "keeps the revision of a save that was removed, so that nobody stores it again who has not learned of it",
    async run(store) {
      const after = await writeSave(store, "wren", "number", 1);
      await removeSave(store, "wren");
      const { kind, content, revision, problems } = await readSave(store, "wren", "number");
      agree([kind, content, revision, problems], ["removed", undefined, after + 1, []], "what is found");
      const late = store.write("wren", { revision: after + 1, text: "late" }, [after]);
      agree(await codeOf(late), "changed-elsewhere", "what a writer is answered who comes after");
      await writeSave(store, "wren", "number", 2, { after: revision });
      agree((await readSave(store, "wren", "number")).content, 2, "what is stored under the key again");
      agree(await removeSave(store, "never written"), 0, "the revision of what was never there");
      agree((await store.list()).keys, ["wren"], "the keys");
    },
  },
  {
    name: "reads nothing where nothing was written",
    async run(store) {
      agree(await listOf(store), { keys: [], unknown: [] }, "the keys of an empty store");
      agree(await store.read("wren"), [], "what is under a key of an empty store");
    },
  },
  {
    name: "gives back every letter of a text, and texts of a megabyte",
    async run(store) {
      const text = `"\\ \u0000 \u2028 潮 🌊 ${"long ".repeat(200_000)}`;
      await store.write("text", { revision: 1, text }, []);
      const [newest] = await store.read("text");
      agree([newest?.text?.length, newest?.text === text], [text.length, true], "the text");
    },
  },
  {
    name: "returns the save before a damaged one",
    async run(store) {
      await writeSave(store, "wren", "number", 1);
      await store.write("wren", { revision: 3, text: "{ damaged" }, [2]);
      const found = await readSave(store, "wren", "number");
      agree([found.content, found.revision], [1, 3], "the content and the revision");
      agree(codesOf(found.problems), ["damaged-save"], "the problems");
    },
  },
  {
    name: "never replaces a whole save by a damaged one",
    async run(store) {
      await writeSave(store, "wren", "number", 1);
      await store.write("wren", { revision: 3, text: "{ damaged" }, [2]);
      await writeSave(store, "wren", "number", 3);
      agree(contents(await store.read("wren")), [3, 1], "the generations");
    },
  },
  {
    name: "never removes what a newer version wrote",
    async run(store) {
      await writeSave(store, "wren", "number", 1);
      await store.write("wren", { revision: 3, text: '{"mantle":"save/2"}' }, [2]);
      agree(codesOf((await readSave(store, "wren", "number")).problems), ["newer-save"], "the problems");
      for (const content of [3, 4, 5]) await writeSave(store, "wren", "number", content);
      agree(revisions(await store.read("wren")), [6, 5, 3], "the revisions");
    },
  },
];

function generation(revision: number): Extract<Generation, { text: string }> {
  return { revision, text: `text ${revision}` };
}

function revisions(generations: readonly Generation[]): readonly number[] {
  return generations.map(({ revision }) => revision);
}

function contents(generations: readonly Generation[]): readonly unknown[] {
  return generations.map(({ text = "" }) => {
    const opened = decodeSave(text);
    return opened.ok ? opened.content : "damaged";
  });
}

function codesOf(problems: readonly { readonly code: string }[]): readonly string[] {
  return problems.map(({ code }) => code);
}

async function listOf(store: Store): Promise<object> {
  const { keys, unknown } = await store.list();
  return { keys, unknown };
}

/** The code that a write is refused with, or that it is stored. */
async function codeOf(written: Promise<void>): Promise<unknown> {
  return written.then(
    () => "stored",
    (error: unknown) => Object(error).code ?? error,
  );
}

function agree(found: unknown, expected: unknown, what: string): void {
  const [one, other] = [found, expected].map((value) => JSON.stringify(value, inOrder));
  if (one !== other) throw new Error(`The store is not as it should be: ${what}: ${one}, and not ${other}`);
}

/** The same object is the same text, whatever the order of its keys. */
function inOrder(_key: string, value: unknown): unknown {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([one], [other]) => (one < other ? -1 : 1)));
}
