import type { Problem } from "zealous-mantle";

/** What the server answers instead of doing what it was asked for. */
export class Refusal extends Error {
  readonly status: number;
  readonly code: string;
  readonly problems: readonly Problem<unknown>[];
  /** The revision that is stored, where that is why. */
  readonly revision: number | undefined;

  constructor(
    status: number,
    code: string,
    { problems = [], revision }: { readonly problems?: readonly Problem<unknown>[]; readonly revision?: number } = {},
  ) {
    super(code);
    this.status = status;
    this.code = code;
    this.problems = problems;
    this.revision = revision;
  }
}
