import { randomUUID } from "node:crypto";
import type { Database } from "zealous-mantle/server";
import type { LiveNote } from "../live.ts";

/** What the servers of one game send each other: whose saves changed, and who asked how often. */
export interface Fleet {
  changed(player: string, note: LiveNote): void;
  /** Somebody asked once more. */
  counted(key: string, timeWindow: number): void;
  close(): Promise<void>;
}

/** What a server does with what another one sends. */
export interface FleetListener {
  readonly onChanged: (player: string, note: LiveNote) => void;
  readonly onCounted: (key: string, timeWindow: number, times: number) => void;
  /** Something may have been sent that was not received. */
  readonly onGap: () => void;
  /** Sending failed, or what was received is not understood. Pages of other servers learn of it when they ask by the clock. */
  readonly onError: (error: unknown) => void;
}

type Change = readonly [player: string, key: string, revision: number];
type Count = readonly [key: string, timeWindow: number, times: number];

interface Notice {
  readonly from: string;
  readonly changed: readonly Change[];
  readonly counted: readonly Count[];
}

const channel = "mantle_fleet";
/** Milliseconds from one sending to the next. */
const beat = 50;
/** Bytes of one notice; PostgreSQL takes fewer than 8,000. */
const longestNotice = 7_500;

/** For a server that is the only one. */
export const alone: Fleet = { changed: () => {}, counted: () => {}, close: async () => {} };

/**
 * Joins the servers that have the same database, by its notices (PostgreSQL, `LISTEN` and `NOTIFY`). What happens within a moment is sent together,
 * without anything of what is stored.
 */
export async function joinFleet(database: Database, listener: FleetListener): Promise<Fleet> {
  const own = randomUUID();
  let changed: Change[] = [];
  let counts = new Map<string, Count>();
  let timer: ReturnType<typeof setTimeout> | undefined;

  const stop = await database.listen(channel, {
    onGap: listener.onGap,
    onNotice(payload) {
      try {
        const { from, changed: changes, counted }: Notice = JSON.parse(payload);
        if (from === own) return;
        for (const [player, key, revision] of changes) listener.onChanged(player, { key, revision });
        for (const count of counted) listener.onCounted(...count);
      } catch (error) {
        // Whoever else may write to the database may say anything there.
        listener.onError(error);
      }
    },
  });
  const send = async () => {
    timer = undefined;
    const notices = noticesOf(own, changed, [...counts.values()]);
    changed = [];
    counts = new Map();
    await database
      .query(`SELECT pg_notify('${channel}', each) FROM unnest($1::text[]) AS each`, [notices])
      .catch(listener.onError);
  };
  const soon = () => {
    timer ??= setTimeout(send, beat);
  };
  return {
    changed(player, { key, revision }) {
      changed.push([player, key, revision]);
      soon();
    },
    counted(key, timeWindow) {
      counts.set(key, [key, timeWindow, (counts.get(key)?.[2] ?? 0) + 1]);
      soon();
    },
    async close() {
      clearTimeout(timer);
      if (timer !== undefined) await send();
      await stop();
    },
  };
}

/** As many notices as it takes. */
function noticesOf(from: string, changed: readonly Change[], counted: readonly Count[]): readonly string[] {
  const notices: string[] = [];
  let notice: { from: string; changed: Change[]; counted: Count[] } = { from, changed: [], counted: [] };
  let length = 0;
  const add = (bytes: number, put: () => void) => {
    if (length + bytes > longestNotice) {
      notices.push(JSON.stringify(notice));
      notice = { from, changed: [], counted: [] };
      length = 0;
    }
    length += bytes;
    put();
  };
  const sizeOf = (each: unknown) => Buffer.byteLength(JSON.stringify(each)) + 1;
  for (const each of changed) add(sizeOf(each), () => notice.changed.push(each));
  for (const each of counted) add(sizeOf(each), () => notice.counted.push(each));
  notices.push(JSON.stringify(notice));
  return notices;
}
