import * as f from "../base/schema/forms.ts";
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

const text = f.string(f.maxLength(200));

const isProgress = quickCheck(
  f.looseObject({
    mantle: f.literal("steps/1"),
    at: f.nullable(text),
    confirming: f.boolean(),
    answers: f.record(text, f.nullable(text)),
    later: f.array(text, f.maxLength(1_000)),
  }),
);

/** Reads progress that was kept somewhere; `undefined` when it is none. */
export function readProgress(kept: unknown): StepsProgress | undefined {
  return isProgress(kept) ? (kept as StepsProgress) : undefined;
}
