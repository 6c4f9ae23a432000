/**
 * Before the tests: begins to build the examples, and to serve them and a browser until the last of the browser tests has run. The other
 * tests run meanwhile; those that need a page wait for the file that says where it all is.
 */
import { spawn } from "node:child_process";
import { mkdtempSync, renameSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

export default function serve() {
  const server = spawn("node_modules/.bin/tsx", ["scripts/serve.ts"], { stdio: ["ignore", "pipe", "inherit"] });
  const file = join(mkdtempSync(join(tmpdir(), "mantle-examples-")), "addresses.json");
  const tell = (addresses) => {
    writeFileSync(`${file}.draft`, JSON.stringify(addresses));
    renameSync(`${file}.draft`, file);
  };
  globalThis.examplesServer = server;
  process.env.EXAMPLES_ADDRESSES = file;
  let printed = "";
  server.stdout.on("data", (chunk) => {
    printed += String(chunk);
    const line = /^\{.*\}$/m.exec(printed)?.[0];
    if (line !== undefined) tell(JSON.parse(line));
  });
  server.on("exit", () => tell({ failure: `The examples are not served: ${printed}` }));
}
