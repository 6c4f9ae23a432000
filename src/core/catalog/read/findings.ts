import { limits } from "../../base/limits.ts";
import type { FixCode, ParamsOf, ProblemCode } from "../../base/message.ts";
import { nearestId } from "../../base/nearest-id.ts";
import { type Fix, type Place, type Problem, pointerTo, type Severity } from "../../base/problem.ts";
import type { Entry } from "./source.ts";

/** The ids that would be right in some place. */
export type Known = Pick<ReadonlySet<string>, "has" | "keys">;

/** Findings that always have the same advice. */
export type Advised = { [Code in ProblemCode]: `mend-${Code}` extends FixCode ? Code : never }[ProblemCode];

/** What a finding and its advice speak of; left out where that is nothing in particular. */
export type Spoken<Code extends Advised> = ParamsOf<Code> & ParamsOf<`mend-${Code}` & FixCode>;
export type GivenTo<Code extends Advised> = [keyof Spoken<Code>] extends [never]
  ? [params?: Spoken<Code>]
  : [params: Spoken<Code>];

/** What can be unknown. */
export type IdNoun = {
  [Code in ProblemCode]: Code extends `unknown-${infer Kind}`
    ? "id" extends keyof ParamsOf<Code>
      ? Kind
      : never
    : never;
}[ProblemCode];

/** Collects problems that belong to one entry: a hundred errors and a hundred warnings, and the number of the others. */
export class Findings {
  readonly problems: Problem[] = [];
  /** How many there are besides. */
  more = 0;
  readonly #counts = { error: 0, warning: 0 };

  report<Code extends Advised>(
    entry: Entry<unknown>,
    keys: readonly (string | number)[],
    code: Code,
    ...[params]: GivenTo<Code>
  ): void {
    this.#add(entry, keys, code, "error", params ?? {}, adviceOn(code, params));
  }

  warn<Code extends Advised>(
    entry: Entry<unknown>,
    keys: readonly (string | number)[],
    code: Code,
    ...[params]: GivenTo<Code>
  ): void {
    this.#add(entry, keys, code, "warning", params ?? {}, adviceOn(code, params));
  }

  /** Reports an id that nothing defines, with the nearest that is defined. */
  known(entry: Entry<unknown>, keys: readonly (string | number)[], noun: IdNoun, id: string, all: Known): boolean {
    if (all.has(id)) return true;
    if (this.#counts.error >= limits.findings) {
      this.more += 1;
      return false;
    }
    const meant = nearestId(id, [...all.keys()]);
    const fix: Fix =
      meant === undefined ? { code: "define-id", params: { id } } : { code: "meant-id", params: { meant } };
    this.#add(entry, keys, `unknown-${noun}`, "error", { id }, [fix]);
    return false;
  }

  #add(
    entry: Entry<unknown>,
    keys: readonly (string | number)[],
    code: ProblemCode,
    severity: Severity,
    params: Problem["params"],
    fixes: Problem["fixes"],
  ): void {
    if (this.#counts[severity] >= limits.findings) {
      this.more += 1;
      return;
    }
    this.#counts[severity] += 1;
    const place = placeIn(entry, keys);
    this.problems.push({ code, params, severity, place, fixes });
  }
}

/** Where an entry says something: in the last pack that changed it, or else where it stands. */
export function placeIn(entry: Entry<unknown>, keys: readonly (string | number)[]): Place {
  for (const { value, file, pointer } of entry.changes?.toReversed() ?? []) {
    const [first] = keys;
    if (first !== undefined && typeof value === "object" && value !== null && Object.hasOwn(value, first))
      return { file, pointer: pointer + pointerTo(...keys) };
  }
  return { file: entry.file, pointer: entry.pointer + pointerTo(...keys) };
}

/** The advice that goes with a finding. */
export function adviceOn<Code extends Advised>(code: Code, params: Problem["params"] = {}): readonly Fix[] {
  return [{ code: `mend-${code}` as FixCode, params }];
}
