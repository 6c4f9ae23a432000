import { getOwn } from "../base/record.ts";
import type { Catalog, Step } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { fixBy, loadoutProblem } from "../character/refuse.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import type { Solver, SolvingContext } from "../loadout/solver.ts";
import type { Answer, DroppedAnswer, StepState, StepsProgress, StepsResult } from "./progress.ts";
import { type Passed, passStep, shownAnswer, type Walk, walkSteps } from "./walk-steps.ts";

/** Where a creation is: what a player answered, and the walk those answers lead. */
export interface FlowState {
  readonly progress: StepsProgress;
  readonly walk: Walk;
}

/** What an answer came to, and the state after it; the very state before where nothing changed. */
interface Taken {
  readonly state: FlowState;
  readonly result: StepsResult;
}

/**
 * The creation flow of a catalog for one character, as a state machine: each call makes a state of a state, and keeps none. `undefined` stands for
 * a move that is not possible.
 */
export class CreationFlow {
  /** What is known of the game and its player. */
  readonly context: Context;
  readonly #catalog: Catalog;
  readonly #original: Character;
  readonly #solver: Solver | undefined;

  constructor(catalog: Catalog, original: Character, { solver, ...context }: SolvingContext) {
    this.context = context;
    this.#catalog = catalog;
    this.#original = original;
    this.#solver = solver;
  }

  /** Begins, or goes on; at the first step that has no answer where the step that was asked is no more. */
  begin(kept?: StepsProgress): FlowState {
    const progress: StepsProgress = kept ?? { mantle: "steps/1", at: null, confirming: false, answers: {}, later: [] };
    const walk = this.walk(progress.answers);
    if (kept !== undefined && isOnWay(walk, kept.at)) return { progress, walk };
    return { progress: { ...progress, at: firstOpen(walk, progress) }, walk };
  }

  /** The walk that answers lead. */
  walk(answers: StepsProgress["answers"]): Walk {
    return walkSteps(this.#catalog, this.#original, answers, this.context);
  }

  /** The step that is asked now. */
  current({ walk, progress }: FlowState): Passed | undefined {
    return walk.passed.find(({ step }) => step.id === progress.at);
  }

  /** The answer to a step as it shows: the one given, or what the character has of it. */
  answered(passed: Passed | undefined): Answer | undefined {
    if (passed === undefined || passed.answer !== undefined) return passed?.answer;
    return shownAnswer(this.#catalog, passed.step, passed.before);
  }

  path({ walk, progress }: FlowState): readonly StepState[] {
    return walk.passed.map(({ step, answer }): StepState => {
      if (step.id === progress.at) return { step, state: "now" };
      if (answer !== undefined) return { step, state: "answered" };
      return { step, state: progress.later.includes(step.id) ? "later" : "open" };
    });
  }

  /** What stands in the way of finishing. */
  problems({ walk, progress }: FlowState): readonly LoadoutProblem[] {
    const isOpen = (passed: Passed) => this.answered(passed) === undefined && !progress.later.includes(passed.step.id);
    const context = { ...this.context, solver: this.#solver };
    return [
      ...walk.passed.filter(isOpen).map(({ step }) => notAnswered(step)),
      ...checkLoadout(this.#catalog, walk.character, context).filter(({ severity }) => severity === "error"),
    ];
  }

  /** Answers the step that is asked now. */
  answer(state: FlowState, answer: Answer): Taken {
    const passed = this.current(state);
    return passed === undefined ? unchanged(state) : this.#take(state, passed, answer);
  }

  /** Goes on: to the question back where the step has one, else to the next step. What shows is taken for the answer. */
  next(state: FlowState): Taken {
    const passed = this.current(state);
    if (passed === undefined) return unchanged(state);
    const answer = this.answered(passed);
    if (answer === undefined) return { state, result: { ok: false, problems: [notAnswered(passed.step)] } };
    const taken = passed.answer === undefined ? this.#take(state, passed, answer) : unchanged(state);
    if (!taken.result.ok) return taken;
    const goesOn = !passed.step.confirms || state.progress.confirming;
    const change = goesOn ? { at: stepAfter(taken.state, passed.step.id) } : { confirming: true };
    return { state: this.#move(taken.state, change), result: taken.result };
  }

  /** Goes back: to the choice when asked back, else to the step before. */
  back(state: FlowState): FlowState | undefined {
    const { walk, progress } = state;
    if (progress.confirming) return this.#move(state, {});
    const at = walk.passed.findIndex(({ step }) => step.id === progress.at);
    const before = at < 0 ? walk.passed.at(-1) : walk.passed[at - 1];
    return before && this.#move(state, { at: before.step.id });
  }

  /** Leaves the step for later. */
  later(state: FlowState): FlowState | undefined {
    const step = this.current(state)?.step;
    if (step === undefined || !step.canWait) return undefined;
    const { [step.id]: _, ...answers } = state.progress.answers;
    const later = [...state.progress.later.filter((id) => id !== step.id), step.id];
    const left = this.#move(state, { answers, later });
    return this.#move(left, { at: stepAfter(left, step.id) });
  }

  /** Goes to a step on the way, where every step before it is answered or left for later. */
  goTo(state: FlowState, id: string): FlowState | undefined {
    const { walk, progress } = state;
    const at = walk.passed.findIndex(({ step }) => step.id === id);
    const isFree = ({ step }: Passed) =>
      getOwn(progress.answers, step.id) !== undefined || progress.later.includes(step.id);
    return at >= 0 && walk.passed.slice(0, at).every(isFree) ? this.#move(state, { at: id }) : undefined;
  }

  #take(state: FlowState, { step, before }: Passed, answer: Answer): Taken {
    const { problems } = passStep(this.#catalog, step, before, answer, this.context);
    if (problems.length > 0) return { state, result: { ok: false, problems } };
    const later = state.progress.later.filter((id) => id !== step.id);
    const next = this.#move(state, { answers: { ...state.progress.answers, [step.id]: answer }, later });
    return { state: next, result: { ok: true, dropped: droppedBetween(state.walk, next) } };
  }

  #move({ progress, walk }: FlowState, change: Partial<Omit<StepsProgress, "mantle">>): FlowState {
    const next = { ...progress, confirming: false, ...change };
    return { progress: next, walk: change.answers === undefined ? walk : this.walk(next.answers) };
  }
}

function unchanged(state: FlowState): Taken {
  return { state, result: { ok: true, dropped: [] } };
}

function stepAfter({ walk }: FlowState, id: string): string | null {
  const at = walk.passed.findIndex(({ step }) => step.id === id);
  return walk.passed[at + 1]?.step.id ?? null;
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
function droppedBetween(before: Walk, { walk: after, progress: { answers } }: FlowState): readonly DroppedAnswer[] {
  return before.passed.flatMap(({ step, answer }): readonly DroppedAnswer[] => {
    if (answer === undefined || getOwn(answers, step.id) !== answer) return [];
    const now = after.passed.find((each) => each.step.id === step.id);
    if (now !== undefined && now.answer !== undefined) return [];
    return [{ step, answer, problems: now?.problems ?? [] }];
  });
}
