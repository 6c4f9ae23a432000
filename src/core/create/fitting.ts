import { EventQueue } from "../base/event-queue.ts";
import { codesOf, MantleError } from "../base/problem.ts";
import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import { overfull } from "../character/bag/overfull.ts";
import { type Changes, changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, EditResult, Likeness, LoadoutProblem } from "../character/edit.ts";
import { refuse } from "../character/refuse.ts";
import { applyEdit, attemptEdit } from "../edits/apply-edit.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import type { Option } from "../loadout/options-for.ts";
import { type RollKeep, rollCharacter } from "../loadout/roll-character.ts";
import { keptOptions } from "./kept-options.ts";
import { returnUnowned } from "./return-unowned.ts";
import { settle } from "./settle.ts";

/** How a fitting takes edits that would break a rule. */
export interface FittingOptions extends Context {
  /**
   * `"refuse"`: such an edit is not done. `"settle"`: it is done, with the fewest further edits that mend what it breaks.
   * `"allow"`: it is done, and `finish` waits until nothing is broken.
   *
   * @defaultValue `"refuse"`
   */
  readonly drafts?: "refuse" | "settle" | "allow";
}

/** What happened in a fitting. */
export interface FittingChange {
  readonly kind: "edit" | "preview" | "undo" | "redo" | "revert" | "finish" | "cancel";
  /** What of the character changed. Empty for a preview, which changes nothing. */
  readonly changes: Changes;
  /** Slots of which the options may be others than before. */
  readonly options: readonly string[];
}

/** What a roll leaves as it is, and which parts it prefers. */
export interface FittingRoll<Ids extends CatalogIds = CatalogIds> {
  /** A whole number; the same seed gives the same to the same character. */
  readonly seed: number;
  readonly keep?: Omit<RollKeep<Ids>, "character">;
  /** How many times as likely parts of a rarity are. */
  readonly weights?: Readonly<Record<string, number>>;
}

