/** The server of the demo as a program of its own, and what it prints. */
import { type ChildProcessWithoutNullStreams, spawn } from "node:child_process";

/** A server that listens. */
export interface StartedServer {
  /** What it printed so far. */
  readonly printed: string;
  /** Ends it by a signal. Returns the status it ended with; `null` where it was killed. */
  end(signal: NodeJS.Signals): Promise<number | null>;
}

/** Starts the server with settings of its environment; resolves when it listens. */
export async function startServer(settings: Readonly<Record<string, string>>): Promise<StartedServer> {
  const server: ChildProcessWithoutNullStreams = spawn(
    process.execPath,
    ["--import", "tsx", "examples/server/main.ts"],
    { env: { ...process.env, ...settings } },
  );
  const ended = new Promise<number | null>((done) => server.once("exit", done));
  let printed = "";
  await new Promise<void>((ready, fail) => {
    for (const stream of [server.stdout, server.stderr])
      stream.on("data", (chunk) => {
        printed += String(chunk);
        if (printed.includes("Try it:")) ready();
      });
    server.once("exit", (status) => fail(new Error(`The server ended with ${status}: ${printed}`)));
  });
  return {
    get printed() {
      return printed;
    },
    end(signal) {
      server.kill(signal);
      return ended;
    },
  };
}
