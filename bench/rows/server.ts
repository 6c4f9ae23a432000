import { decodeSave } from "zealous-mantle";
import { readNewest } from "zealous-mantle/server";
import { agree, type Pair, type Row } from "../measure.ts";
import { type Asked, type Lane, newCourier, openServers, ramps, type Servers } from "../server.ts";

const players = 8;
const times = 100;

/** So often both are asked before anything is measured: a server runs for days, and its code is compiled by then. */
const warmUps = 8;
const turns = 21;

/**
 * Asks both in turn, and takes the turn whose ratio is the median: what else the machine does for a second slows one turn, and what it does
 * for a minute slows both sides of a turn.
 */
async function inTurn(
  ours: () => Promise<Asked>,
  theirs: () => Promise<Asked>,
  figure: (asked: Asked) => number,
): Promise<Pair> {
  const pairs: Pair[] = [];
  for (let turn = -warmUps; turn < turns; turn += 1) {
    const pair = { ours: figure(await ours()), theirs: figure(await theirs()) };
    if (turn >= 0) pairs.push(pair);
  }
  const sorted = pairs.toSorted((one, other) => one.ours / one.theirs - other.ours / other.theirs);
  return sorted[(turns - 1) / 2] ?? { ours: Number.NaN, theirs: Number.NaN };
}

async function measureEdits(figure: (asked: Asked) => number): Promise<Pair> {
  const servers = await openServers();
  try {
    let lanes: readonly Lane[] = await Promise.all(
      Array.from({ length: players }, (_, number) => newCourier(servers, `player-${number}`)),
    );
    const plainLanes = lanes.map((lane, number) => ({ ...lane, url: `${servers.plainUrl}/player-${number}/wren` }));
    const ours = async () => {
      const asked = await servers.ask(lanes, times, ramps);
      lanes = lanes.map((lane, number) => ({ ...lane, revision: asked.revisions[number] ?? 0 }));
      return asked;
    };
    await ours();
    await agreeOnEdits(servers, lanes);
    return await inTurn(ours, () => servers.ask(plainLanes, times, ramps), figure);
  } finally {
    await servers.close();
  }
}

/** Every edit was stored: as many revisions, and the color that was painted last. */
async function agreeOnEdits({ database }: Servers, lanes: readonly Lane[]): Promise<void> {
  for (const [number, { revision }] of lanes.entries()) {
    const [save] = await readNewest(database, `player-${number}`);
    agree(save?.revision === times + 1 && revision === times + 1, "how many edits were stored");
    const opened = decodeSave(save?.text ?? "");
    const last = ramps[(times - 1) % ramps.length];
    agree(opened.ok && JSON.stringify(opened.content).includes(`"oilcloth":"${last}"`), "the last color");
  }
}

const editing = {
  work: "edits of 8 players at a time: token, edit read and judged, character sealed, stored on its revision",
  against: "a route that parses the same body and writes a row, on the same kind of database",
  unit: "ms",
} as const;

/** One edit, of many at the same time: the reverse is requests a second. */
export const serverEdit: Row = {
  ...editing,
  name: "server-edit",
  goal: { atMost: 2 },
  measure: () => measureEdits(({ each }) => each),
};

/** The slowest edit but one in a hundred. */
export const serverEditSlowest: Row = {
  ...editing,
  name: "server-edit-p99",
  goal: { atMost: 2 },
  measure: () => measureEdits(({ p99 }) => p99),
};

/** A picture that was made already. */
export const serverPortrait: Row = {
  name: "server-portrait",
  work: "a portrait by the hash of its look, made once before, 8 at a time",
  against: "the same picture as a static file",
  unit: "ms",
  goal: { atMost: 1.25 },
  async measure() {
    const servers = await openServers();
    try {
      const { headers } = await newCourier(servers, "ann");
      const names = await (await fetch(`${servers.url}/characters/wren/pictures`, { headers })).json();
      const picture = await (await fetch(servers.url + names.portrait)).arrayBuffer();
      await servers.putFile("portrait.png", new Uint8Array(picture));
      const file = `${servers.plainUrl}/files/portrait.png`;
      const other = await (await fetch(file)).arrayBuffer();
      agree(picture.byteLength > 500 && Buffer.from(picture).equals(Buffer.from(other)), "the picture");
      const lanes = (url: string) =>
        Array.from({ length: players }, (): Lane => ({ url, method: "GET", headers: {}, revision: 0 }));
      const [ours, theirs] = [lanes(servers.url + names.portrait), lanes(file)];
      return await inTurn(
        () => servers.ask(ours, 200),
        () => servers.ask(theirs, 200),
        ({ each }) => each,
      );
    } finally {
      await servers.close();
    }
  },
};
