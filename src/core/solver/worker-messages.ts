import type { ErrorCode, Problem } from "../base/problem.ts";
import type { Progress } from "../base/progress.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { RepairLimits, RollOptions, SearchLimits } from "../loadout/solver.ts";
import type { CountOptions } from "./count-loadouts.ts";

/** What of some limits can be sent to another thread; whether progress is wanted is sent in its place. */
type Sent<Limits> = Omit<Limits, "clock" | "progress" | "report" | "signal">;

/** What of a context the search needs: it names nobody. */
export type SentContext = Omit<Context, "names">;

/** Who is judged, without what cannot be sent. */
interface SentSituation {
  readonly character: Character;
  readonly context: SentContext;
}

/** A call of the search. */
export type SentCall =
  | ({ readonly call: "repair" | "complete"; readonly limits: Sent<RepairLimits> } & SentSituation)
  | ({
      readonly call: "editsToWear";
      readonly part: string;
      readonly slot: string;
      readonly limits: Sent<RepairLimits>;
    } & SentSituation)
  | { readonly call: "roll"; readonly options: Sent<RollOptions> }
  | { readonly call: "count"; readonly options: Sent<CountOptions & SearchLimits> };

/** What is sent to the thread that searches. */
export type ToWorker =
  | { readonly kind: "catalog"; readonly catalog: number; readonly value: unknown }
  | { readonly kind: "call"; readonly id: number; readonly catalog: number; readonly asked: SentCall };

/** What it sends back. */
export type FromWorker = { readonly id: number } & (
  | { readonly kind: "progress"; readonly progress: Progress }
  | { readonly kind: "report"; readonly changes: number | undefined; readonly lowerBound: number }
  | { readonly kind: "result"; readonly result: unknown }
  | {
      readonly kind: "error";
      readonly code: ErrorCode | undefined;
      readonly message: string;
      readonly problems: readonly Problem<unknown>[];
    }
);

/** What a browser's worker sends: a message, or why it failed. */
interface WorkerEvent {
  readonly data?: unknown;
  readonly message?: string;
}

/** A thread, or the way to it, as browsers and Node have them. */
export interface MessageEnd {
  postMessage(message: unknown): void;
  /** As browsers have it. */
  addEventListener?(type: "message" | "error", listener: (event: WorkerEvent) => void): void;
  /** As Node has it. */
  readonly on?: {
    (type: "message", listener: (value: unknown) => void): unknown;
    (type: "error", listener: (error: Error) => void): unknown;
  };
}

/** Calls a listener with each message that comes. */
export function onMessage(end: MessageEnd, listener: (message: unknown) => void): void {
  if (end.on !== undefined) end.on("message", listener);
  else end.addEventListener?.("message", ({ data }) => listener(data));
}

/** Calls a listener when a thread cannot be started, or ends by an error. */
export function onFailure(end: MessageEnd, listener: (reason: string) => void): void {
  if (end.on !== undefined) end.on("error", (error) => listener(String(error)));
  else end.addEventListener?.("error", ({ message }) => listener(message ?? "no reason"));
}
