import { EventQueue } from "../base/event-queue.ts";
import { MantleError } from "../base/problem.ts";
import type { Catalog, Step } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import type { SolvingContext } from "../loadout/solver.ts";
import { type Choice, choicesOf } from "./choices.ts";
import { CreationFlow, type FlowState } from "./creation-flow.ts";
import type { Answer, StepState, StepsProgress, StepsResult } from "./progress.ts";
import { refuseFinish } from "./refuse-finish.ts";

export interface StepsOptions extends SolvingContext {
  /** Where to go on, as `progress` gave it before; steps and answers that are no more are passed over. */
  readonly progress?: StepsProgress;
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
  const { progress, ...context } = options;
  if (catalog.creation === undefined) {
    throw new MantleError("no-steps", `The catalog "${catalog.id}" has no steps. Give it a "creation" section.`);
  }
  const flow = new CreationFlow(catalog, original, context);
  const queue = new EventQueue<{ change: undefined }>();
  let state = flow.begin(progress);
  /** Takes over the next state, where there is one, and emits that it did. */
  const move = (next: FlowState | undefined): boolean => {
    if (next === undefined) return false;
    const isChanged = next !== state;
    state = next;
    if (isChanged) queue.emit("change", undefined);
    return true;
  };
  const take = ({ state: next, result }: { readonly state: FlowState; readonly result: StepsResult }) => {
    move(next);
    return result;
  };

  return Object.freeze<Steps>({
    catalog,
    context: flow.context,
    get step() {
      return flow.current(state)?.step;
    },
    get confirming() {
      return state.progress.confirming;
    },
    get answered() {
      return flow.answered(flow.current(state));
    },
    get choices() {
      const passed = flow.current(state);
      if (passed === undefined) return [];
      const { step, before } = passed;
      const { answers } = state.progress;
      const showWith = (answer: Answer) => flow.walk({ ...answers, [step.id]: answer }).character;
      return choicesOf({ catalog, step, before, context: flow.context, showWith });
    },
    get character() {
      return state.walk.character;
    },
    get path() {
      return flow.path(state);
    },
    get progress() {
      return state.progress;
    },
    get problems() {
      return flow.problems(state);
    },
    answer: (answer) => take(flow.answer(state, answer)),
    next: () => take(flow.next(state)),
    back: () => move(flow.back(state)),
    later: () => move(flow.later(state)),
    goTo: (step) => move(flow.goTo(state, step)),
    finish() {
      refuseFinish(flow.problems(state));
      return state.walk.character;
    },
    on: (event, listener) => queue.on(event, listener),
  });
}
