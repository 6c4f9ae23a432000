import { type Problem, pointerTo } from "../problem.ts";
import type { Entry } from "./source.ts";
import { suggest } from "./suggest.ts";

/** The ids that would be right in some place. */
export type Known = Pick<ReadonlySet<string>, "has" | "keys">;

/** Collects problems that belong to one entry. */
export class Findings {
  readonly problems: Problem[] = [];

  report(entry: Entry<unknown>, keys: readonly (string | number)[], code: string, because: string, say: string): void {
    this.#add(entry, keys, code, "error", because, [{ say }]);
  }

  warn(entry: Entry<unknown>, keys: readonly (string | number)[], code: string, because: string, say: string): void {
    this.#add(entry, keys, code, "warning", because, [{ say }]);
  }

  /** Reports an id that nothing defines, with the nearest that is defined. */
  known(entry: Entry<unknown>, keys: readonly (string | number)[], noun: string, id: string, all: Known): boolean {
    if (all.has(id)) return true;
    const fixes = suggest(
      id,
      [...all.keys()],
      (meant) => `Write "${meant}" if that is meant.`,
      `Define ${noun} "${id}", or name one that exists.`,
    );
    this.#add(entry, keys, `unknown-${noun}`, "error", `There is no ${noun} "${id}".`, fixes);
    return false;
  }

  #add(
    entry: Entry<unknown>,
    keys: readonly (string | number)[],
    code: string,
    severity: "error" | "warning",
    because: string,
    fixes: Problem["fixes"],
  ): void {
    this.problems.push({
      code,
      severity,
      place: { file: entry.file, pointer: entry.pointer + pointerTo(...keys) },
      because,
      fixes,
    });
  }
}
