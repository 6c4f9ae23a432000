import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Signal } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import type { Look } from "../look/look.ts";
import { resolveLook } from "../look/resolve-look.ts";

type Signals = Readonly<Record<string, Signal>>;

/** What a session knows of a seat. */
export class SeatPlace {
  id: string | undefined;
  device: string | undefined;
  /** The device that was here last, and finds its seat again. */
  lastDevice: string | undefined;
  signals: Signals = {};
  /** The form a cue asked for. */
  form: string | undefined;
  /** The ramp that distinguishes it from seats of the same look, and its channel. */
  tint: { readonly channel: string; readonly ramp: string } | undefined;
  /** What was emitted last. */
  emittedLoadout: Character["loadout"] = {};
  emittedKey: string | undefined;
  emittedForm: string | undefined;
  emittedProblems = "";

  #look: Look | undefined;
  /** What the look was resolved from. */
  #from: readonly unknown[] = [];
  #problems: readonly LoadoutProblem[] = [];
  /** What the problems were found for. */
  #judged: readonly unknown[] = [];

  /** Seats somebody. What was emitted of the one before does not count for them. */
  sit(id: string | undefined): void {
    this.id = id;
    this.signals = {};
    this.form = undefined;
    this.tint = undefined;
    this.#look = undefined;
    this.#from = [];
  }

  /** How a character looks here. The same object until something it depends on changes, so that asking costs nothing. */
  lookOf(catalog: Catalog, character: Character, shared: Signals): Look {
    const from = this.#from;
    const isSame =
      from[0] === character &&
      from[1] === shared &&
      from[2] === this.signals &&
      from[3] === this.form &&
      from[4] === this.tint &&
      from[5] === catalog;
    if (this.#look !== undefined && isSame) return this.#look;
    const { tint, form, signals } = this;
    const painted =
      tint === undefined ? character : { ...character, colors: { ...character.colors, [tint.channel]: tint.ramp } };
    const next = resolveLook(catalog, painted, {
      signals: { ...shared, ...signals },
      before: this.#look?.activeForms ?? [],
      ...(form === undefined ? {} : { form }),
    });
    this.#from = [character, shared, signals, form, tint, catalog];
    // What shows nothing else stays the same object; of another catalog, pictures may be others.
    const isAlike =
      from[5] === catalog &&
      this.#look?.key === next.key &&
      this.#look.form === next.form &&
      this.#look.activeForms.join() === next.activeForms.join();
    if (!isAlike) this.#look = next;
    return this.#look ?? next;
  }

  /** What is wrong with a character here. The same list until something it depends on changes. */
  problemsOf(
    character: Character,
    shared: Signals,
    context: object,
    judge: (signals: Signals) => readonly LoadoutProblem[],
  ): readonly LoadoutProblem[] {
    const next = [character, shared, context, this.signals];
    if (next.every((each, at) => each === this.#judged[at])) return this.#problems;
    this.#judged = next;
    this.#problems = judge({ ...shared, ...this.signals });
    return this.#problems;
  }
}
