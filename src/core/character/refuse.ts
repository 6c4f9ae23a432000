import { type Fix, pointerTo } from "../base/problem.ts";
import { suggest } from "../base/suggest.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult, Fact, LoadoutProblem, Subject } from "./edit.ts";
import type { TextCode } from "./english-texts.ts";
import { sayText, type Voice, type Words } from "./wording.ts";

/** The result of an edit that cannot be done. */
export function refuse(character: Character, ...problems: readonly LoadoutProblem[]): EditResult {
  return { ok: false, character, problems };
}

/** What a problem says besides its code. */
interface Details {
  readonly subject: Subject;
  /** The keys that lead to the place in the character. */
  readonly at: readonly string[];
  readonly words?: Words;
  /** Sentences that follow the first. */
  readonly more?: readonly string[];
  readonly chain?: readonly Fact[];
  readonly fixes?: readonly Fix<Edit>[];
}

/** An error about a character, in words. */
export function loadoutProblem(voice: Voice, code: TextCode, details: Details): LoadoutProblem {
  const { subject, at, words = {}, more = [], chain = [], fixes = [] } = details;
  const because = [sayText(voice, code, words), ...more].join(" ");
  return { code, severity: "error", subject, place: { pointer: pointerTo(...at) }, because, chain, fixes };
}

/** A fix in words. */
export function fixOf(voice: Voice, code: TextCode, words: Words = {}, edits?: readonly Edit[]): Fix<Edit> {
  const say = sayText(voice, code, words);
  return edits === undefined ? { say } : { say, edits };
}

/** What can be unknown: the nouns of ids that characters and edits hold. */
type Noun = "body" | "slot" | "part" | "outfit" | "channel" | "preset";

/** The problem of an id that the catalog does not know, with the nearest that it does. */
export function unknownId(voice: Voice, noun: Noun, id: string, at: readonly string[]): LoadoutProblem {
  const { bodies, slots, parts, outfits, channels, presets } = voice.catalog;
  const known = { body: bodies, slot: slots, part: parts, outfit: outfits, channel: channels, preset: presets }[noun];
  const fixes = suggest(
    id,
    [...known.keys()],
    (meant) => sayText(voice, "meant-id", { id: meant }),
    sayText(voice, "name-known", { noun }),
  );
  return loadoutProblem(voice, `unknown-${noun}`, { subject: { kind: noun, id }, at, words: { id }, fixes });
}
