import * as v from "valibot";
import { quickCheck } from "../base/schema/quick-check.ts";

/** An answer to a step: the id of what was chosen, a color, a name; `null` for nothing in a slot. */
export type Answer = string | null;

/** How far a creation has come, as plain JSON: all that is needed to go on after a reload. */
export interface StepsProgress {
  readonly mantle: "steps/1";
  /** The step that is asked now; `null` when all are behind. */
  readonly at: string | null;
  /** Whether the step asks back. */
  readonly confirming: boolean;
  /** By step. Answers to steps that are not on the way now are kept: they count again when the way comes back to them. */
  readonly answers: Readonly<Record<string, Answer>>;
  /** Steps that were left for later. */
  readonly later: readonly string[];
}

const text = v.pipe(v.string(), v.maxLength(200));

const isProgress = quickCheck(
  v.object({
    mantle: v.literal("steps/1"),
    at: v.nullable(text),
    confirming: v.boolean(),
    answers: v.record(text, v.nullable(text)),
    later: v.pipe(v.array(text), v.maxLength(1_000)),
  }),
);

/** Reads progress that was kept somewhere; `undefined` when it is none. */
export function readProgress(kept: unknown): StepsProgress | undefined {
  return isProgress(kept) ? (kept as StepsProgress) : undefined;
}
