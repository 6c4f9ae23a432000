/**
 * Adds up what the tests of each room take, and prints it beside the room's budget at the end of a run, with what the whole run took beside what is
 * promised of it. A run of everything fails when a room takes half as long again as its budget, or an exception more than it may.
 */
import { readFileSync } from "node:fs";
import { relative, sep } from "node:path";
import { readSamples } from "./speed-sample.js";

/** Seconds of all files of a room together; seconds of a whole run; milliseconds of `sample` on the machine that these are for, while tests run. */
const {
  seconds: budget,
  exceptions,
  promise,
  sample: usual,
} = JSON.parse(readFileSync(new URL("test-budget.json", import.meta.url), "utf8"));

export default class Budget {
  #taken = new Map();
  #error;
  #config;

  constructor(config) {
    this.#config = config;
  }

  onTestResult({ path }, { perfStats }) {
    const [room, file] = relative(`${this.#config.rootDir}/tests`, path).split(sep);
    const name = file === undefined ? "docs" : room;
    this.#taken.set(name, (this.#taken.get(name) ?? 0) + (perfStats.end - perfStats.start) / 1000);
  }

  onRunComplete(_contexts, { wasInterrupted, startTime }) {
    const { testNamePattern, testPathPatterns } = this.#config;
    const isPart = testNamePattern || testPathPatterns.patterns.length > 0;
    if (isPart || wasInterrupted || process.env.MANTLE_LONG === "1") return;
    // On a machine that is slower, or busy with something else, everything may take longer by as much.
    const samples = readSamples();
    const slowness = Math.max(1, mean(samples) / usual);
    const over = [];
    console.log(
      `\nroom      taken   budget (this machine is ${slowness.toFixed(2)} times as slow as that of the budget, ${mean(samples).toFixed(1)} ms a sample)`,
    );
    for (const [room, seconds] of Object.entries(budget)) {
      const taken = (this.#taken.get(room) ?? 0) / slowness;
      const { atMost = 1.5 * seconds, until } = exceptions[room] ?? {};
      if (taken > atMost) over.push(room);
      const excuse = until === undefined ? "" : `, excused up to ${atMost} s until ${until}`;
      const mark = taken > atMost ? "  over what it may take" : taken > seconds ? `  over${excuse}` : "";
      console.log(`${room.padEnd(8)} ${taken.toFixed(0).padStart(4)} s  ${String(seconds).padStart(5)} s${mark}`);
    }
    const whole = (Date.now() - startTime) / 1000;
    console.log(
      `the run  ${whole.toFixed(0).padStart(4)} s  ${String(promise).padStart(5)} s${whole > promise ? "  over what is promised" : ""}`,
    );
    const unknown = [...this.#taken.keys()].filter((room) => budget[room] === undefined);
    if (unknown.length > 0) this.#error = new Error(`Give ${unknown.join(", ")} a budget in scripts/test-budget.json.`);
    if (over.length > 0) this.#error = new Error(`The tests of ${over.join(", ")} take too long.`);
  }

  getLastError() {
    return this.#error;
  }
}

/** The mean, not the median: a machine that others share is taken away for a while now and then. */
function mean(numbers) {
  return numbers.reduce((sum, number) => sum + number, 0) / numbers.length;
}
