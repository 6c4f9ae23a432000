import type { Message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import type { Text } from "../base/text.ts";
import type { Condition } from "../catalog/model/catalog.ts";
import type { Edit } from "../catalog/model/edit.ts";
import type { Character } from "./character.ts";
import type { Signal } from "./context.ts";

export type { Appearance, Edit, Edits, Verb } from "../catalog/model/edit.ts";

/** What a finding is about. */
export interface Subject {
  readonly kind:
    | "part"
    | "slot"
    | "body"
    | "outfit"
    | "channel"
    | "rule"
    | "name"
    | "preset"
    | "step"
    | "fact"
    | "catalog"
    | "character";
  /** Its id; of a rule, its number in the catalog. */
  readonly id: string;
}

/** One link of the chain that leads to a finding. */
export type Evidence =
  | { readonly kind: "worn"; readonly part: string; readonly slot: string; readonly issued: boolean }
  | { readonly kind: "body"; readonly id: string }
  /** An answer in the character; `undefined` when there is none. */
  | { readonly kind: "fact"; readonly id: string; readonly value: string | undefined }
  | { readonly kind: "signal"; readonly id: string; readonly value: Signal | undefined }
  | { readonly kind: "stat"; readonly id: string; readonly value: number }
  | { readonly kind: "carried"; readonly part: string; readonly count: number }
  | { readonly kind: "access"; readonly part: string; readonly access: "secret" | "listed" | "owned" }
  /** What a part needs of a stat, whoever wears it. */
  | { readonly kind: "need"; readonly part: string; readonly stat: string; readonly min: number }
  /** A slot that must not be empty. */
  | { readonly kind: "required"; readonly slot: string }
  /** A set of which enough is worn, or could be: the number of its rule, and what its author says of it. */
  | { readonly kind: "set"; readonly number: number; readonly message: Text | undefined }
  /** Nothing that is worn, and no answer, makes this hold. */
  | { readonly kind: "missing"; readonly condition: Condition }
  /** The rule that makes of the others a finding, and what its author says of it. */
  | { readonly kind: "rule"; readonly number: number; readonly message: Text | undefined };

/** A finding about a character; its fixes are edits. */
export interface LoadoutProblem extends Problem<Edit> {
  readonly subject: Subject;
  /** The facts that lead to the finding, in the order in which they explain it. */
  readonly chain: readonly Evidence[];
}

/** A part that an edit took off, and where it went. */
export interface Displaced {
  readonly part: string;
  readonly slot: string;
  /** Gear goes to the bag; appearance is a free choice and goes nowhere. */
  readonly to: "bag" | "nowhere";
  /** Its counterpart on a new body, which was put on in its place. */
  readonly becomes?: string;
  /** Why it had to go. */
  readonly because: Message;
}

/** What an edit did, or why it was refused. A refused edit changes nothing: `character` is the very one it was given. */
export type EditResult =
  | {
      readonly ok: true;
      readonly character: Character;
      readonly displaced: readonly Displaced[];
      /** Further edits that were done to keep the draft valid, where a fitting settles its drafts, and what was broken without them. */
      readonly settled?: { readonly edits: readonly Edit[]; readonly because: readonly LoadoutProblem[] };
    }
  | { readonly ok: false; readonly character: Character; readonly problems: readonly LoadoutProblem[] };
