import { EventQueue } from "../base/event-queue.ts";
import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import { addToBag } from "../character/bag/bag.ts";
import { isGear } from "../character/bag/is-gear.ts";
import { type Changes, changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import type { Edit, EditResult, LoadoutProblem } from "../character/edit.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import type { Option } from "../loadout/options-for.ts";
import { requireSolver } from "../loadout/require-solver.ts";
import type { RollKeep, SolvingContext } from "../loadout/solver.ts";
import { type Drafts, draftEdit } from "./draft-edit.ts";
import { type FittingCalls, fittingCalls } from "./fitting-calls.ts";
import { History } from "./history.ts";
import { type KeptOptions, keptOptions } from "./kept-options.ts";
import { refuseFinish } from "./refuse-finish.ts";
import { returnUnowned } from "./return-unowned.ts";

/** How a fitting takes edits that would break a rule. */
export interface FittingOptions extends SolvingContext {
  /**
   * `"refuse"`: such an edit is not done. `"settle"`: it is done, with the fewest further edits that mend what it breaks; it needs a `solver`.
   * `"allow"`: it is done, and `finish` waits until nothing is broken.
   *
   * @defaultValue `"refuse"`
   */
  readonly drafts?: Drafts;
}

/** What happened in a fitting. */
export interface FittingChange {
  readonly kind: "edit" | "preview" | "undo" | "redo" | "revert" | "update" | "finish" | "cancel";
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

/** What changed outside of a fitting while it was open. */
export interface FittingUpdate extends SolvingContext {
  /** The catalog, where somebody works on it while the game runs. */
  readonly catalog?: Catalog;
  /** Parts that the character got, one of each: gear goes in the bag, and no undo gives it back. */
  readonly gained?: readonly string[];
}

/** An open editing of one character: try, look, undo, finish. */
export interface Fitting<Ids extends CatalogIds = CatalogIds> extends FittingCalls<Ids> {
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
  /**
   * Dresses at random, always validly; name and facts stay.
   *
   * @throws MantleError `no-solver` without a `solver`; `nothing-to-roll` or `gave-up`, as `rollCharacter` does.
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
   * Takes over what changed meanwhile: rights and purchases, signals, levels. What is not named stays as it was; edits, undone ones too, stay.
   *
   * @example
   * const bought = purchase(catalog, wren, "storm-hat", { holdings, balance })
   * if (bought.ok) fitting.update({ holdings: bought.holdings, gained: ["storm-hat"] })
   */
  update(change: FittingUpdate): void;
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
 * @throws MantleError `no-solver` for drafts that are settled, without a `solver`.
 * @example
 * const fitting = openFitting(catalog, wren, { holdings, drafts: "settle", solver })
 * fitting.wear("storm-hat")
 * fitting.undo()
 * const changed = fitting.finish()
 */
export function openFitting<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  original: Character,
  options: FittingOptions = {},
): Fitting<Ids> {
  const draft = new Draft(catalog, original, options);
  return Object.freeze<Fitting<Ids>>({
    get catalog() {
      return draft.catalog as Catalog<Ids>;
    },
    get context() {
      return draft.context;
    },
    get original() {
      return draft.history.original;
    },
    get character() {
      return draft.history.current;
    },
    get shown() {
      return draft.shown;
    },
    get problems() {
      return draft.problems();
    },
    get canUndo() {
      return draft.history.canUndo;
    },
    get canRedo() {
      return draft.history.canRedo;
    },
    ...fittingCalls<Ids>((edit) => draft.apply(edit)),
    apply: (edit) => draft.apply(edit),
    roll: (wanted) => draft.apply(draft.roll(wanted)),
    preview: (edit) => draft.preview(edit),
    options: (slot) => draft.options(slot),
    undo: () => draft.go("undo", (history) => history.undo()),
    redo: () => draft.go("redo", (history) => history.redo()),
    revert: () => draft.go("revert", (history) => history.add(history.original)),
    update: (change) => draft.update(change),
    finish: () => draft.finish(),
    cancel: () => draft.cancel(),
    on: (event, listener) => draft.queue.on(event, listener),
  });
}

/** The state of a fitting: the history of the character, what is shown of it, and what is known of the game and its player. */
class Draft {
  readonly history: History;
  readonly queue = new EventQueue<{ change: FittingChange }>();
  catalog: Catalog;
  shown: Character;
  readonly #drafts: Drafts;
  #circumstances: SolvingContext;
  #kept: KeptOptions;

  constructor(catalog: Catalog, original: Character, { drafts = "refuse", ...circumstances }: FittingOptions) {
    if (drafts === "settle") requireSolver(circumstances.solver, "A fitting that settles");
    this.catalog = catalog;
    this.history = new History(original);
    this.shown = original;
    this.#drafts = drafts;
    this.#circumstances = circumstances;
    this.#kept = keptOptions(catalog, circumstances);
  }

  get context(): FittingOptions {
    return { drafts: this.#drafts, ...this.#circumstances };
  }

  options(slot: string): readonly Option[] {
    return this.#kept.optionsIn(slot, this.history.current);
  }

  problems(): readonly LoadoutProblem[] {
    const found = checkLoadout(this.catalog, this.history.current, this.#circumstances);
    return found.filter(({ severity }) => severity === "error");
  }

  /** Goes to another state of the character, where there is one. */
  go(kind: FittingChange["kind"], change: (history: History) => boolean): void {
    const before = this.history.current;
    if (change(this.history)) this.#show(kind, before);
  }

  apply(edit: Edit): EditResult {
    const result = this.#attempt(edit);
    if (result.ok) this.go("edit", (history) => history.add(result.character));
    if (this.shown !== this.history.current) this.#show("preview", this.history.current);
    return result;
  }

  preview(edit?: Edit): EditResult {
    const { current } = this.history;
    const result: EditResult =
      edit === undefined ? { ok: true, character: current, displaced: [] } : this.#attempt(edit);
    if (result.character !== this.shown) this.#show("preview", current, result.character);
    return result;
  }

  /** The edit that dresses at random. */
  roll({ seed, keep = {}, weights = {} }: FittingRoll): Edit {
    const { solver, ...game } = this.#circumstances;
    const kept = { ...keep, character: this.history.current };
    const rolled = requireSolver(solver, "A roll").roll(this.catalog, { ...game, seed, weights, keep: kept });
    return { appearance: { body: rolled.body, loadout: rolled.loadout, colors: rolled.colors } };
  }

  update({ gained = [], catalog = this.catalog, ...change }: FittingUpdate): void {
    const before = this.history.current;
    this.catalog = catalog;
    this.#circumstances = { ...this.#circumstances, ...change };
    this.#kept = keptOptions(catalog, this.#circumstances);
    this.#gain(gained.filter((part) => isGear(catalog, part)));
    this.#show("update", before);
  }

  finish(): Character {
    refuseFinish(this.problems());
    this.#show("finish", this.history.current);
    return this.history.current;
  }

  cancel(): Character {
    this.go("cancel", (history) => history.reset());
    return this.history.original;
  }

  #attempt(edit: Edit): EditResult {
    return draftEdit(this.catalog, edit, this.history, this.#drafts, this.#circumstances);
  }

  /** Puts parts in the bag, in every state of the history. */
  #gain(parts: readonly string[]): void {
    if (parts.length === 0) return;
    const richer = (state: Character) => ({
      ...state,
      bag: parts.reduce((bag, part) => addToBag(this.catalog, bag, part), state.bag),
    });
    const owned = richer(this.history.original);
    // What was only tried on before it was bought is the one that was bought.
    this.history.amend((state) => returnUnowned(this.catalog, richer(state), owned));
  }

  /** Emits that the character was changed, or that another one is shown. */
  #show(kind: FittingChange["kind"], before: Character, drawn: Character = this.history.current): void {
    const { current } = this.history;
    const changes = changesBetween(before, current);
    this.shown = drawn;
    const options =
      kind === "update" ? [...this.catalog.slots.keys()] : this.#kept.staleSlots(before, current, changes);
    this.queue.emit("change", { kind, changes, options });
  }
}
