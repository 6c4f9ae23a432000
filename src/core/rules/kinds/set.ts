import { type Message, message } from "../../base/message.ts";
import type { StatModifier } from "../../catalog/model/catalog.ts";
import { conditionMessage } from "../condition-message.ts";
import type { SpokenKind } from "./kind.ts";

export const set: SpokenKind<"set"> = {
  messages: ({ of, atLeast, gives }) => [
    message("rule-set", {
      min: atLeast,
      patterns: of.map(conditionMessage),
      gifts: Object.entries(gives).flatMap(([stat, gift]) => giftMessages(stat, gift)),
    }),
  ],
};

function giftMessages(stat: string, { add, times }: StatModifier): readonly Message[] {
  return [
    ...(add > 0 ? [message("gift-more", { value: add, stat })] : []),
    ...(add < 0 ? [message("gift-less", { value: -add, stat })] : []),
    ...(times === 1 ? [] : [message("gift-times", { times, stat })]),
  ];
}
