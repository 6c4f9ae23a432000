import type { MantleError } from "../../base/problem.ts";
import type { Json } from "../json.ts";

/** A save that was changed here and elsewhere, each in another way, and that nothing merged. Both are kept until one is chosen. */
export interface SaveConflict {
  readonly key: string;
  /** What the save holds: `"character"`. */
  readonly kind: string;
  /** The revision of `theirs`. */
  readonly revision: number;
  /** What both began with; `undefined` when it is not known, as for two that were made under one key. */
  readonly base: Json | undefined;
  /** What is stored here; `undefined` where it was removed here. */
  readonly mine: Json | undefined;
  /** What is stored there; `undefined` where it was removed there. */
  readonly theirs: Json | undefined;
}

/** A save that is stored here now, and was not stored by whoever uses the store: it came from the other one, or was chosen. */
export interface ReceivedSave {
  readonly key: string;
  /** The revision of `content`. */
  readonly revision: number;
  /** What was stored here before; `undefined` where there was nothing, or nobody knows. */
  readonly before: Json | undefined;
  /** `undefined` where the save was removed. */
  readonly content: Json | undefined;
}

/** A save that the other store did not take. */
export interface RefusedSave {
  readonly key: string;
  /** Why, as the other store says it. */
  readonly error: MantleError;
}

/** What happens in a store that is kept in agreement with another. */
export interface SyncEvents {
  /** Something is stored here, and not sent yet. */
  readonly pending: { readonly key: string };
  /** What is stored here is stored there as well. */
  readonly sent: { readonly key: string };
  /** Something else is stored here than before: what another writer made, alone or merged with what was here. `session.receive` takes it. */
  readonly received: ReceivedSave;
  /** Somebody has to choose. Emitted once for each conflict. */
  readonly conflict: SaveConflict;
  /** The other store does not take it, as a server does not take what its rules forbid. It stays here, and is sent again when it changes. */
  readonly refused: RefusedSave;
}

/** What came of an exchange, by key. */
export interface SyncReport {
  readonly sent: readonly string[];
  readonly received: readonly string[];
  readonly conflicts: readonly SaveConflict[];
  readonly refused: readonly RefusedSave[];
}
