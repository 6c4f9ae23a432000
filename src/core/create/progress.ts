import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import * as f from "../base/schema/forms.ts";
import { quickCheck } from "../base/schema/quick-check.ts";
import type { Step } from "../catalog/model/catalog.ts";
import type { LoadoutProblem } from "../character/edit.ts";

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

/** What reading progress gives: the progress, or what is wrong with it. */
export type ProgressReading =
  | { readonly progress: StepsProgress; readonly problems: readonly [] }
  | { readonly progress: undefined; readonly problems: readonly Problem[] };

/** Reads progress that was kept somewhere. Never throws. */
export function readProgress(kept: unknown): ProgressReading {
  if (isProgress(kept)) return { progress: kept as StepsProgress, problems: [] };
  const { code, params } = message("not-progress");
  return { progress: undefined, problems: [{ code, params, severity: "error", place: { pointer: "" }, fixes: [] }] };
}

/** An answer that was given and does not count any more. */
export interface DroppedAnswer {
  readonly step: Step;
  readonly answer: Answer;
  /** Why; empty when the way no longer comes by its step. */
  readonly problems: readonly LoadoutProblem[];
}

/** What an answer came to. */
export type StepsResult =
  /** `dropped`: later answers that do not fit any more. They are kept, and count again as soon as they fit. */
  | { readonly ok: true; readonly dropped: readonly DroppedAnswer[] }
  | { readonly ok: false; readonly problems: readonly LoadoutProblem[] };

/** A step on the way, and how it stands. */
export interface StepState {
  readonly step: Step;
  readonly state: "now" | "answered" | "later" | "open";
}
