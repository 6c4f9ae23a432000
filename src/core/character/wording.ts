import type { Catalog, Condition } from "../catalog/catalog.ts";
import { type Text, textIn } from "../catalog/text.ts";
import { recall } from "../recall.ts";
import { valueAt } from "../record.ts";
import type { Context } from "./context.ts";

/**
 * Every sentence and phrase about loadouts, by its code. `{part}` stands for an id, `{part:title}` for what players call it.
 *
 * A code that is also that of a problem says what is wrong; the others say what to do, or are pieces of sentences.
 */
export const englishTexts = {
  "unknown-body": 'The catalog has no body "{id}".',
  "unknown-slot": 'The catalog has no slot "{id}".',
  "unknown-part": 'The catalog has no part "{id}".',
  "unknown-outfit": 'The catalog has no outfit "{id}".',
  "unknown-channel": 'The catalog has no channel "{id}".',
  "unknown-preset": 'The catalog has no preset "{id}".',
  "wrong-slot": '"{part}" does not go in slot "{slot}".',
  "does-not-fit": '"{part}" was not made for body "{body}".',
  "fully-grown": 'Body "{body}" does not grow into another.',
  counterpart: 'On body "{body}" there is "{other}" in place of "{part}".',
  "slot-taken-twice": '"{part}" and "{other}" both take slot "{slot}".',
  "required-slot": 'Slot "{slot}" must not be empty.',
  "default-stays": '"{part}" is what slot "{slot}" shows when nothing else is worn there, so it cannot be taken off.',
  "never-together": '"{part}" and "{other}" are never worn together.',
  "need-unmet": '"{part}" needs {least} {stat}, and there is {value} without it.',
  "needs-missing": "With {when} there must be {needs}.",
  "total-too-high": "The {stat} of everything worn is {value}, and {bound} is the most.",
  "total-too-low": "The {stat} of everything worn is {value}, and {bound} is the least.",
  "count-too-high": "The number of {pattern} worn is {value}, and {bound} is the most.",
  "count-too-low": "The number of {pattern} worn is {value}, and {bound} is the least.",
  "ramp-not-offered": 'Channel "{channel}" does not offer ramp "{ramp}".',
  "outfit-clash": 'Outfit "{outfit}" cannot be worn whole: "{part}" finds no place beside the rest.',
  "not-carried": 'There is no "{part}" in the bag.',
  "not-owned": '"{part}" is not owned.',
  "not-known": '"{part}" is not known to this player.',
  "already-owned": '"{part}" is owned already.',
  "not-for-sale": '"{part}" has no price, so it cannot be bought.',
  "too-dear": '"{part}" costs {price}, and there is {balance}.',
  "bag-full": 'The bag has {places} places, and there is none left for "{part}".',
  "cannot-split": 'The largest stack of "{part}" has {count}, so {take} cannot be split off.',
  "name-too-long": 'The name "{name}" has {count} letters; {most} is the most.',
  "name-taken": 'Someone is called "{name}" already.',
  "name-refused": 'The name "{name}" cannot be used.',
  "likeness-clash": '"{part}" finds no place beside the rest of what is to be worn.',
  "not-offered": 'Step "{step}" does not offer "{answer}".',
  "not-answered": 'Step "{step}" has no answer yet.',
  // Of a whole catalog
  "never-worn": '"{part}" can never be worn.',
  "never-fires":
    "This rule can never fire: whatever breaks it breaks something else as well, or cannot be worn at all.",
  "rule-never": "Never together: {patterns}.",
  "rule-total-most": "The {stat} of everything worn is at most {bound}.",
  "rule-total-least": "The {stat} of everything worn is at least {bound}.",
  "rule-count-most": "The number of {pattern} worn is at most {bound}.",
  "rule-count-least": "The number of {pattern} worn is at least {bound}.",
  "rule-of-need": '"{part}" needs {least} {stat}.',
  "loosen-one": "Loosen one of these, or remove the part.",
  "remove-rule": "Remove it, or name what it is meant for.",
  // What follows a finding
  "is-missing": "missing: {needs}",
  "kept-aside": "It is kept, and not shown.",
  "default-shown": '"{ramp}" is shown.',
  "slot-is-taken": '"{part}" takes slot "{slot}".',
  "was-taken-off": "It was taken off.",
  "likeness-without": "What is to be shown does not have it.",
  "outfit-without": 'Outfit "{outfit}" is worn without it.',
  // What to do
  "take-off": 'Take "{part}" off.',
  "take-off-first": "Take {parts} off first.",
  "put-on-too": "Put {parts} on as well.",
  "change-first": "Change {slots} first.",
  "see-to": "See to it that there is {needs}.",
  "put-on-more": "Put on more of {pattern}.",
  "put-something-on": "Put something on there.",
  "put-another-on": "Put something else on in its place.",
  "put-in-bag": "Put one in the bag first.",
  "goes-in": "It goes in {slots}.",
  "fits-bodies": "It fits {bodies}.",
  "offers-ramps": "It offers {ramps}.",
  "paint-default": 'Paint it "{ramp}".',
  "acquire-for": "It can be had for {price}.",
  "acquire-first": "It has to be acquired first.",
  "earn-more": "Come back with {amount} more.",
  "make-room": "Make room in the bag first.",
  "meant-id": 'Say "{id}" if that is meant.',
  "name-known": "Name a {noun} that is in the catalog.",
  "leave-out": "Leave out {count}.",
  "another-name": "Choose another name.",
  "answer-first": "Choose one first.",
  // Pieces
  "a-stat": "the {stat}",
  "a-part": '"{id}"',
  "a-tag": 'something "{id}"',
  "a-slot": 'something in slot "{id}"',
  "a-body": 'body "{id}"',
  "an-outfit": 'the whole outfit "{id}"',
  "a-fact": '{id} "{value}"',
  "a-signal": '"{id}"',
  "a-signal-of": '{id} "{value}"',
  "not-so": "not {condition}",
  or: " or ",
  and: " and ",
} as const;

