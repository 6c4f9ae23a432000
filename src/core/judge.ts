/**
 * Judges what a stranger sent, for whoever trusts no client: a server, or a player's machine on which others play. One bounded call for a
 * character, one for an edit; a game that only plays needs none of it.
 *
 * @module zealous-mantle/judge
 */

export type { Answers } from "./edits/given-facts.ts";
export { type EditReading, readEdit } from "./edits/read-edit.ts";
export { type Judgement, judgeCharacter } from "./save/judge/judge-character.ts";
export type { JudgeContext } from "./save/judge/judge-context.ts";
export { judgeSave, type SaveJudgement } from "./save/judge/judge-save.ts";
