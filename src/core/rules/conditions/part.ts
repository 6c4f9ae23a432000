import { message } from "../../base/message.ts";
import type { JudgedKind } from "./kind.ts";

export const part: JudgedKind<"part"> = {
  message: ({ id }) => message("a-part", { part: id }),
  absent: ({ id }) => message("no-part", { part: id }),
  counted: ({ id }) => message("of-part", { part: id }),
  matches: ({ id }, worn) => worn.part.id === id,
};
