// A client in a thread of its own, so that the server under measurement has its thread for itself.
import { Agent, request } from "node:http";
import { parentPort } from "node:worker_threads";

const agent = new Agent({ keepAlive: true, maxSockets: 64 });

/** Sends a request and returns the status and the text of the answer. */
function send({ url, method, headers, body }) {
  return new Promise((done, fail) => {
    const sent = request(url, { method, headers, agent }, (answer) => {
      const parts = [];
      answer.on("data", (part) => parts.push(part));
      answer.on("end", () => done({ status: answer.statusCode, text: Buffer.concat(parts).toString("latin1") }));
    });
    sent.on("error", fail);
    sent.end(body);
  });
}

/** Lanes ask one after the other, all at the same time; `edits` counts the revision of each lane up. */
async function run({ lanes, times, edits }) {
  const began = performance.now();
  const took = [];
  let revisions = [];
  revisions = await Promise.all(
    lanes.map(async (lane) => {
      let { revision } = lane;
      for (let time = 0; time < times; time += 1) {
        const start = performance.now();
        const body =
          edits && JSON.stringify({ revision, edits: [{ paint: "oilcloth", ramp: edits[time % edits.length] }] });
        const { status, text } = await send({ ...lane, body });
        took.push(performance.now() - start);
        if (status !== 200) throw new Error(`${status} ${text}`);
        revision += 1;
      }
      return revision;
    }),
  );
  took.sort((one, other) => one - other);
  const total = performance.now() - began;
  return { each: total / took.length, p99: took[Math.floor(took.length * 0.99)], revisions };
}

parentPort.on("message", async (asked) => {
  try {
    parentPort.postMessage({ result: await run(asked) });
  } catch (error) {
    parentPort.postMessage({ failure: String(error) });
  }
});
