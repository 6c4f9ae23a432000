import { css, html } from "lit";
import type { Message } from "../core/base/message.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Edit, LoadoutProblem } from "../core/character/edit.ts";
import { nameLimit } from "../core/character/name.ts";

/** A message of a screen to its player, with what can be done about it. */
export interface Notice {
  readonly says: readonly string[];
  readonly isWrong: boolean;
  readonly fixes: readonly Press[];
}

/** What a press does, and what is written on the button. */
export interface Press {
  readonly label: string;
  readonly edits: readonly Edit[];
}

/** Puts a message into the words of a screen. */
type Say = (message: Message) => string;

export const noNotice: Notice = { says: [], isWrong: false, fixes: [] };

/**
 * The sentences of problems, with every mend that can be done by a press, each once.
 *
 * @param say - formats a message.
 * @param mends - better ones than those the problems bring.
 */
export function noticeOf(problems: readonly LoadoutProblem[], say: Say, mends?: readonly Press[]): Notice {
  const fixes = new Map<string, Press>();
  const offered = problems.flatMap((problem) => problem.fixes);
  for (const press of mends ?? offered.map((fix) => ({ label: say(fix), edits: fix.edits ?? [] }))) {
    if (press.edits.length > 0) fixes.set(JSON.stringify(press.edits), press);
  }
  const advice = offered.filter(({ edits }) => edits === undefined).map(say);
  const says = problems.map(say);
  // Where a press mends it, no advice is needed.
  return {
    says: [...new Set(fixes.size > 0 ? says : [...says, ...advice])],
    isWrong: problems.some(({ severity }) => severity === "error"),
    fixes: [...fixes.values()],
  };
}

/** Where a text of that name is said. */
interface Speaker<Name extends string> {
  say(name: Name, words: Readonly<Record<string, number>>): string;
}

/** What is asked of a name, where there is none. */
export function needsName(screen: Speaker<"needs-name">, { names }: Catalog): Notice {
  const says = [screen.say("needs-name", { most: names?.longest ?? nameLimit })];
  return { says, isWrong: true, fixes: [] };
}

/** A notice on the page; its text is read out when it changes. */
export function renderNotice(notice: Notice, act: (edits: readonly Edit[]) => void) {
  return html`<div class="notice ${notice.isWrong ? "is-wrong" : ""}" data-group>
    <div role="status">${notice.says.map((line) => html`<p>${line}</p>`)}</div>
    ${notice.fixes.map(
      ({ label, edits }) => html`<button type="button" class="fix" @click=${() => act(edits)}>${label}</button>`,
    )}
  </div>`;
}

export const noticeStyle = css`
  .notice {
    min-height: 24px;
  }
  .notice p {
    margin: 0 0 4px;
  }
  .is-wrong p {
    color: var(--danger);
  }
  .is-wrong p:first-child::before {
    content: "✕ ";
  }
  .fix {
    margin: 4px 8px 4px 0;
    border-color: var(--accent);
    text-align: start;
  }
`;
