import { conditionKinds } from "./condition-kinds.ts";

const id = "[a-z][a-z0-9]*(-[a-z0-9]+)*";
const values = { never: "", always: "=.+", sometimes: "(=.+)?" } as const;

const kinds = Object.entries(conditionKinds).map(([key, { by, value }]) => ({ key, by, value }));

/** The form of a statement about worn parts: `tag:lamp`. */
export const patternForm = new RegExp(
  `^(${kinds
    .filter(({ by }) => by === "worn")
    .map(({ key }) => key)
    .join("|")}):${id}$`,
);

/** The form of a condition in one word: `fact:trade=pilot`. */
export const conditionForm = new RegExp(
  `^(${(["never", "always", "sometimes"] as const)
    .map((value) => {
      const keys = kinds.filter((kind) => kind.value === value).map(({ key }) => key);
      return `(${keys.join("|")}):${id}${values[value]}`;
    })
    .join("|")})$`,
);
