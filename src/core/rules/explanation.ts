import type { Message, ProblemCode } from "../base/message.ts";
import type { Evidence, Subject } from "../character/edit.ts";
import type { Worn } from "./worn.ts";

/** What is broken, as it is reported; `more` is what the author says of the rule. */
export interface Explanation extends Message<ProblemCode> {
  readonly subject: Subject;
  /** The slot it is about; the loadout as a whole when left out. */
  readonly slot: string | undefined;
  readonly chain: readonly Evidence[];
  /** The worn parts without which it would hold. Issued ones cannot be taken off and are not among them. */
  readonly culprits: readonly Worn[];
}

/** Those that can be taken off. */
export function chosen(worn: readonly Worn[]): readonly Worn[] {
  return worn.filter(({ issued }) => !issued);
}
