import { message } from "../../base/message.ts";
import { getOwn } from "../../base/record.ts";
import type { Context } from "../../character/context.ts";
import { hasValue, isOn } from "../signals.ts";
import type { JudgedKind } from "./kind.ts";

export const signal: JudgedKind<"signal"> = {
  message: ({ id, value }) =>
    value === undefined ? message("a-signal", { id }) : message("a-signal-of", { id, value }),
  absent: ({ id, value }) =>
    value === undefined ? message("no-signal", { id }) : message("no-signal-of", { id, value }),
  given: {
    holds({ id, value }, _character, context) {
      const now = signalIn(context, id);
      return value === undefined ? isOn(now) : hasValue(now, value);
    },
    evidence: ({ id }, _character, context) => ({ kind: "signal", id, value: signalIn(context, id) }),
  },
};

function signalIn({ signals = {} }: Context, id: string) {
  return getOwn(signals, id);
}
