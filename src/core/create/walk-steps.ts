import { getOwn } from "../base/record.ts";
import type { Catalog, Step } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, LoadoutProblem } from "../character/edit.ts";
import { normalizeName } from "../character/name.ts";
import { loadoutProblem } from "../character/refuse.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import { holds } from "../rules/condition.ts";
import { wornParts } from "../rules/worn.ts";
import type { Answer } from "./progress.ts";

/** A step as it lies on the way. */
export interface Passed {
  readonly step: Step;
  /** The answer that counts; `undefined` while there is none. */
  readonly answer: Answer | undefined;
  /** The character when the step is asked: every earlier answer done. */
  readonly before: Character;
  /** The character with this answer done, too. */
  readonly after: Character;
  /** Why the answer that was given does not count any more. */
  readonly problems: readonly LoadoutProblem[];
}

/** The way that answers lead, from the first step to the end. */
export interface Walk {
  readonly passed: readonly Passed[];
  /** The character with every answer on the way done. */
  readonly character: Character;
}

/**
 * Follows a creation flow with the answers given so far, doing each answer in turn. Steps without an answer are passed by, so
 * the way is always known to its end, as far as it can be foreseen.
 *
 * Pure: the same answers always lead the same way to the same character.
 */
export function walkSteps(
  catalog: Catalog,
  original: Character,
  answers: Readonly<Record<string, Answer>>,
  context: Context = {},
): Walk {
  const passed: Passed[] = [];
  const seen = new Set<string>();
  let character = original;
  let go: string | undefined = catalog.creation?.start;
  while (go !== undefined && !seen.has(go)) {
    seen.add(go);
    const step: Step | undefined = catalog.creation?.steps.get(go);
    if (step === undefined) break;
    const isTrue = (condition: Step["when"]) =>
      condition === undefined || holds(condition, { catalog, character, context, worn: wornParts(catalog, character) });
    if (isTrue(step.when)) {
      const next = passStep(catalog, step, character, getOwn(answers, step.id), context);
      passed.push(next);
      character = next.after;
    }
    go = step.next.find(({ when }) => isTrue(when))?.go;
  }
  return { passed, character };
}

/** Does the answer to one step. */
export function passStep(
  catalog: Catalog,
  step: Step,
  before: Character,
  answer: Answer | undefined,
  context: Context,
): Passed {
  if (answer === undefined) return { step, answer, before, after: before, problems: [] };
  const edit = editFor(step, answer);
  if (edit === undefined) {
    const code = answer === "" ? "not-answered" : "not-offered";
    const problem = loadoutProblem(code, {
      subject: { kind: "step", id: step.id },
      at: ["steps", step.id],
      params: { step: step.id, answer: answer ?? "" },
    });
    return { step, answer: undefined, before, after: before, problems: [problem] };
  }
  const result = applyEdit(catalog, before, edit, context);
  if (!result.ok) return { step, answer: undefined, before, after: before, problems: result.problems };
  return { step, answer, before, after: result.character, problems: [] };
}

/** What an answer does to a character; `undefined` when the step does not offer it. */
export function editFor({ asks }: Step, answer: Answer): Edit | undefined {
  if (asks.kind === "part") {
    if (answer === null) return asks.bare ? { remove: asks.slot } : undefined;
    return asks.from.includes(answer) ? { wear: answer, in: asks.slot } : undefined;
  }
  if (answer === null) return undefined;
  switch (asks.kind) {
    case "body":
      return asks.from.includes(answer) ? { body: answer } : undefined;
    case "color":
      // A color of the character's own is judged by the channel.
      return asks.from.includes(answer) || answer.startsWith("#") ? { paint: asks.channel, ramp: answer } : undefined;
    case "outfit":
      return asks.from.includes(answer) ? { dress: answer } : undefined;
    case "preset":
      return asks.from.includes(answer) ? { preset: answer } : undefined;
    case "name":
      return normalizeName(answer) === "" ? undefined : { rename: answer };
    case "fact": {
      const chosen = asks.from.find(({ id }) => id === answer);
      return chosen === undefined ? undefined : { together: [{ fact: asks.fact, value: answer }, ...chosen.does] };
    }
  }
}

/** What the character shows of what a step asks for, answered or not. */
export function shownAnswer(catalog: Catalog, { asks }: Step, character: Character): Answer | undefined {
  switch (asks.kind) {
    case "body":
      return asks.from.includes(character.body) ? character.body : undefined;
    case "part": {
      const worn = wornParts(catalog, character).find(({ slot }) => slot === asks.slot)?.part.id;
      if (worn === undefined) return asks.bare ? null : undefined;
      return asks.from.includes(worn) ? worn : undefined;
    }
    case "color": {
      const ramp = getOwn(character.colors, asks.channel) ?? catalog.channels.get(asks.channel)?.default;
      return ramp !== undefined && (asks.from.includes(ramp) || ramp.startsWith("#")) ? ramp : undefined;
    }
    case "name":
      return character.name === "" ? undefined : character.name;
    case "fact": {
      const fact = getOwn(character.facts, asks.fact);
      return asks.from.some(({ id }) => id === fact) ? fact : undefined;
    }
    case "outfit":
    case "preset":
      return undefined;
  }
}