export type TextCode = keyof typeof englishTexts;

/** Sentences of the game's own, by code: for another language, or another voice. */
export type Texts = Readonly<Partial<Record<TextCode, string>>>;

/** What a sentence speaks of. */
export type Word = string | number | Condition | readonly string[];
export type Words = Readonly<Record<string, Word>>;

/** Who speaks: the catalog that has the titles, and the context that has the language. */
export interface Voice {
  readonly catalog: Catalog;
  readonly context: Pick<Context, "language" | "texts">;
}

/**
 * Says a sentence.
 *
 * @example
 * sayText(voice, "take-off", { part: "storm-hat" }) // → 'Take "storm-hat" off.'
 */
export function sayText(voice: Voice, code: TextCode, words: Words = {}): string {
  const template = voice.context.texts?.[code] ?? englishTexts[code];
  let said = "";
  for (const piece of recall(templates, template, () => readTemplate(template))) {
    const word = typeof piece === "string" ? undefined : valueAt(words, piece.name);
    if (typeof piece === "string") said += piece;
    else if (word === undefined) said += piece.whole;
    else said += piece.title ? sayTitles(voice, piece.name, word) : sayWord(voice, word);
  }
  return said;
}

/** A piece of a template: words as they are, or a place for one. */
type Piece = string | { readonly whole: string; readonly name: string; readonly title: boolean };

/** Templates that were said before, in pieces. There are as many as the game has texts. */
const templates = new Map<string, readonly Piece[]>();

function readTemplate(template: string): readonly Piece[] {
  return template
    .split(/(\{[a-z]+(?::title)?\})/)
    .filter((piece) => piece !== "")
    .map((piece): Piece => {
      const [, name, title] = /^\{([a-z]+)(:title)?\}$/.exec(piece) ?? [];
      return name === undefined ? piece : { whole: piece, name, title: title !== undefined };
    });
}

/** What an author says of a rule, in the language of the voice. */
export function sayAuthored(voice: Voice, text: Text | undefined): readonly string[] {
  return text === undefined ? [] : [textIn(text, voice.context.language)];
}

function sayWord(voice: Voice, word: Word): string {
  if (typeof word === "string" || typeof word === "number") return String(word);
  if ("kind" in word) return sayCondition(voice, word);
  return word.map((id) => `"${id}"`).join(sayText(voice, "and"));
}

/** A condition in words: `something in slot "vest"`. */
function sayCondition(voice: Voice, condition: Condition): string {
  switch (condition.kind) {
    case "part":
    case "tag":
    case "slot":
    case "body":
      return sayText(voice, `a-${condition.kind}`, namedBy(condition.kind, condition.id));
    case "outfit":
      return sayText(voice, "an-outfit", namedBy("outfit", condition.id));
    case "fact":
      return sayText(voice, "a-fact", { id: condition.id, value: condition.value });
    case "signal":
      return condition.value === undefined
        ? sayText(voice, "a-signal", { id: condition.id })
        : sayText(voice, "a-signal-of", { id: condition.id, value: condition.value });
    case "any":
      return condition.of.map((each) => sayCondition(voice, each)).join(sayText(voice, "or"));
    case "all":
      return condition.of.map((each) => sayCondition(voice, each)).join(sayText(voice, "and"));
    case "not":
      return sayText(voice, "not-so", { condition: sayCondition(voice, condition.of) });
  }
}

/** The id under its own name as well, so that a text can ask for `{part:title}`. */
function namedBy(kind: string, id: string): Words {
  return { id, [kind]: id };
}

/** The title of what a word names; of a list, each of its members'. */
function sayTitles(voice: Voice, name: string, word: Word): string {
  if (typeof word !== "object" || "kind" in word) return sayTitle(voice, name, String(word));
  const single = name === "bodies" ? "body" : name.replace(/s$/, "");
  return word.map((id) => sayTitle(voice, single, id)).join(sayText(voice, "and"));
}

function sayTitle({ catalog, context }: Voice, name: string, id: string): string {
  const known = {
    part: catalog.parts,
    other: catalog.parts,
    slot: catalog.slots,
    body: catalog.bodies,
    outfit: catalog.outfits,
    channel: catalog.channels,
    ramp: catalog.ramps,
    preset: catalog.presets,
    step: catalog.creation?.steps ?? new Map(),
    stat: catalog.stats,
  };
  const titled = (valueAt(known, name) as ReadonlyMap<string, { title: Text }> | undefined)?.get(id);
  return titled === undefined ? id : textIn(titled.title, context.language);
}
