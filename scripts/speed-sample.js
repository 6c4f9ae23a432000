/**
 * How fast the machine is while tests run: each test file measures it in its own process before its tests, so that whatever slows them down slows the
 * sample down, too.
 */
import { appendFileSync, existsSync, readFileSync } from "node:fs";
import { join } from "node:path";

/** What a sample works on: as tests do, it makes many small objects and looks through memory. */
const things = Array.from({ length: 4_000 }, (_, at) => ({
  id: `thing-${at}`,
  at,
  list: [at, at + 1],
  text: "a thing",
}));

/** Measures a fixed piece of work, for `readSamples`. */
export function takeSample() {
  const run = process.env.MANTLE_TEST_RUN;
  if (run === undefined) return;
  const began = performance.now();
  const copies = JSON.parse(JSON.stringify(things));
  const byName = new Map(copies.map((thing) => [thing.id, thing]));
  copies.sort((one, other) => (one.id < other.id ? -1 : 1));
  if (byName.size !== copies.length) throw new Error("Things are lost.");
  appendFileSync(join(run, "samples"), `${performance.now() - began}\n`);
}

/** What was measured in this run of the tests, in milliseconds. */
export function readSamples() {
  const file = join(process.env.MANTLE_TEST_RUN ?? "", "samples");
  if (!existsSync(file)) throw new Error("No test file measured the speed of the machine.");
  return readFileSync(file, "utf8").trim().split("\n").map(Number);
}
