/** Before the browser tests: builds the examples once, and serves them until the last of these tests has run. */
import { spawn } from "node:child_process";

export default async function serve() {
  const server = spawn("node_modules/.bin/tsx", ["scripts/serve.ts"], { stdio: ["ignore", "pipe", "inherit"] });
  globalThis.examplesServer = server;
  process.env.EXAMPLES_URL = await addressOf(server);
}

function addressOf(server) {
  return new Promise((resolve, reject) => {
    let printed = "";
    server.stdout.on("data", (chunk) => {
      printed += String(chunk);
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(printed)?.[0];
      if (address !== undefined) resolve(address);
    });
    server.on("exit", () => reject(new Error(`The examples could not be served: ${printed}`)));
  });
}