/** An open editing of one character: try, look, undo, finish. */
export interface Fitting<Ids extends CatalogIds = CatalogIds> {
  readonly catalog: Catalog<Ids>;
  readonly context: FittingOptions;
  /** The character as edited so far. */
  readonly character: Character;
  /** What is to be drawn: the preview while there is one, else the character. */
  readonly shown: Character;
  /** The character as it was when the fitting was opened. */
  readonly original: Character;
  /** What stands in the way of finishing. */
  readonly problems: readonly LoadoutProblem[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  wear(part: Ids["part"], where?: { readonly in: Ids["slot"] }): EditResult;
  remove(slot: Ids["slot"]): EditResult;
  cycle(slot: Ids["slot"], step: 1 | -1): EditResult;
  paint(channel: Ids["channel"], ramp: Ids["ramp"] | `#${string}`): EditResult;
  dress(outfit: Ids["outfit"]): EditResult;
  changeBody(body: Ids["body"]): EditResult;
  /** Changes the body to the one it grows into. */
  grow(): EditResult;
  rename(name: string): EditResult;
  /** Becomes what a preset of the catalog shows. */
  preset(id: Ids["preset"]): EditResult;
  /** Takes the looks of someone: another character, or a look that came with a code. */
  resemble(likeness: Likeness): EditResult;
  /**
   * Dresses at random, always validly; name and facts stay.
   *
   * @throws MantleError `nothing-to-roll` or `gave-up`, as `rollCharacter` does.
   */
  roll(options: FittingRoll<Ids>): EditResult;
  /** Does any edit; the calls above are short for it. */
  apply(edit: Edit<Ids>): EditResult;
  /** Shows what an edit would come to, and changes nothing. Without an edit, shows the character again. */
  preview(edit?: Edit<Ids>): EditResult;
  /** What would happen if each part of a slot were put on now. The same list until a change can make a difference to it. */
  options(slot: Ids["slot"]): readonly Option[];
  /** Goes back one edit; does nothing at the start. */
  undo(): void;
  /** Does again the edit that was undone last; does nothing when there is none. */
  redo(): void;
  /** Goes back to where the fitting began, as one edit that can be undone. */
  revert(): void;
  /**
   * The finished character.
   *
   * @throws MantleError `unfinished` while errors stand in the way.
   */
  finish(): Character;
  /** Gives everything up: the character as it was when the fitting was opened, and no way back. */
  cancel(): Character;
  /** Calls a listener after each change, with exactly what changed. Returns what ends that. */
  on(event: "change", listener: (change: FittingChange) => void): () => void;
}

/**
 * Opens a character for editing. The character given stays as it is; `finish` hands out the edited one.
 *
 * With the wardrobe open, gear that is only tried on goes back to the wardrobe when it is taken off; gear the player owned when
 * the fitting was opened always goes to the bag.
 *
 * @example
 * const fitting = openFitting(catalog, wren, { holdings, drafts: "settle" })
 * fitting.wear("storm-hat")
 * fitting.undo()
 * const changed = fitting.finish()
 */
export function openFitting<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  original: Character,
  options: FittingOptions = {},
): Fitting<Ids> {
  const { drafts = "refuse", ...context } = options;
  const past: Character[] = [];
  const future: Character[] = [];
  const queue = new EventQueue<{ change: FittingChange }>();
  const kept = keptOptions(catalog, context);
  let current = original;
  let shown = original;

  const show = (kind: FittingChange["kind"], next: Character, drawn: Character = next) => {
    const changes = changesBetween(current, next);
    const stale = kept.staleSlots(current, next, changes);
    current = next;
    shown = drawn;
    queue.emit("change", { kind, changes, options: stale });
  };

  // What was only tried on leaves the bag again, so how full the bag is can be judged only after that.
  const { bagPlaces: _, ...unlimited } = context;
  const move = (edit: Edit): EditResult => {
    if (drafts === "allow") return attemptEdit(catalog, current, edit, unlimited);
    if (drafts === "settle") return settle(catalog, current, edit, unlimited, recentSlots(past, current));
    return applyEdit(catalog, current, edit, unlimited);
  };
  const tryEdit = (edit: Edit): EditResult => {
    const result = move(edit);
    if (!result.ok || result.character === current) return result;
    const character = returnUnowned(catalog, result.character, original);
    const problems = overfull(current, character, context);
    return problems.length > 0 ? refuse(current, ...problems) : { ...result, character };
  };
  const advance = (kind: "edit" | "revert", next: Character) => {
    if (next === current) return;
    past.push(current);
    future.length = 0;
    show(kind, next);
  };
  const apply = (edit: Edit): EditResult => {
    const result = tryEdit(edit);
    if (result.ok) advance("edit", result.character);
    if (shown !== current) show("preview", current);
    return result;
  };
  const step = (kind: "undo" | "redo", from: Character[], to: Character[]) => {
    const next = from.pop();
    if (next === undefined) return;
    to.push(current);
    show(kind, next);
  };
  const errors = () => checkLoadout(catalog, current, context).filter(({ severity }) => severity === "error");

  return {
    catalog,
    context: options,
    original,
    get character() {
      return current;
    },
    get shown() {
      return shown;
    },
    get problems() {
      return errors();
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
    preset: (id) => apply({ preset: id }),
    resemble: ({ body, loadout, colors }) =>
      apply({ resemble: { ...(body === undefined ? {} : { body }), loadout, colors } }),
    roll({ seed, keep = {}, weights = {} }) {
      const rolled = rollCharacter(catalog, { ...context, seed, weights, keep: { ...keep, character: current } });
      return apply({ resemble: { body: rolled.body, loadout: rolled.loadout, colors: rolled.colors } });
    },
    apply,
    preview(edit) {
      const result: EditResult = edit === undefined ? { ok: true, character: current, displaced: [] } : tryEdit(edit);
      if (result.character !== shown) show("preview", current, result.character);
      return result;
    },
    options: (slot) => kept.optionsIn(slot, current),
    undo: () => step("undo", past, future),
    redo: () => step("redo", future, past),
    revert: () => advance("revert", original),
    finish() {
      const problems = errors();
      if (problems.length > 0) {
        const reasons = codesOf(problems);
        throw new MantleError("unfinished", `The character cannot be finished. ${reasons}`, problems);
      }
      show("finish", current);
      return current;
    },
    cancel() {
      past.length = 0;
      future.length = 0;
      show("cancel", original);
      return original;
    },
    on: (event, listener) => queue.on(event, listener),
  };
}

/** The slots that were changed by earlier edits, the last change last. */
function recentSlots(past: readonly Character[], current: Character): readonly string[] {
  return past.flatMap((before, at) => changesBetween(before, past[at + 1] ?? current).slots);
}
