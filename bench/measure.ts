/** One comparison: our way of doing some work, and what a developer would otherwise use. */
export interface Row {
  readonly name: string;
  /** What is done, in a line. */
  readonly work: string;
  /** What ours is compared with. */
  readonly against: string;
  readonly unit: string;
  readonly goal: Goal;
  /** Measures both side by side. Throws when the two do not come to the same. */
  measure(): Promise<Pair>;
}

/** `atLeast`: theirs takes so many times as long as ours. `atMost`: ours takes at most so many times as long as theirs. */
export type Goal = { readonly atLeast: number } | { readonly atMost: number };

/** Medians, in the unit of the row. */
export interface Pair {
  readonly ours: number;
  readonly theirs: number;
  /** What no way can do without, where that can be measured. */
  readonly limit?: Limit;
  /** How many times as long theirs took in each turn, where both were measured in turns. */
  readonly turns?: readonly number[];
}

/** The least there is to do, and how long it takes alone. */
export interface Limit {
  readonly what: string;
  readonly takes: number;
}

/** Some work, and how often it is done for one sample, so that a sample is long against the clock's grain. */
export interface Work {
  readonly run: () => unknown;
  readonly times: number;
}

/**
 * Measures two ways in turn, sample by sample, so that whatever else the machine does meets both alike.
 *
 * @returns the median of each, in milliseconds for one run.
 */
export async function sideBySide(ours: Work, theirs: Work, samples = 31): Promise<Pair> {
  const taken: { ours: number[]; theirs: number[] } = { ours: [], theirs: [] };
  await sample(ours);
  await sample(theirs);
  for (let turn = 0; turn < samples; turn += 1) {
    taken.ours.push(await sample(ours));
    taken.theirs.push(await sample(theirs));
  }
  const turns = taken.ours.map((each, turn) => (taken.theirs[turn] ?? each) / each);
  return { ours: median(taken.ours), theirs: median(taken.theirs), turns };
}

async function sample({ run, times }: Work): Promise<number> {
  const start = performance.now();
  for (let turn = 0; turn < times; turn += 1) {
    const result = run();
    if (result instanceof Promise) await result;
  }
  return (performance.now() - start) / times;
}

/** The one in the middle. */
export function median(samples: readonly number[]): number {
  return samples.toSorted((one, other) => one - other)[Math.floor(samples.length / 2)] ?? 0;
}

/** Stops a row whose two ways do not come to the same. */
export function agree(holds: boolean, what: string): void {
  if (!holds) throw new Error(`The two ways do not agree: ${what}`);
}
