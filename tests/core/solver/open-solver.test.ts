import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "@jest/globals";
import { createCharacter } from "zealous-mantle";
import {
  countLoadouts,
  openSolver,
  repairLoadout,
  rollCharacter,
  solver,
  type WorkerSolver,
} from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { smallCatalog } from "../../small-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const broken = { ...wren, loadout: { chain: "watch-chain", hat: "storm-hat", neck: "hood-up" } };
const situation = { catalog: demo, character: broken, context: {} };

/** Counting all of the demo takes seconds; so there is time to end it. */
const long = { body: "reed", budget: 1e9 };

let folder = "";
let script = "";
let started = 0;
const open: WorkerSolver[] = [];

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-solver-"));
  script = join(folder, "worker.mjs");
  const entry = JSON.stringify(join(process.cwd(), "dist/js/solver.js"));
  await writeFile(
    script,
    `import { serveSolver } from ${entry}; import { parentPort } from "node:worker_threads"; serveSolver(parentPort);`,
  );
});

afterEach(() => {
  for (const each of open.splice(0)) each.close();
});

afterAll(() => rm(folder, { recursive: true }));

function inWorker(file = script): WorkerSolver {
  started = 0;
  const opened = openSolver({
    worker: () => {
      started += 1;
      return new Worker(file);
    },
  });
  open.push(opened);
  return opened;
}

describe("the search in a worker", () => {
  test("answers as the search does here", async () => {
    const away = inWorker();
    const answers = await Promise.all([
      away.repair(situation),
      away.complete(situation),
      away.editsToWear(situation, "storm-hat", "hat"),
      away.roll(demo, { seed: 7 }),
      away.count(smallCatalog({}), { body: "plain" }),
    ]);
    expect(answers).toEqual([
      solver.repair(situation),
      solver.complete(situation),
      solver.editsToWear(situation, "storm-hat", "hat"),
      rollCharacter(demo, { seed: 7 }),
      countLoadouts(smallCatalog({}), { body: "plain" }),
    ]);
    expect(started).toBe(1);
  });

  test("sends its progress, and takes the context of a fitting", async () => {
    const reports: unknown[] = [];
    // As a fitting has it.
    const context = { names: { check: () => undefined }, solver, drafts: "settle" };
    const report = (state: unknown) => reports.push(state);
    const repair = await inWorker().repair({ ...situation, context }, { report });
    const here: unknown[] = [];
    expect(repair).toEqual(repairLoadout(demo, broken, { report: (state) => here.push(state) }));
    expect([reports.length > 0, reports]).toEqual([true, here]);
  });

  test("rejects as the search throws", async () => {
    const nobody = { ...situation, character: { ...broken, body: "heron" } };
    await expect(inWorker().repair(nobody)).rejects.toMatchObject({ name: "MantleError", code: "unknown-body" });
    const kept = { character: { ...wren, loadout: broken.loadout }, slots: ["chain", "vest", "hat", "neck"] };
    await expect(inWorker().roll(demo, { seed: 1, keep: kept })).rejects.toMatchObject({ code: "nothing-to-roll" });
  });

  test("ends at once when it is aborted, and answers what others asked", async () => {
    const away = inWorker();
    const controller = new AbortController();
    let isUnderWay = () => {};
    const underWay = new Promise<void>((done) => {
      isUnderWay = done;
    });
    const counting = away.count(demo, { ...long, signal: controller.signal, onProgress: () => isUnderWay() });
    const waiting = away.repair(situation);
    await underWay;
    controller.abort(new Error("left the page"));
    await expect(counting).rejects.toThrow("left the page");
    await expect(waiting).resolves.toEqual(solver.repair(situation));
    expect(started).toBe(2);
    await expect(away.repair(situation, { signal: controller.signal })).rejects.toThrow("left the page");
  });

  test("rejects what is not answered when it is closed, and what is asked afterwards", async () => {
    const away = inWorker();
    const counting = away.count(demo, long);
    away.close();
    await expect(counting).rejects.toMatchObject({ code: "closed" });
    await expect(away.repair(situation)).rejects.toMatchObject({ code: "closed" });
  });

  test("says when its worker fails, and starts another one the next time", async () => {
    const failing = join(folder, "failing.mjs");
    await writeFile(failing, 'throw new Error("no such thing")');
    const away = inWorker(failing);
    await expect(away.repair(situation)).rejects.toMatchObject({ code: "no-worker" });
    await writeFile(failing, `import ${JSON.stringify(script)};`);
    await expect(away.repair(situation)).resolves.toEqual(solver.repair(situation));
  });
});
