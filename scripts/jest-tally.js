/** Writes Jest's own counts to the file that `JEST_TALLY` names, for the last line of a CI run; and prints the seed of a long run. */
import { writeFileSync } from "node:fs";

export default class Tally {
  onRunComplete(_contexts, results) {
    if (process.env.MANTLE_SEED !== undefined)
      console.log(`\nThe seed of this run: MANTLE_SEED=${process.env.MANTLE_SEED}`);
    const file = process.env.JEST_TALLY;
    if (file === undefined) return;
    const failed = results.numFailedTests + results.numRuntimeErrorTestSuites;
    writeFileSync(file, `${results.numPassedTests} passed, ${failed} failed\n`);
  }
}
