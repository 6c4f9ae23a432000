import { message } from "../../base/message.ts";
import type { JudgedKind } from "./kind.ts";

export const part: JudgedKind<"part"> = {
  message: ({ id }) => message("a-part", { part: id }),
  matches: ({ id }, worn) => worn.part.id === id,
};
