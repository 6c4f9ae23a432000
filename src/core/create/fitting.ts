import type { Catalog } from "../catalog/catalog.ts";
import { applyEdit } from "../character/apply-edit.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, EditResult, LoadoutProblem } from "../character/edit.ts";
import { overfull } from "../character/overfull.ts";
import { refuse } from "../character/refuse.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import { type Option, optionsFor } from "../loadout/options-for.ts";
import { MantleError } from "../problem.ts";
import { returnUnowned } from "./return-unowned.ts";

/** An open editing of one character: try, look, undo, finish. */
export interface Fitting {
  /** The character as edited so far. */
  readonly character: Character;
  /** What stands in the way of finishing. */
  readonly problems: readonly LoadoutProblem[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  wear(part: string, where?: { readonly in: string }): EditResult;
  remove(slot: string): EditResult;
  cycle(slot: string, step: 1 | -1): EditResult;
  paint(channel: string, ramp: string): EditResult;
  dress(outfit: string): EditResult;
  changeBody(body: string): EditResult;
  /** Changes the body to the one it grows into. */
  grow(): EditResult;
  rename(name: string): EditResult;
  /** Does any edit; the calls above are short for it. */
  apply(edit: Edit): EditResult;
  /** What would happen if each part of a slot were put on now. */
  options(slot: string): readonly Option[];
  /** Goes back one edit; does nothing at the start. */
  undo(): void;
  /** Does again the edit that was undone last; does nothing when there is none. */
  redo(): void;
  /**
   * The finished character.
   *
   * @throws MantleError `unfinished` while errors stand in the way.
   */
  finish(): Character;
  /** Calls back after each change. Returns what stops it. */
  subscribe(listener: (character: Character) => void): () => void;
}

/**
 * Opens a character for editing. The character given stays as it is; `finish` hands out the edited one.
 *
 * With the wardrobe open, gear that is only tried on goes back to the wardrobe when it is taken off; gear the player owned when
 * the fitting was opened always goes to the bag.
 *
 * @example
 * const fitting = openFitting(catalog, wren)
 * fitting.wear("storm-hat")
 * fitting.undo()
 * const changed = fitting.finish()
 */
export function openFitting(catalog: Catalog, original: Character, context: Context = {}): Fitting {
  const past: Character[] = [];
  const future: Character[] = [];
  const listeners = new Set<(character: Character) => void>();
  let current = original;

  const show = (character: Character) => {
    current = character;
    for (const listener of listeners) listener(character);
  };
  // What was only tried on leaves the bag again, so how full the bag is can be judged only after that.
  const { bagPlaces: _, ...unlimited } = context;
  const apply = (edit: Edit): EditResult => {
    const result = applyEdit(catalog, current, edit, unlimited);
    if (!result.ok || result.character === current) return result;
    const kept = returnUnowned(catalog, result.character, original);
    const problems = overfull({ catalog, context }, current, kept, context);
    if (problems.length > 0) return refuse(current, ...problems);
    past.push(current);
    future.length = 0;
    show(kept);
    return { ...result, character: current };
  };
  const step = (from: Character[], to: Character[]) => {
    const next = from.pop();
    if (next === undefined) return;
    to.push(current);
    show(next);
  };

  return {
    get character() {
      return current;
    },
    get problems() {
      return checkLoadout(catalog, current, context).filter(({ severity }) => severity === "error");
    },
    get canUndo() {
      return past.length > 0;
    },
    get canRedo() {
      return future.length > 0;
    },
    wear: (part, where) => apply({ wear: part, ...where }),
    remove: (slot) => apply({ remove: slot }),
    cycle: (slot, by) => apply({ cycle: slot, step: by }),
    paint: (channel, ramp) => apply({ paint: channel, ramp }),
    dress: (outfit) => apply({ dress: outfit }),
    changeBody: (body) => apply({ body }),
    grow: () => apply({ grow: true }),
    rename: (name) => apply({ rename: name }),
    apply,
    options: (slot) => optionsFor(catalog, current, slot, context),
    undo: () => step(past, future),
    redo: () => step(future, past),
    finish() {
      const problems = checkLoadout(catalog, current, context).filter(({ severity }) => severity === "error");
      if (problems.length === 0) return current;
      throw new MantleError(
        "unfinished",
        `The character cannot be finished. ${problems.map(({ because }) => because).join(" ")}`,
        problems,
      );
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}
