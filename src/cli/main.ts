#!/usr/bin/env node
import pc from "picocolors";
import { run } from "./run.ts";

// Whoever reads may have read enough, as `head` has: that is no failure.
for (const stream of [process.stdout, process.stderr]) {
  stream.on("error", (error: NodeJS.ErrnoException) => {
    if (error.code !== "EPIPE") throw error;
    process.exit();
  });
}

process.exitCode = await run(process.argv.slice(2), {
  stdout: process.stdout,
  stderr: process.stderr,
  color: pc.isColorSupported,
});
