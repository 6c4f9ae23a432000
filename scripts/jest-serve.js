/**
 * Before the browser tests: begins to build the examples, and to serve them and a browser until the last of the browser tests has run. The other
 * tests run meanwhile; those that need a page wait for the file that says where it all is.
 */
import { spawn } from "node:child_process";
import { renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import start from "./jest-start.js";

export default function serve() {
  start();
  const server = spawn("node_modules/.bin/tsx", ["scripts/serve.ts"], { stdio: ["ignore", "pipe", "inherit"] });
  const file = join(process.env.MANTLE_TEST_RUN, "addresses.json");
  const tell = (addresses) => {
    writeFileSync(`${file}.draft`, JSON.stringify(addresses));
    renameSync(`${file}.draft`, file);
  };
  globalThis.examplesServer = server;
  let printed = "";
  server.stdout.on("data", (chunk) => {
    printed += String(chunk);
    const line = /^\{.*\}$/m.exec(printed)?.[0];
    if (line !== undefined) tell(JSON.parse(line));
  });
  server.on("exit", () => tell({ failure: `The examples are not served: ${printed}` }));
}
