import { readCharacter } from "../character/read-character.ts";
import { type MergeConflict, mergeCharacters } from "../save/merge/merge-characters.ts";
import type { ReceivedSave } from "../save/synced/sync-events.ts";
import { idIn } from "./profile.ts";
import type { Session } from "./session.ts";

/**
 * Puts into a session what its store received from another device. What was changed in the session and is not stored yet is kept: it is
 * merged with what came in, and stored with the next flush.
 *
 * @returns what was changed in both, each in another way, and was decided for the session; empty when nothing had to be decided.
 * @example
 * store.on("received", (save) => receiveSave(session, save))
 */
export function receiveSave(session: Session, save: ReceivedSave): readonly MergeConflict[] {
  const id = idIn(save.key);
  const mine =
    id === undefined ? undefined : [...session.characters, ...session.retired].find((each) => each.id === id);
  const isUnsaved = mine !== undefined && session.isUnsaved(mine.id);
  const theirs = readCharacter(save.content).character;
  const base = readCharacter(save.before).character;
  const meets = isUnsaved ? mine : undefined;
  if (meets !== undefined && save.content === undefined) {
    // What the player goes on changing here, after it was removed elsewhere, is stored again.
    session.adopt({ ...save, content: { ...meets } });
    session.replace(meets);
    return [];
  }
  // What cannot be compared is not replaced: the next flush is refused with `changed-elsewhere`.
  if (meets !== undefined && (theirs === undefined || base === undefined)) return [];
  let conflicts: readonly MergeConflict[] = [];
  session.together(() => {
    session.adopt(save);
    if (meets === undefined || theirs === undefined || base === undefined) return;
    const merge = mergeCharacters(session.catalog, { base, mine: meets, theirs }, { prefer: "mine" });
    session.replace(merge.character);
    conflicts = merge.conflicts;
  });
  return conflicts;
}
