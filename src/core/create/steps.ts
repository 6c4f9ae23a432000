import { EventQueue } from "../base/event-queue.ts";
import { MantleError } from "../base/problem.ts";
import { getOwn } from "../base/record.ts";
import type { Catalog, Step } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { fixBy, loadoutProblem } from "../character/refuse.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import type { SolvingContext } from "../loadout/solver.ts";
import { type Choice, choicesOf } from "./choices.ts";
import type { Answer, StepsProgress } from "./progress.ts";
import { refuseFinish } from "./refuse-finish.ts";
import { type Passed, passStep, shownAnswer, type Walk, walkSteps } from "./walk-steps.ts";

export interface StepsOptions extends SolvingContext {
  /** Where to go on, as `progress` gave it before; steps and answers that are no more are passed over. */
  readonly progress?: StepsProgress;
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

/** A creation in steps: one question at a time, forward and back. */
export interface Steps {
  readonly catalog: Catalog;
  readonly context: Context;
  /** The question that is asked now; `undefined` when all are behind. */
  readonly step: Step | undefined;
  /** Whether the step asks back: `next` goes on, `back` chooses again. */
  readonly confirming: boolean;
  /** The answer to the step as it shows now: the one given, or what the character has of it. */
  readonly answered: Answer | undefined;
  /** What the step offers. */
  readonly choices: readonly Choice[];
  /** The character with every answer done. */
  readonly character: Character;
  /** The steps from first to last, as far as they can be foreseen. */
  readonly path: readonly StepState[];
  /** All that is needed to go on after a reload, as JSON. */
  readonly progress: StepsProgress;
  /** What stands in the way of finishing. */
  readonly problems: readonly LoadoutProblem[];
  /** Answers the step that is asked now. */
  answer(answer: Answer): StepsResult;
  /** Goes on: to the question back where the step has one, else to the next step. What shows is taken for the answer. */
  next(): StepsResult;
  /** Goes back: to the choice when asked back, else to the step before. `false` at the first. Answers stay. */
  back(): boolean;
  /** Leaves the step for later. `false` where it cannot wait. */
  later(): boolean;
  /** Goes to a step on the way. `false` where it is not, or lies behind one that has to be answered first. */
  goTo(step: string): boolean;
  /**
   * The finished character.
   *
   * @throws MantleError `unfinished` while a step has no answer or an error stands in the way.
   */
  finish(): Character;
  /** Calls a listener after each change. Returns what ends that. */
  on(event: "change", listener: () => void): () => void;
}

/**
 * Opens the creation flow of a catalog for a new character, or goes on with one.
 *
 * @param original - who the answers are given for; stays as it is.
 * @throws MantleError `no-steps` when the catalog has no creation flow.
 * @example
 * const steps = openSteps(catalog, createCharacter(catalog, { body: "reed" }))
 * steps.answer("oak")
 * steps.next()
 */
export function openSteps(catalog: Catalog, original: Character, options: StepsOptions = {}): Steps {
  const { progress: kept, solver, ...context } = options;
  if (catalog.creation === undefined) {
    throw new MantleError("no-steps", `The catalog "${catalog.id}" has no steps. Give it a "creation" section.`);
  }
  const queue = new EventQueue<{ change: undefined }>();
  const walkWith = (answers: StepsProgress["answers"]) => walkSteps(catalog, original, answers, context);
  let progress: StepsProgress = kept ?? { mantle: "steps/1", at: null, confirming: false, answers: {}, later: [] };
  let walk = walkWith(progress.answers);
  if (kept === undefined || !isOnWay(walk, progress.at)) progress = { ...progress, at: firstOpen(walk, progress) };

  const move = (change: Partial<Omit<StepsProgress, "mantle">>) => {
    progress = { ...progress, confirming: false, ...change };
    if (change.answers !== undefined) walk = walkWith(progress.answers);
    queue.emit("change", undefined);
  };
  const current = () => walk.passed.find(({ step }) => step.id === progress.at);
  const answeredAt = (passed: Passed | undefined) =>
    passed && (passed.answer === undefined ? shownAnswer(catalog, passed.step, passed.before) : passed.answer);
  const stepAfter = (id: string | null) => {
    const at = walk.passed.findIndex(({ step }) => step.id === id);
    return walk.passed[at + 1]?.step.id ?? null;
  };
  const take = (passed: Passed, answer: Answer): StepsResult => {
    const { problems: refused } = passStep(catalog, passed.step, passed.before, answer, context);
    if (refused.length > 0) return { ok: false, problems: refused };
    const before = walk;
    const later = progress.later.filter((id) => id !== passed.step.id);
    move({ answers: { ...progress.answers, [passed.step.id]: answer }, later });
    return { ok: true, dropped: droppedBetween(before, walk, progress.answers) };
  };
  const problems = () => [
    ...walk.passed
      .filter((passed) => answeredAt(passed) === undefined && !progress.later.includes(passed.step.id))
      .map(({ step }) => notAnswered(step)),
    ...checkLoadout(catalog, walk.character, { ...context, solver }).filter(({ severity }) => severity === "error"),
  ];

  return Object.freeze<Steps>({
    catalog,
    context,
    get step() {
      return current()?.step;
    },
    get confirming() {
      return progress.confirming;
    },
    get answered() {
      return answeredAt(current());
    },
    get choices() {
      const passed = current();
      if (passed === undefined) return [];
      const { step, before } = passed;
      const showWith = (answer: Answer) => walkWith({ ...progress.answers, [step.id]: answer }).character;
      return choicesOf({ catalog, step, before, context, showWith });
    },
    get character() {
      return walk.character;
    },
    get path() {
      return walk.passed.map(({ step, answer }): StepState => {
        if (step.id === progress.at) return { step, state: "now" };
        if (answer !== undefined) return { step, state: "answered" };
        return { step, state: progress.later.includes(step.id) ? "later" : "open" };
      });
    },
    get progress() {
      return progress;
    },
    get problems() {
      return problems();
    },
    answer(answer) {
      const passed = current();
      return passed === undefined ? { ok: true, dropped: [] } : take(passed, answer);
    },
    next() {
      const passed = current();
      if (passed === undefined) return { ok: true, dropped: [] };
      const answer = answeredAt(passed);
      if (answer === undefined) return { ok: false, problems: [notAnswered(passed.step)] };
      const taken: StepsResult = passed.answer === undefined ? take(passed, answer) : { ok: true, dropped: [] };
      if (!taken.ok) return taken;
      if (passed.step.confirms && !progress.confirming) move({ confirming: true });
      else move({ at: stepAfter(passed.step.id) });
      return taken;
    },
    back() {
      if (progress.confirming) {
        move({ confirming: false });
        return true;
      }
      const at = walk.passed.findIndex(({ step }) => step.id === progress.at);
      const before = at < 0 ? walk.passed.at(-1) : walk.passed[at - 1];
      if (before === undefined) return false;
      move({ at: before.step.id });
      return true;
    },
    later() {
      const passed = current();
      if (passed === undefined || !passed.step.canWait) return false;
      const { [passed.step.id]: _, ...answers } = progress.answers;
      const later = [...progress.later.filter((id) => id !== passed.step.id), passed.step.id];
      move({ answers, later });
      move({ at: stepAfter(passed.step.id) });
      return true;
    },
    goTo(id) {
      const at = walk.passed.findIndex(({ step }) => step.id === id);
      const isFree = (passed: Passed) =>
        getOwn(progress.answers, passed.step.id) !== undefined || progress.later.includes(passed.step.id);
      if (at < 0 || !walk.passed.slice(0, at).every(isFree)) return false;
      move({ at: id });
      return true;
    },
    finish() {
      refuseFinish(problems());
      return walk.character;
    },
    on: (event, listener) => queue.on(event, listener),
  });
}

function isOnWay({ passed }: Walk, at: string | null): boolean {
  return at === null || passed.some(({ step }) => step.id === at);
}

/** The first step that has no answer and was not left for later. */
function firstOpen({ passed }: Walk, { later }: StepsProgress): string | null {
  return passed.find(({ step, answer }) => answer === undefined && !later.includes(step.id))?.step.id ?? null;
}

function notAnswered(step: Step): LoadoutProblem {
  return loadoutProblem("not-answered", {
    subject: { kind: "step", id: step.id },
    at: ["steps", step.id],
    params: { step: step.id },
    fixes: [fixBy("answer-first")],
  });
}

/** The answers that counted on one walk and do not on another. */
function droppedBetween(before: Walk, after: Walk, answers: StepsProgress["answers"]): readonly DroppedAnswer[] {
  return before.passed.flatMap(({ step, answer }): readonly DroppedAnswer[] => {
    if (answer === undefined || getOwn(answers, step.id) !== answer) return [];
    const now = after.passed.find((each) => each.step.id === step.id);
    if (now !== undefined && now.answer !== undefined) return [];
    return [{ step, answer, problems: now?.problems ?? [] }];
  });
}
