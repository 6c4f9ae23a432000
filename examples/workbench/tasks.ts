import type { ArtProblem, PairwiseCover } from "zealous-mantle/authoring";

/** What the worker is asked for. @param url - of the served catalog, whole. */
export interface Asked {
  readonly task: "pairs" | "pixels";
  readonly url: string;
}

/** What it answers. */
export type Told =
  | ({ readonly task: "pairs" } & Pick<PairwiseCover, "characters" | "lowerBound" | "pairs" | "apart">)
  | { readonly task: "pixels"; readonly problems: readonly ArtProblem[] }
  | { readonly task: "progress"; readonly done: number; readonly total: number };

/** Does a task beside the page. @param progress - called with how much is done. */
export function doBeside<Task extends Asked["task"]>(
  task: Task,
  url: string,
  progress: (done: number, total: number) => void = () => undefined,
): Promise<Extract<Told, { task: Task }>> {
  const worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
  return new Promise<Extract<Told, { task: Task }>>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<Told>) => {
      if (data.task === "progress") progress(data.done, data.total);
      else resolve(data as Extract<Told, { task: Task }>);
    };
    worker.onerror = ({ message }) => reject(new Error(message));
    worker.postMessage({ task, url } satisfies Asked);
  }).finally(() => worker.terminate());
}
