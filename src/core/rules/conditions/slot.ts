import { message } from "../../base/message.ts";
import type { JudgedKind } from "./kind.ts";

export const slot: JudgedKind<"slot"> = {
  message: ({ id }) => message("a-slot", { slot: id }),
  absent: ({ id }) => message("no-slot", { slot: id }),
  counted: ({ id }) => message("of-slot", { slot: id }),
  matches: ({ id }, worn) => worn.slot === id || worn.part.occupies.includes(id),
};
