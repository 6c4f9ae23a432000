import { once } from "node:events";
import { Worker } from "node:worker_threads";
import type { Problem } from "../core/base/problem.ts";
import type { FigureGroup, FiguresSeen } from "../core/survey/art/look-at-figures.ts";
import type { CatalogPlace } from "./catalog-place.ts";

/** What a thread saw of a group. */
export interface GroupSeen {
  readonly seen: FiguresSeen;
  /** What it found wrong with the files of all pictures it has read. */
  readonly problems: readonly Problem[];
}

/** Threads that look at figures, each at one group after the other. */
export class SurveyThreads {
  readonly #workers: readonly Worker[];

  constructor(folder: CatalogPlace, count: number) {
    const file = new URL(`./survey-worker${import.meta.url.endsWith(".ts") ? ".ts" : ".js"}`, import.meta.url);
    this.#workers = Array.from({ length: count }, () => new Worker(file, { workerData: folder }));
  }

  /** One for each thread. @param note - called with what is wrong with files. */
  lookers(note: (problems: readonly Problem[]) => void): readonly ((group: FigureGroup) => Promise<FiguresSeen>)[] {
    return this.#workers.map((worker) => async (group) => {
      worker.postMessage(group);
      // A thread that fails emits an error, which rejects this.
      const [{ seen, problems }] = (await once(worker, "message")) as [GroupSeen];
      note(problems);
      return seen;
    });
  }

  /** Ends all threads, whatever they do. */
  async close(): Promise<void> {
    await Promise.all(this.#workers.map((worker) => worker.terminate()));
  }
}
