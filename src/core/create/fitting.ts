import { EventQueue } from "../base/event-queue.ts";
import type { Catalog, CatalogIds } from "../catalog/model/catalog.ts";
import { addToBag } from "../character/bag/bag.ts";
import { isGear } from "../character/bag/is-gear.ts";
import { type Changes, changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";
import type { Appearance, Edit, EditResult, LoadoutProblem } from "../character/edit.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import type { Option } from "../loadout/options-for.ts";
import { requireSolver } from "../loadout/require-solver.ts";
import type { RollKeep, SolvingContext } from "../loadout/solver.ts";
import { type Drafts, draftEdit } from "./draft-edit.ts";
import { History } from "./history.ts";
import { keptOptions } from "./kept-options.ts";
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
  applyAppearance(likeness: Appearance): EditResult;
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
  let known = catalog;
  const { drafts = "refuse", ...circumstances } = options;
  let context: SolvingContext = circumstances;
  if (drafts === "settle") requireSolver(context.solver, "A fitting that settles");
  const history = new History(original);
  const queue = new EventQueue<{ change: FittingChange }>();
  let kept = keptOptions(known, context);
  let shown = original;

  /** Emits that the character was changed, or that another one is shown. */
  const show = (kind: FittingChange["kind"], before: Character, drawn: Character = history.current) => {
    const changes = changesBetween(before, history.current);
    shown = drawn;
    queue.emit("change", {
      kind,
      changes,
      options: kind === "update" ? [...known.slots.keys()] : kept.staleSlots(before, history.current, changes),
    });
  };
  /** Goes to another state of the character, where there is one. */
  const go = (kind: FittingChange["kind"], isDone: () => boolean) => {
    const before = history.current;
    if (isDone()) show(kind, before);
  };
  const attempt = (edit: Edit) => draftEdit(known, edit, history, drafts, context);
  const apply = (edit: Edit): EditResult => {
    const result = attempt(edit);
    if (result.ok) go("edit", () => history.add(result.character));
    if (shown !== history.current) show("preview", history.current);
    return result;
  };
  const errors = () => checkLoadout(known, history.current, context).filter(({ severity }) => severity === "error");

  return Object.freeze<Fitting<Ids>>({
    get catalog() {
      return known;
    },
    get context() {
      return { drafts, ...context };
    },
    get original() {
      return history.original;
    },
    get character() {
      return history.current;
    },
    get shown() {
      return shown;
    },
    get problems() {
      return errors();
    },
    get canUndo() {
      return history.canUndo;
    },
    get canRedo() {
      return history.canRedo;
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
    applyAppearance: ({ body, loadout, colors }) =>
      apply({ appearance: { ...(body === undefined ? {} : { body }), loadout, colors } }),
    roll({ seed, keep = {}, weights = {} }) {
      const character = history.current;
      const { solver, ...game } = context;
      const rolled = requireSolver(solver, "A roll").roll(known, {
        ...game,
        seed,
        weights,
        keep: { ...keep, character },
      });
      return apply({ appearance: { body: rolled.body, loadout: rolled.loadout, colors: rolled.colors } });
    },
    apply,
    preview(edit) {
      const { current } = history;
      const result: EditResult = edit === undefined ? { ok: true, character: current, displaced: [] } : attempt(edit);
      if (result.character !== shown) show("preview", current, result.character);
      return result;
    },
    options: (slot) => kept.optionsIn(slot, history.current),
    undo: () => go("undo", () => history.undo()),
    redo: () => go("redo", () => history.redo()),
    revert: () => go("revert", () => history.add(history.original)),
    update({ gained = [], catalog: changed = known, ...change }) {
      const before = history.current;
      known = changed as Catalog<Ids>;
      context = { ...context, ...change };
      kept = keptOptions(known, context);
      const things = gained.filter((part) => isGear(known, part));
      const richer = (state: Character) => ({
        ...state,
        bag: things.reduce((bag, part) => addToBag(known, bag, part), state.bag),
      });
      const owned = richer(history.original);
      // What was only tried on before it was bought is the one that was bought.
      if (things.length > 0) history.amend((state) => returnUnowned(known, richer(state), owned));
      show("update", before);
    },
    finish() {
      refuseFinish(errors());
      show("finish", history.current);
      return history.current;
    },
    cancel() {
      go("cancel", () => history.reset());
      return history.original;
    },
    on: (event, listener) => queue.on(event, listener),
  });
}
