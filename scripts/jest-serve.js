/** Before the browser tests: builds the examples once, and serves them and a browser until the last of these tests has run. */
import { spawn } from "node:child_process";

export default async function serve() {
  const server = spawn("node_modules/.bin/tsx", ["scripts/serve.ts"], { stdio: ["ignore", "pipe", "inherit"] });
  globalThis.examplesServer = server;
  const { url, browser } = await addressesOf(server);
  process.env.EXAMPLES_URL = url;
  process.env.EXAMPLES_BROWSER = browser;
}

function addressesOf(server) {
  return new Promise((resolve, reject) => {
    let printed = "";
    server.stdout.on("data", (chunk) => {
      printed += String(chunk);
      const line = /^\{.*\}$/m.exec(printed)?.[0];
      if (line !== undefined) resolve(JSON.parse(line));
    });
    server.on("exit", () => reject(new Error(`The examples could not be served: ${printed}`)));
  });
}
