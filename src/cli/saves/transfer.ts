import { readFile } from "node:fs/promises";
import { limits, parseText } from "../../core/base/limits.ts";
import { MantleError } from "../../core/base/problem.ts";
import { decodeSave } from "../../core/save/seal.ts";
import type { Store } from "../../core/save/store.ts";
import { find, type Held, isSameHeld, putAfter } from "../../core/save/synced/stored-text.ts";
import { reasonOf } from "../../node/file-error.ts";
import { counted, say } from "../output.ts";
import { writeOutput } from "../write-output.ts";
import { planned, type SavesAction } from "./action.ts";

/** Saves in one file, as they are in their store: sealed texts by key, each with its revision. */
interface Exported {
  readonly mantle: "saves/1";
  readonly saves: Readonly<Record<string, readonly { readonly revision: number; readonly text: string }[]>>;
}

/** All saves of a store in one file, every generation as it is. */
export const exportAction: SavesAction = {
  name: "export",
  takes: "<file>",
  does: "write all saves into one file",
  async run({ store, subject: file }) {
    if (file === undefined)
      throw new MantleError("bad-call", "Name the file to write: mantle saves out/saves export saves.json");
    const saves: [string, { revision: number; text: string }[]][] = [];
    const unreadable: string[] = [];
    for (const key of (await store.list()).keys) {
      const generations = await store.read(key);
      const readable = generations.flatMap(({ revision, text }) => (text === undefined ? [] : [{ revision, text }]));
      if (readable.length < generations.length) unreadable.push(key);
      if (readable.length > 0) saves.push([key, readable]);
    }
    const exported: Exported = { mantle: "saves/1", saves: Object.fromEntries(saves) };
    await writeOutput(file, `${JSON.stringify(exported, null, 2)}\n`);
    return {
      lines: [
        ...unreadable.map((key) => `${key}  has a generation that cannot be read; it is not in the file`),
        `Written: ${file}, ${counted(saves.length, "save")}.`,
      ],
      data: { file, saves: saves.length, unreadable },
      exitCode: unreadable.length > 0 ? 1 : 0,
    };
  },
};

/** What becomes of a save that is imported. */
type Fate = "new" | "same" | "changed" | "damaged";

const fates: Readonly<Record<Fate, string>> = {
  new: "is stored",
  same: "is there already",
  changed: "is there with other content",
  damaged: "cannot be used",
};

/** Saves of a file, into a store; what is there with other content is replaced only with `--overwrite`, and stays behind it then. */
export const importAction: SavesAction = {
  name: "import",
  takes: "<file>",
  does: "store the saves of a file that export wrote; what differs is kept, or with --overwrite replaced",
  async run({ store, subject: file, options: { write = false, overwrite = false } }) {
    if (file === undefined)
      throw new MantleError("bad-call", "Name the file to read: mantle saves out/saves import saves.json");
    const entries: { key: string; fate: Fate; says: string }[] = [];
    const storing: (() => Promise<unknown>)[] = [];
    for (const [key, generations] of Object.entries((await readExported(file)).saves)) {
      const held = newestWhole(key, generations);
      if (held === undefined) {
        entries.push({ key, fate: "damaged", says: fates.damaged });
        continue;
      }
      const { fate, revision } = await fateOf(store, key, held);
      const isReplaced = fate === "changed" && overwrite;
      if (fate === "new" || isReplaced) storing.push(() => putAfter(store, key, revision, held));
      const says =
        fate !== "changed" ? fates[fate] : `${fates.changed}${isReplaced ? ": that is replaced" : ": that is kept"}`;
      entries.push({ key, fate, says });
    }
    if (write) for (const put of storing) await put();
    const isLeft = entries.some(({ fate }) => fate === "damaged" || (fate === "changed" && !overwrite));
    return {
      lines: [...entries.map(({ key, says }) => `${key}  ${says}`), planned(storing.length, "store", write)],
      data: { saves: entries, written: write },
      exitCode: isLeft ? 1 : 0,
    };
  },
};

async function fateOf(
  store: Store,
  key: string,
  held: Held,
): Promise<{ readonly fate: Fate; readonly revision: number }> {
  const there = await find(store, key);
  const newest = there.held ?? there.generations[0]?.held;
  if (there.revision === 0) return { fate: "new", revision: 0 };
  return { fate: isSameHeld(newest, held) ? "same" : "changed", revision: there.revision };
}

/** What the newest generation that is whole and belongs under its key holds. */
function newestWhole(key: string, generations: readonly { readonly text: string }[]): Held | undefined {
  for (const { text } of generations) {
    const opened = decodeSave(text);
    if (opened.ok && opened.address?.key === key) return { kind: opened.kind, content: opened.content };
  }
  return undefined;
}

async function readExported(file: string): Promise<Exported> {
  const text = await readFile(file, "utf8").catch((error: unknown) => {
    throw new MantleError("unreadable-file", `${file} cannot be read: ${reasonOf(error)}.`);
  });
  const parsed = parseText(text, limits.saveLength * 500);
  const value = parsed.ok ? parsed.value : undefined;
  if (isExported(value)) return value;
  const reason = parsed.ok ? "It has another form." : say(parsed.reason);
  throw new MantleError("unreadable-file", `${file} is no file that mantle saves export wrote. ${reason}`);
}

function isExported(value: unknown): value is Exported {
  const { mantle, saves }: { readonly mantle?: unknown; readonly saves?: unknown } = Object(value);
  if (mantle !== "saves/1" || typeof saves !== "object" || saves === null) return false;
  return Object.values(saves).every(
    (generations) => Array.isArray(generations) && generations.every((each) => typeof Object(each).text === "string"),
  );
}
