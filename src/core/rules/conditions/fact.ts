import { message } from "../../base/message.ts";
import { getOwn } from "../../base/record.ts";
import type { JudgedKind } from "./kind.ts";

export const fact: JudgedKind<"fact"> = {
  message: ({ id, value }) => message("a-fact", { fact: id, answer: value }),
  absent: ({ id, value }) => message("no-fact", { fact: id, answer: value }),
  given: {
    holds: ({ id, value }, { facts }) => getOwn(facts, id) === value,
    evidence: ({ id }, { facts }) => ({ kind: "fact", id, value: getOwn(facts, id) }),
  },
};
