import { message } from "../../base/message.ts";
import type { JudgedKind } from "./kind.ts";

export const outfit: JudgedKind<"outfit"> = {
  message: ({ id }) => message("an-outfit", { outfit: id }),
  absent: ({ id }) => message("no-outfit", { outfit: id }),
};
