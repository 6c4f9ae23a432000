import type { Problem } from "../problem.ts";
import { type Json, openSave, sealSave } from "./seal.ts";
import type { Store } from "./store.ts";

/** What was found under a key: the newest generation that is whole, and what was wrong with newer ones. */
export interface FoundSave {
  /** `undefined` when there is no save, or none that is whole. */
  readonly content: Json | undefined;
  readonly problems: readonly Problem[];
}

/**
 * Reads a save. A damaged generation is reported, and the one before it is used.
 *
 * @param kind - what the save must hold, for example `"character"`.
 */
export async function readSave(store: Store, key: string, kind: string): Promise<FoundSave> {
  const problems: Problem[] = [];
  const generations = await store.read(key);
  for (const [age, text] of generations.entries()) {
    const opened = openSave(text, kind);
    if (opened.ok) return { content: opened.content, problems };
    const last = age === generations.length - 1;
    problems.push({
      code: "damaged-save",
      severity: last ? "error" : "warning",
      place: { file: key, pointer: "" },
      because: `The ${age === 0 ? "save" : "save before it"} "${key}" cannot be used. ${opened.because}`,
      fixes: [
        {
          say: last
            ? "Restore it from a backup, or remove it."
            : "The save before it is used instead; saving again mends this.",
        },
      ],
    });
  }
  return { content: undefined, problems };
}

/**
 * Writes a save and keeps the newest whole one before it. A damaged save is never kept in the place of a whole one.
 */
export async function writeSave(store: Store, key: string, kind: string, content: Json): Promise<void> {
  const text = sealSave(kind, content);
  const before = await store.read(key);
  const previous = before.find((generation) => generation !== text && openSave(generation, kind).ok);
  await store.write(key, previous === undefined ? [text] : [text, previous]);
}
