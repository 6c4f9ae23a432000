import type { FixCode, Given, Message, ParamsOf, ProblemCode } from "../base/message.ts";
import { nearestId } from "../base/nearest-id.ts";
import { type Fix, type Problem, pointerTo } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult, Evidence, LoadoutProblem, Subject } from "./edit.ts";

/** The result of an edit that cannot be done. */
export function refuse(character: Character, ...problems: readonly LoadoutProblem[]): EditResult {
  return { ok: false, character, problems };
}

/** What a finding about a character holds besides its sentence. */
interface Details {
  readonly subject: Subject;
  /** The keys that lead to the place in the character. */
  readonly at: readonly string[];
  readonly chain?: readonly Evidence[];
  /** What to do; a function is called when that is asked for, since finding it out may take long. */
  readonly fixes?: readonly Fix<Edit>[] | (() => readonly Fix<Edit>[]);
}

/** A problem of a document as one about a character as a whole. */
export function aboutWhole(problem: Problem): LoadoutProblem {
  return { ...problem, subject: { kind: "character", id: "" }, chain: [] };
}

/** An error about a character, of which the sentence is known already. */
export function problemAbout(
  { code, params, more = [] }: Message<ProblemCode>,
  { subject, at, chain = [], fixes = [] }: Details,
): LoadoutProblem {
  const about = {
    code,
    params,
    severity: "error",
    subject,
    place: { pointer: pointerTo(...at) },
    chain,
  } as const;
  const whole = more.length === 0 ? about : { ...about, more };
  return typeof fixes === "function" ? withFixes({ ...whole, fixes: [] }, fixes) : { ...whole, fixes };
}

/** A problem with more fixes, before those it has, which are found when they are asked for. */
export function withFixes(problem: LoadoutProblem, find: () => readonly Fix<Edit>[]): LoadoutProblem {
  let found: readonly Fix<Edit>[] | undefined;
  return {
    ...problem,
    get fixes() {
      found ??= [...find(), ...problem.fixes];
      return found;
    },
  };
}

/** An error about a character. */
export function loadoutProblem<Code extends ProblemCode>(
  code: Code,
  { params, more = [], ...details }: Details & { readonly params: ParamsOf<Code>; readonly more?: readonly Message[] },
): LoadoutProblem {
  return problemAbout({ code, params, more }, details);
}

/** What to do, with the edits that do it. */
export function fixWith<Code extends FixCode>(code: Code, params: ParamsOf<Code>, edits: readonly Edit[]): Fix<Edit> {
  return { code, params, edits };
}

/** What to do, where no edit does it. */
export function fixBy<Code extends FixCode>(code: Code, ...[params]: Given<Code>): Fix<Edit> {
  return { code, params: params ?? {} };
}

/** What can be unknown: the nouns of ids that characters and edits hold. */
type RefusedKind = "body" | "slot" | "part" | "outfit" | "channel" | "preset";

/** The problem of an id that the catalog does not know, with the nearest that it does. */
export function unknownId(catalog: Catalog, noun: RefusedKind, id: string, at: readonly string[]): LoadoutProblem {
  const { bodies, slots, parts, outfits, channels, presets } = catalog;
  const known = { body: bodies, slot: slots, part: parts, outfit: outfits, channel: channels, preset: presets }[noun];
  const meant = nearestId(id, [...known.keys()]);
  const fixes = [meant === undefined ? fixBy("name-known") : fixBy("meant-id", { meant })];
  return loadoutProblem(`unknown-${noun}`, { subject: { kind: noun, id }, at, params: { id }, fixes });
}
