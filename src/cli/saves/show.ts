import { MantleError } from "../../core/base/problem.ts";
import { readSave } from "../../core/save/saves.ts";
import { problemData, problemLines } from "../output.ts";
import type { SavesAction } from "./action.ts";
import { generationsOf } from "./generations.ts";
import { kindOf } from "./list.ts";

/** One save: its generations, and what the newest one that can be used holds. */
export const showAction: SavesAction = {
  name: "show",
  takes: "<key>",
  does: "show the generations of a save, and what it holds",
  async run({ store, place, subject: key, migrations, colors }) {
    if (key === undefined)
      throw new MantleError("bad-call", "Name the key of a save: mantle saves out/saves show profile");
    const generations = await generationsOf(store, key, migrations);
    if (generations.length === 0)
      throw new MantleError(
        "unreadable-file",
        `There is no save "${key}" in ${place}. Ask mantle saves ${place} what there is.`,
      );
    const { content, problems } = await readSave(store, key, kindOf(key), { migrations });
    return {
      lines: [
        ...generations.map(({ revision, says }) => `${String(revision).padStart(6)}  ${says}`),
        ...problemLines(problems, colors),
        ...(content === undefined ? [] : JSON.stringify(content, null, 2).split("\n")),
      ],
      data: { key, generations, content: content ?? null, problems: problemData(problems) },
      exitCode: problems.length > 0 ? 1 : 0,
    };
  },
};
