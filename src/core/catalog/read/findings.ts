import { limits } from "../../base/limits.ts";
import { type Problem, pointerTo } from "../../base/problem.ts";
import { suggest } from "../../base/suggest.ts";
import type { Entry } from "./source.ts";

/** The ids that would be right in some place. */
export type Known = Pick<ReadonlySet<string>, "has" | "keys">;

/** Collects problems that belong to one entry: a hundred errors and a hundred warnings, and the number of the others. */
export class Findings {
  readonly problems: Problem[] = [];
  /** How many there are besides. */
  more = 0;
  readonly #counts = { error: 0, warning: 0 };

  report(entry: Entry<unknown>, keys: readonly (string | number)[], code: string, because: string, say: string): void {
    this.#add(entry, keys, code, "error", because, [{ say }]);
  }

  warn(entry: Entry<unknown>, keys: readonly (string | number)[], code: string, because: string, say: string): void {
    this.#add(entry, keys, code, "warning", because, [{ say }]);
  }

  /** Reports an id that nothing defines, with the nearest that is defined. */
  known(entry: Entry<unknown>, keys: readonly (string | number)[], noun: string, id: string, all: Known): boolean {
    if (all.has(id)) return true;
    if (this.#counts.error >= limits.findings) {
      this.more += 1;
      return false;
    }
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
    if (this.#counts[severity] >= limits.findings) {
      this.more += 1;
      return;
    }
    this.#counts[severity] += 1;
    this.problems.push({
      code,
      severity,
      place: { file: entry.file, pointer: entry.pointer + pointerTo(...keys) },
      because,
      fixes,
    });
  }
}
