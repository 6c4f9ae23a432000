import type * as art from "./messages/english-art-sentences.ts";
import type * as documents from "./messages/english-documents.ts";
import type * as loadouts from "./messages/english-loadouts.ts";
import type { Text } from "./text.ts";

type Problems = typeof loadouts.problems & typeof documents.problems & typeof art.problems;
type Fixes = typeof loadouts.fixes & typeof documents.fixes & typeof art.fixes;
type Phrases = typeof loadouts.phrases & typeof documents.phrases & typeof art.phrases;
type Sentences = Problems & Fixes & Phrases;

/** The codes of findings. */
export type ProblemCode = keyof Problems;
/** The codes of what to do about a finding. */
export type FixCode = keyof Fixes;
/** The codes of what follows a finding, and of pieces of sentences. */
export type PhraseCode = keyof Phrases;
/** All that can be put into words. */
export type MessageCode = ProblemCode | FixCode | PhraseCode;

/** What a sentence speaks of: an id, a number, a list, another message, or a text of the catalog. */
export type Param = string | number | Text | Message | readonly (string | Message)[];
export type Params = Readonly<Record<string, Param>>;

/** A sentence as data. `format` puts it into words, in any language. */
export interface Message<Code extends MessageCode = MessageCode> {
  readonly code: Code;
  readonly params: Params;
  /** Sentences that follow it. */
  readonly more?: readonly Message[];
}

/** The codes of what is looked at while a game is made, and no player meets. */
export type ArtCode = keyof (typeof art.problems & typeof art.fixes & typeof art.phrases);

/** Sentences by code: those of a language, as far as players meet them. */
export type Messages = Readonly<Record<Exclude<MessageCode, ArtCode>, string>>;

/** The sentences about loadouts and edits, which the ready-made screens show, in a language: one that is missing is an error of the compiler. */
export type LoadoutMessages = Readonly<
  Record<keyof (typeof loadouts.problems & typeof loadouts.fixes & typeof loadouts.phrases), string>
>;

/** Sentences that are at hand. */
export type PartialMessages = Partial<Readonly<Record<MessageCode, string>>>;

/** The names in a template: `"{part} and {of:or}"` has `part` and `of`. */
type NamesIn<Template> = Template extends `${string}{${infer Name}}${infer Rest}`
  ? (Name extends `${infer Bare}:${string}` ? Bare : Name) | NamesIn<Rest>
  : never;

/** The parameters that the sentences of some codes speak of. */
export type ParamsOf<Code extends MessageCode> = { readonly [Name in NamesIn<Sentences[Code]>]: Param };

/** Left out where a sentence speaks of nothing in particular. */
export type Given<Code extends MessageCode> = [NamesIn<Sentences[Code]>] extends [never]
  ? [params?: ParamsOf<Code>]
  : [params: ParamsOf<Code>];

/**
 * Makes a message with everything its sentence speaks of.
 *
 * @example
 * message("slot-is-taken", { part: "storm-hat", slot: "hat" })
 */
export function message<Code extends MessageCode>(code: Code, ...[params]: Given<Code>): Message<Code> {
  return { code, params: params ?? {} };
}

/** What the author of a catalog says, as sentences that follow. */
export function authored(say: Text | undefined): readonly Message[] {
  return say === undefined ? [] : [message("authored", { say })];
}
