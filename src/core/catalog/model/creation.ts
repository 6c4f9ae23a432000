import type { Text } from "../../base/text.ts";
import type { Edits } from "./edit.ts";
import type { Condition } from "./rule.ts";

/** A whole character made by the author: a body, what it wears, its colors and answers. */
export interface Preset {
  readonly id: string;
  readonly title: Text;
  /** What the author says of it. */
  readonly say: Text | undefined;
  readonly body: string;
  /** Part ids by slot id. */
  readonly loadout: Readonly<Record<string, string>>;
  /** Ramp ids, or colors `#rrggbb`, by channel id. */
  readonly colors: Readonly<Record<string, string>>;
  readonly facts: Readonly<Record<string, string>>;
}

/** How names are made and bounded. */
export interface Names {
  /** The greatest length, in graphemes; as everywhere when left out. */
  readonly longest: number | undefined;
  /** What names begin with, may have between, and end with. */
  readonly first: readonly string[];
  readonly middle: readonly string[];
  readonly last: readonly string[];
}

/** A creation flow, authored once: questions, and which follows which. */
export interface Creation {
  readonly start: string;
  readonly steps: ReadonlyMap<string, Step>;
}

/** One question of a creation flow. */
export interface Step {
  readonly id: string;
  readonly title: Text;
  /** The question as it is asked. */
  readonly say: Text | undefined;
  readonly asks: Asked;
  /** Asked only where this holds; passed by otherwise. */
  readonly when: Condition | undefined;
  /** Asks back before it goes on. */
  readonly confirms: boolean;
  /** Can be left for later. */
  readonly canWait: boolean;
  /** Where it goes on: the first whose condition holds. The flow ends where none does. */
  readonly next: readonly Transition[];
}

/** A way on from a step. */
export interface Transition {
  readonly when: Condition | undefined;
  readonly go: string;
}

/** What a step asks for, and what it offers. */
export type Asked =
  | { readonly kind: "body"; readonly from: readonly string[] }
  /** `bare`: nothing is an answer, too. */
  | { readonly kind: "part"; readonly slot: string; readonly from: readonly string[]; readonly bare: boolean }
  | { readonly kind: "color"; readonly channel: string; readonly from: readonly string[] }
  | { readonly kind: "outfit"; readonly from: readonly string[] }
  | { readonly kind: "preset"; readonly from: readonly string[] }
  | { readonly kind: "name" }
  | { readonly kind: "fact"; readonly fact: string; readonly from: readonly FactAnswer[] };

/** An answer to a question of the game's own. */
export interface FactAnswer {
  readonly id: string;
  readonly title: Text;
  readonly say: Text | undefined;
  /** What else it does to the character. */
  readonly does: readonly FactEdit[];
}

/** What an answer may do to a character besides being kept. */
export type FactEdit = Edits["wear" | "dress" | "paint"];
