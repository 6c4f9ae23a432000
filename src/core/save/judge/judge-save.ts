import { type Message, message } from "../../base/message.ts";
import type { Problem } from "../../base/problem.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import { decodeSave, encodeSave, removedKind, type SaveLocation } from "../seal.ts";
import { judgeCharacter } from "./judge-character.ts";
import type { JudgeContext } from "./judge-context.ts";

/** What came of judging a save from a stranger. */
export interface SaveJudgement {
  /** Whether it may be stored as it is. */
  readonly accepted: boolean;
  /** Who is in it; `undefined` in a profile, in a save that was removed, and where it is no character. */
  readonly character: Character | undefined;
  /** Everything that was found, up to a hundred findings. */
  readonly problems: readonly Problem<unknown>[];
}

/** The most letters of a profile: it has ids of characters and seats. */
const longestProfile = 32_000;

/**
 * Judges a generation of a save that a stranger sends, as `PUT save` of a server gets it: that its key is one that a session writes, that its seal is whole and of
 * this key and revision, and everything about the character in it (`judgeCharacter`). What it costs is bounded.
 *
 * @param key - `profile`, or `character-` and the id of the character.
 * @param text - as it was received.
 * @returns never throws, whatever the text is.
 * @example
 * const { accepted, problems } = judgeSave(catalog, "character-wren", 3, text, { holdings })
 */
export function judgeSave(
  catalog: Catalog,
  key: string,
  revision: number,
  text: string,
  context: JudgeContext = {},
): SaveJudgement {
  const id = key.startsWith("character-") ? key.slice("character-".length) : undefined;
  const refused = (
    code: "damaged-save" | "newer-save" | "other-save" | "misplaced-save",
    reason: Message,
  ): SaveJudgement => {
    const problem = {
      code,
      params: { revision, key, reason },
      severity: "error",
      place: { file: key, pointer: "" },
      fixes: [],
    } as const;
    return { accepted: false, character: undefined, problems: [problem] };
  };
  if (id === undefined && key !== "profile") return refused("misplaced-save", message("save-of-no-session"));
  if (id === undefined && text.length > longestProfile)
    return refused("damaged-save", message("text-too-long", { count: text.length, max: longestProfile }));
  const opened = decodeSave(text, id === undefined ? "profile" : "character");
  if (!opened.ok) return refused(opened.code, opened.reason);
  const { kind, content, address } = opened;
  // Equal content gives equal text: where it does not, something is hidden in it, or it belongs elsewhere.
  if (!isJust(address, { key, revision }) || text !== encodeSave(kind, content, { key, revision }))
    return refused(
      "misplaced-save",
      address === undefined ? message("save-not-here") : message("save-of-another", { ...address }),
    );
  if (kind === removedKind && content !== null) return refused("damaged-save", message("save-of-no-form"));
  if (kind === removedKind) return { accepted: true, character: undefined, problems: [] };
  if (id === undefined) return { accepted: true, character: undefined, problems: [] };
  const judged = judgeCharacter(catalog, JSON.stringify(content), context);
  if (judged.character !== undefined && judged.character.id !== id)
    return refused("misplaced-save", message("save-of-other-character", { id: judged.character.id }));
  return judged;
}

function isJust(address: SaveLocation | undefined, { key, revision }: SaveLocation): boolean {
  return address?.key === key && address.revision === revision;
}
