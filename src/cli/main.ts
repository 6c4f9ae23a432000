#!/usr/bin/env node
import pc from "picocolors";
import { run } from "./run.ts";

process.exitCode = await run(process.argv.slice(2), {
  stdout: process.stdout,
  stderr: process.stderr,
  color: pc.isColorSupported,
});
