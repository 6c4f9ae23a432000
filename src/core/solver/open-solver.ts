import { MantleError } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Situation } from "../character/situation.ts";
import type { Repair, RepairLimits, RollOptions, SearchLimits } from "../loadout/solver.ts";
import type { Count, CountOptions } from "./count-loadouts.ts";
import {
  type FromWorker,
  type MessageEnd,
  onFailure,
  onMessage,
  type SentCall,
  type SentContext,
} from "./worker-messages.ts";

/** What ends a call early, as that of an `AbortController`. */
export interface AbortableSignal {
  readonly aborted: boolean;
  readonly reason?: unknown;
  addEventListener(type: "abort", listener: () => void): void;
  removeEventListener(type: "abort", listener: () => void): void;
}

/** Limits of a search in a worker, by the clock of the worker. */
type InWorker<Limits extends SearchLimits> = Omit<Limits, "clock" | "signal"> & {
  /** Ends the search when it is aborted; the promise then rejects with its reason. */
  readonly signal?: AbortableSignal | undefined;
};

/** The search in a worker: the same calls, which answer later and hold nobody up. */
export interface WorkerSolver {
  /** As `repairLoadout`. */
  repair(situation: Situation, limits?: InWorker<RepairLimits>): Promise<Repair>;
  /** As `completeLoadout`. */
  complete(situation: Situation, limits?: InWorker<RepairLimits>): Promise<Repair>;
  /** As the function `editsToWear`. */
  editsToWear(situation: Situation, part: string, slot: string, limits?: InWorker<RepairLimits>): Promise<Repair>;
  /** As `rollCharacter`. */
  roll(catalog: Catalog, options: InWorker<RollOptions>): Promise<Character>;
  /** As `countLoadouts`. */
  count(catalog: Catalog, options: InWorker<CountOptions>): Promise<Count>;
  /** Ends the worker. What was asked and not answered rejects with `closed`. */
  close(): void;
}

/** A worker, of a browser or of Node. */
export interface SolverWorker extends MessageEnd {
  terminate(): unknown;
}

export interface OpenSolverOptions {
  /** Starts a worker that calls `serveSolver`. It is called when the search is first asked, and again after one was aborted. */
  readonly worker: () => SolverWorker;
}

/** A call that is not answered yet. */
interface Pending {
  readonly catalog: Catalog;
  readonly asked: SentCall;
  readonly here: Here;
  readonly done: (result: unknown) => void;
  readonly fail: (reason: unknown) => void;
}

/**
 * Opens the search in a worker. A catalog is sent to it once. A search that is aborted ends at once: its worker is ended, and what
 * others had asked is asked again of a new one.
 *
 * @returns what asks it. A call rejects as the search throws; with MantleError `no-worker` when the worker cannot be started or fails.
 * @example
 * const worker = () => new Worker(new URL("./solver-worker.ts", import.meta.url), { type: "module" })
 * const solver = openSolver({ worker })
 * const { edits } = await solver.repair({ catalog, character: wren, context: { holdings } }, { signal })
 */
export function openSolver(options: OpenSolverOptions): WorkerSolver {
  const asker = new Asker(options.worker);
  return Object.freeze<WorkerSolver>({
    repair: (situation, limits) =>
      asker.ask(situation.catalog, { call: "repair", ...sentOf(situation, limits) }, limits),
    complete: (situation, limits) =>
      asker.ask(situation.catalog, { call: "complete", ...sentOf(situation, limits) }, limits),
    editsToWear: (situation, part, slot, limits) =>
      asker.ask(situation.catalog, { call: "editsToWear", part, slot, ...sentOf(situation, limits) }, limits),
    roll: (catalog, given) => asker.ask(catalog, { call: "roll", options: withoutCalls(given) }, given),
    count: (catalog, given) => asker.ask(catalog, { call: "count", options: withoutCalls(given) }, given),
    close: () => asker.close(),
  });
}

function sentOf({ character, context }: Situation, limits: InWorker<RepairLimits> = {}) {
  // Only what the search needs: the context of a fitting may have functions, such as a check of names or the search itself.
  const { wardrobe, holdings, stats, signals, bagPlaces } = context;
  const given = Object.entries({ wardrobe, holdings, stats, signals, bagPlaces }).filter(
    ([, value]) => value !== undefined,
  );
  const sent: SentContext = Object.fromEntries(given);
  return { character, context: sent, limits: withoutCalls(limits) };
}

