import type { Context } from "../../character/context.ts";
import type { LoadoutProblem } from "../../character/edit.ts";
import type { Answers } from "../../edits/given-facts.ts";

/** What a server knows of a player. What is left out is not judged. */
export interface JudgeContext extends Context {
  /** How many of a part the player has, worn and carried together; of a part that is not named, none. */
  readonly counts?: Readonly<Record<string, number>>;
  /** Answers that the game keeps and the catalog does not give. @defaultValue none */
  readonly answers?: Answers;
}

/** Takes a finding, which is only put into words when it is among the first. */
export type Report = (find: () => LoadoutProblem) => void;
