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

// On a terminal alone: what is read by a program, on a build server too, has no colors in it.
const isWanted = process.stdout.isTTY || (process.env["FORCE_COLOR"] ?? "") !== "";

process.exitCode = await run(process.argv.slice(2), {
  stdout: process.stdout,
  stderr: process.stderr,
  color: isWanted && pc.isColorSupported,
});