/** What of a call stays in the thread that asks. */
interface Here extends Pick<RepairLimits, "onProgress" | "report"> {
  readonly signal?: AbortableSignal | undefined;
}

/** What of some limits can be sent. */
function withoutCalls<Limits extends Here>(limits: Limits): Omit<Limits, keyof Here> {
  const { onProgress: _, report: __, signal: ___, ...rest } = limits;
  return rest;
}

/** Asks a worker, and starts another one when it has to. */
class Asker {
  readonly #start: () => SolverWorker;
  readonly #pending = new Map<number, Pending>();
  #worker: SolverWorker | undefined;
  /** The numbers of the catalogs that the worker has. */
  #catalogs = new Map<Catalog, number>();
  #asked = 0;
  #isClosed = false;

  constructor(start: () => SolverWorker) {
    this.#start = start;
  }

  ask<Answer>(catalog: Catalog, asked: SentCall, here: Here = {}): Promise<Answer> {
    const { signal } = here;
    return new Promise<unknown>((done, fail) => {
      if (this.#isClosed) return fail(closed());
      if (signal?.aborted === true) return fail(signal.reason);
      this.#asked += 1;
      const id = this.#asked;
      const abort = () => {
        this.#pending.delete(id);
        this.#restart();
        fail(signal?.reason);
      };
      const settled = <T>(settle: (value: T) => void) => {
        return (value: T) => {
          signal?.removeEventListener("abort", abort);
          settle(value);
        };
      };
      signal?.addEventListener("abort", abort);
      const pending: Pending = { catalog, asked, here, done: settled(done), fail: settled(fail) };
      this.#pending.set(id, pending);
      this.#send(id, pending);
    }) as Promise<Answer>;
  }

  close(): void {
    this.#isClosed = true;
    this.#end(closed());
  }

  #send(id: number, { catalog, asked }: Pending): void {
    try {
      this.#worker ??= this.#begin();
      let number = this.#catalogs.get(catalog);
      if (number === undefined) {
        number = this.#catalogs.size;
        this.#catalogs.set(catalog, number);
        this.#worker.postMessage({ kind: "catalog", catalog: number, value: catalog });
      }
      this.#worker.postMessage({ kind: "call", id, catalog: number, asked });
    } catch (error) {
      this.#pending.get(id)?.fail(noWorker(String(error)));
      this.#pending.delete(id);
    }
  }

  #begin(): SolverWorker {
    const worker = this.#start();
    onMessage(worker, (message) => this.#receive(message as FromWorker));
    onFailure(worker, (reason) => {
      if (worker === this.#worker) this.#end(noWorker(reason));
    });
    return worker;
  }

  #receive(message: FromWorker): void {
    const pending = this.#pending.get(message.id);
    // Of a search that was aborted.
    if (pending === undefined) return;
    if (message.kind === "progress") pending.here.onProgress?.(message.progress);
    else if (message.kind === "report")
      pending.here.report?.({ changes: message.changes, lowerBound: message.lowerBound });
    else {
      this.#pending.delete(message.id);
      if (message.kind === "result") pending.done(message.result);
      else pending.fail(errorOf(message));
    }
  }

  /** Ends the worker in the middle of a search, and asks another one what others had asked. */
  #restart(): void {
    this.#drop();
    for (const [id, pending] of this.#pending) this.#send(id, pending);
  }

  #end(reason: MantleError): void {
    this.#drop();
    const pending = [...this.#pending.values()];
    this.#pending.clear();
    for (const { fail } of pending) fail(reason);
  }

  #drop(): void {
    const worker = this.#worker;
    this.#worker = undefined;
    this.#catalogs = new Map();
    worker?.terminate();
  }
}

function errorOf({ code, message, problems }: Extract<FromWorker, { readonly kind: "error" }>): Error {
  return code === undefined ? new Error(message) : new MantleError(code, message, problems);
}

function noWorker(reason: string): MantleError {
  return new MantleError("no-worker", `The worker of the search failed: ${reason}`);
}

function closed(): MantleError {
  return new MantleError("closed", "The search was closed.");
}
