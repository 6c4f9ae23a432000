import { codesOf, MantleError } from "../base/problem.ts";
import type { Character } from "../character/character.ts";
import { readCharacter } from "../character/read-character.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import type { Seating } from "./seating.ts";
import type { Session } from "./session.ts";
import type { World } from "./world.ts";

interface RosterOptions {
  readonly seating: Seating;
  /** Puts a character in the roster, new or in the place of the one with its id. */
  readonly put: (character: Character) => void;
  /** Is called when the order of the roster, or who is retired, has changed. */
  readonly arranged: () => void;
  /** Is called when a character was taken away, so that its save is removed. */
  readonly removed: (id: string) => void;
}

type RosterEdits = Pick<Session, "add" | "replace" | "duplicate" | "edit" | "retire" | "restore" | "move" | "remove">;

/** What changes the roster of a session. */
export function editRoster(world: Readonly<World>, options: RosterOptions): RosterEdits {
  const { roster } = world;
  const { seating, put, arranged, removed } = options;
  /** Whoever leaves the roster loses its seat. */
  const leave = (id: string, change: () => void) => {
    seating.together(() => {
      for (const number of [...seating.seatsOf(id)]) seating.sit(number, undefined);
      change();
      arranged();
    });
  };
  return {
    add(character) {
      requireForm(character);
      if (roster.find(character.id) !== undefined)
        throw new MantleError(
          "character-exists",
          `The roster has a character "${character.id}" already. Give this one another id, or replace that one.`,
        );
      put(character);
    },
    replace(character) {
      requireForm(character);
      roster.get(character.id);
      put(character);
    },
    duplicate(id) {
      const copy = roster.copyOf(world.catalog, id);
      put(copy);
      return copy;
    },
    edit(id, edit) {
      const character = roster.get(id);
      const { catalog, context } = world;
      const names = { ...context.names, taken: [...(context.names?.taken ?? []), ...roster.namesBeside(id)] };
      const result = applyEdit(catalog, character, edit, { ...context, signals: seating.signals, names });
      if (result.ok && result.character !== character) put(result.character);
      return result;
    },
    retire(id) {
      roster.get(id);
      leave(id, () => roster.retire(id));
    },
    remove(id) {
      roster.get(id);
      leave(id, () => {
        roster.remove(id);
        removed(id);
      });
    },
    restore(id) {
      roster.restore(id);
      arranged();
    },
    move(id, place) {
      roster.move(id, place);
      arranged();
    },
  };
}

/** What is kept must be what the next opening reads. */
function requireForm(character: Character): void {
  const { problems } = readCharacter(character);
  const [first] = problems;
  if (first !== undefined)
    throw new MantleError("not-a-character", `This cannot be kept. ${codesOf([first])}`, problems);
}
