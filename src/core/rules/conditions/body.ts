import { message } from "../../base/message.ts";
import type { JudgedKind } from "./kind.ts";

export const body: JudgedKind<"body"> = {
  message: ({ id }) => message("a-body", { body: id }),
  absent: ({ id }) => message("no-body", { body: id }),
  given: {
    holds: ({ id }, character) => character.body === id,
    evidence: (_condition, character) => ({ kind: "body", id: character.body }),
  },
};
