import { message } from "../../base/message.ts";
import type { JudgedKind } from "./kind.ts";

export const tag: JudgedKind<"tag"> = {
  message: ({ id }) => message("a-tag", { tag: id }),
  absent: ({ id }) => message("no-tag", { tag: id }),
  counted: ({ id }) => message("of-tag", { tag: id }),
  matches: ({ id }, worn) => worn.part.tags.includes(id),
};
