import { fileURLToPath } from "node:url";
import { build, preview } from "vite";

/** Builds the examples and serves them on this machine. Returns where, and what stops it. */
export async function serveExamples(): Promise<{ readonly url: string; readonly close: () => Promise<void> }> {
  const configFile = fileURLToPath(new URL("../examples/vite.config.ts", import.meta.url));
  await build({ configFile, logLevel: "warn" });
  const server = await preview({ configFile, logLevel: "warn", preview: { port: 0, host: "127.0.0.1" } });
  const address = server.httpServer.address();
  if (address === null || typeof address === "string") throw new Error("The examples could not be served");
  return { url: `http://127.0.0.1:${address.port}`, close: () => server.close() };
}
