import { idText } from "../id-form.ts";
import { conditionKinds } from "./condition-kinds.ts";
import type { ConditionKind } from "./kind.ts";

/** The words of some kinds, as a choice in a form. */
function words(isMeant: (kind: Pick<ConditionKind<never>, "by" | "value">) => boolean): string {
  const kinds = Object.entries(conditionKinds).filter(([, kind]) => isMeant(kind));
  return `(${kinds.map(([word]) => word).join("|")}):${idText}`;
}

/** The form of a statement about worn parts: `tag:lamp`. */
export const patternForm = new RegExp(`^${words(({ by }) => by === "worn")}$`);

const plain = words(({ value }) => value === "never");
const valued = words(({ value }) => value === "always");
const either = words(({ value }) => value === "sometimes");

/** The form of a condition in one word: `fact:trade=pilot`. */
export const conditionForm = new RegExp(`^(${plain}|${valued}=.+|${either}(=.+)?)$`);
