import type { Costs } from "./costs.ts";

/** How a player plays, in times a minute. The figures are assumptions; the program takes others. */
export interface Habits {
  /** Edits in play: something put on, taken off, painted. */
  readonly edits: number;
  /** Whole characters sent by a device. */
  readonly saves: number;
  readonly purchases: number;
  readonly reads: number;
  /** Pictures that no cache before the server has. */
  readonly pictures: number;
  /** Pictures of looks that nobody has had before. */
  readonly newLooks: number;
}

/** Someone who plays, with a screen of characters open now and then. */
export const habits: Habits = { edits: 3, saves: 0.5, purchases: 0.2, reads: 1, pictures: 0.5, newLooks: 0.3 };

/** What runs. */
export interface Setup {
  readonly players: number;
  /** Processes of the server, each a thread for requests. */
  readonly servers: number;
  /** Threads that draw, of all servers together. */
  readonly painters: number;
  /** Connections to the database, of all servers together, and how many statements it works on at the same time. */
  readonly connections: number;
  readonly databaseCores: number;
}

/** What came of it. */
export interface Outcome {
  readonly requestsASecond: number;
  /** Milliseconds until requests are answered: half of them, and all but one in a hundred. */
  readonly p50: number;
  readonly p99: number;
  /** Milliseconds until a new look is drawn, all but one in a hundred. */
  readonly picture: number;
  /** How much of the time each is busy, 0 to 1; at 1 it cannot keep up. */
  readonly busy: { readonly servers: number; readonly database: number; readonly painters: number };
}

/** What works on one thing at a time, with a queue before it; several of them are as many as are free. */
class Station {
  readonly #freeAt: number[];
  #worked = 0;

  constructor(count: number) {
    this.#freeAt = new Array<number>(count).fill(0);
  }

  /** Works for so long, as soon as one of them is free. Returns when it is done. */
  work(from: number, takes: number): number {
    let first = 0;
    for (let at = 1; at < this.#freeAt.length; at += 1)
      if ((this.#freeAt[at] ?? 0) < (this.#freeAt[first] ?? 0)) first = at;
    const done = Math.max(from, this.#freeAt[first] ?? 0) + takes;
    this.#freeAt[first] = done;
    this.#worked += takes;
    return done;
  }

  /** How much of a time they worked. */
  busy(time: number): number {
    return Math.min(1, this.#worked / (time * this.#freeAt.length));
  }
}

/** The kinds of requests: what each does in the server before and after the database, and there. */
function kindsOf(costs: Costs, { edits, saves, purchases, reads, pictures, newLooks }: Habits) {
  const { http, judge, edit, open, seal, dbRead, dbWrite, dbTransaction } = costs;
  return [
    { rate: edits, before: http + edit + seal, database: dbWrite, paints: 0 },
    { rate: saves, before: http + open * 3 + judge, database: dbTransaction, paints: 0 },
    { rate: purchases, before: http + open + seal * 2, database: dbTransaction, paints: 0 },
    { rate: reads, before: http + open * 2, database: dbRead, paints: 0 },
    { rate: pictures, before: http, database: 0, paints: 0 },
    { rate: newLooks, before: http * 2 + open, database: dbRead, paints: costs.portrait },
  ];
}

/**
 * Plays a time through, request by request: they come at random (Poisson), each to one of the servers, wait their turn there, at the database
 * and at the painters, and are answered.
 *
 * @param seconds - the time that is played.
 */
export function simulate(costs: Costs, setup: Setup, how: Habits = habits, seconds = 20): Outcome {
  const random = randomOf(7);
  const kinds = kindsOf(costs, how);
  const total = kinds.reduce((sum, { rate }) => sum + rate, 0);
  const perSecond = (setup.players * total) / 60;
  const servers = Array.from({ length: setup.servers }, () => new Station(1));
  const database = new Station(Math.min(setup.connections, setup.databaseCores));
  const painters = new Station(setup.painters);
  const waited: number[] = [];
  const drawn: number[] = [];
  const end = seconds * 1_000;
  for (let now = 0; now < end; now += (-Math.log(1 - random()) / perSecond) * 1_000) {
    const kind = kindAt(kinds, random() * total);
    if (kind === undefined) break;
    const server = servers[Math.floor(random() * servers.length)];
    const taken = server?.work(now, kind.before) ?? now;
    // What takes a millisecond in the middle takes less or more each time.
    const answered = kind.database === 0 ? taken : database.work(taken, -Math.log(1 - random()) * kind.database);
    if (kind.paints > 0) drawn.push(painters.work(answered, kind.paints) - now);
    else waited.push(answered - now);
  }
  const at = (list: number[], share: number) =>
    list.sort((one, other) => one - other)[Math.floor(list.length * share)] ?? 0;
  return {
    requestsASecond: perSecond,
    p50: at(waited, 0.5),
    p99: at(waited, 0.99),
    picture: at(drawn, 0.99),
    busy: {
      servers: servers.reduce((sum, each) => sum + each.busy(end), 0) / servers.length,
      database: database.busy(end),
      painters: painters.busy(end),
    },
  };
}

/** The kind that a point falls on, where each takes as much room as its rate. */
function kindAt<Kind extends { readonly rate: number }>(kinds: readonly Kind[], point: number): Kind | undefined {
  let end = 0;
  for (const kind of kinds) {
    end += kind.rate;
    if (point < end) return kind;
  }
  return kinds.at(-1);
}

/** Numbers from 0 to 1 that are the same in each run (mulberry32, T. Ettinger). */
function randomOf(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}
