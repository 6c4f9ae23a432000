import type { Message } from "../../core/base/message.ts";
import type { Json } from "../../core/save/json.ts";
import type { Migration } from "../../core/save/migrations.ts";
import { decodeSave } from "../../core/save/seal.ts";
import type { Store } from "../../core/save/store.ts";
import { say } from "../output.ts";
import { kindOf } from "./list.ts";

/** A generation of a save, and what is to be said of it. */
export interface JudgedGeneration {
  readonly revision: number;
  readonly isWhole: boolean;
  /** In words: that it is whole, or why it cannot be used. */
  readonly says: string;
  /** What it holds, in its newest form; `undefined` when it cannot be used. */
  readonly kind?: string;
  readonly content?: Json;
}

/** All generations of a save, newest first. */
export async function generationsOf(
  store: Store,
  key: string,
  migrations: readonly Migration[],
): Promise<readonly JudgedGeneration[]> {
  return (await store.read(key)).map((generation): JudgedGeneration => {
    const { revision, text } = generation;
    if (text === undefined) return { revision, isWhole: false, says: `cannot be read: ${generation.because}` };
    const opened = decodeSave(text, kindOf(key), migrations);
    if (!opened.ok) return { revision, isWhole: false, says: reasonOf(opened.reason) };
    const { address, kind, content } = opened;
    if (address?.key !== key || address.revision !== revision)
      return { revision, isWhole: false, says: "belongs to another key or revision" };
    return { revision, isWhole: true, says: "whole", kind, content };
  });
}

function reasonOf(reason: Message): string {
  return say(reason);
}
