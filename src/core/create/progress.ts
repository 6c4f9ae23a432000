import * as z from "zod/mini";

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

const text = z.string().check(z.maxLength(200));

const form = z.object({
  mantle: z.literal("steps/1"),
  at: z.nullable(text),
  confirming: z.boolean(),
  answers: z.record(text, z.nullable(text)),
  later: z.array(text).check(z.maxLength(1_000)),
});

/** Reads progress that was kept somewhere; `undefined` when it is none. */
export function readProgress(kept: unknown): StepsProgress | undefined {
  const result = form.safeParse(kept);
  return result.success ? result.data : undefined;
}
