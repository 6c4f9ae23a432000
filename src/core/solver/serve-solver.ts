import { MantleError } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { countLoadouts } from "./count-loadouts.ts";
import { complete, repair, wear } from "./repair-loadout.ts";
import { rollCharacter } from "./roll-character.ts";
import { type FromWorker, type MessageEnd, onMessage, type SentCall, type ToWorker } from "./worker-messages.ts";

type Reports = Pick<Parameters<typeof wear>[3] & object, "onProgress" | "report">;

/**
 * Answers what `openSolver` asks, in a worker.
 *
 * @param port - `self` in a browser's worker, `parentPort` in one of Node.
 * @example
 * // solver-worker.ts
 * import { serveSolver } from "zealous-mantle/solver"
 * serveSolver(self)
 */
export function serveSolver(port: MessageEnd): void {
  const catalogs = new Map<number, Catalog>();
  const send = (message: FromWorker) => port.postMessage(message);
  onMessage(port, (message) => {
    const sent = message as ToWorker;
    if (sent.kind === "catalog") {
      catalogs.set(sent.catalog, sent.value as Catalog);
      return;
    }
    const { id, catalog, asked } = sent;
    try {
      const known = catalogs.get(catalog);
      if (known === undefined) throw new TypeError(`Catalog ${catalog} was not sent`);
      const reports: Reports = {
        onProgress: (progress) => send({ id, kind: "progress", progress }),
        report: ({ changes, lowerBound }) => send({ id, kind: "report", changes, lowerBound }),
      };
      send({ id, kind: "result", result: answer(known, asked, reports) });
    } catch (error) {
      const { code, problems } = error instanceof MantleError ? error : { code: undefined, problems: [] };
      send({ id, kind: "error", code, message: error instanceof Error ? error.message : String(error), problems });
    }
  });
}

function answer(catalog: Catalog, asked: SentCall, reports: Reports): unknown {
  switch (asked.call) {
    case "repair":
      return repair({ catalog, ...asked }, { ...asked.limits, ...reports });
    case "complete":
      return complete({ catalog, ...asked }, { ...asked.limits, ...reports });
    case "editsToWear":
      return wear({ catalog, ...asked }, asked.part, asked.slot, { ...asked.limits, ...reports });
    case "roll":
      return rollCharacter(catalog, { ...asked.options, ...reports });
    case "count":
      return countLoadouts(catalog, { ...asked.options, ...reports });
  }
}
