import { readFile } from "node:fs/promises";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";

const types: Readonly<Record<string, string>> = {
  html: "text/html; charset=utf-8",
  js: "text/javascript",
  json: "application/json",
  png: "image/png",
};

/** A folder as a server of files serves it. */
export interface ServedFolder {
  readonly url: string;
  /** Files that are answered otherwise than the folder has them: with a status, other content, or a page of the site as many servers do. */
  readonly odd: Map<string, number | "page" | string | Uint8Array>;
  /** What was asked for, in its order. */
  readonly asked: string[];
  close(): void;
}

export async function serveFolder(root: string): Promise<ServedFolder> {
  const odd = new Map<string, number | "page" | string | Uint8Array>();
  const asked: string[] = [];
  const server = createServer(async ({ url: path = "" }, response) => {
    const name = decodeURIComponent(path).replace(/^\/game\//, "");
    asked.push(name);
    const answer = odd.get(name);
    const bytes = await readFile(`${root}/${name}`).catch(() => undefined);
    if (answer === "page") response.setHeader("content-type", "text/html; charset=utf-8").end("<!doctype html>");
    else if (typeof answer === "string" || answer instanceof Uint8Array) response.end(answer);
    else if (answer !== undefined || bytes === undefined) response.writeHead(answer ?? 404).end();
    else response.setHeader("content-type", types[name.split(".").at(-1) ?? ""] ?? "text/plain").end(bytes);
  });
  await new Promise<void>((listening) => server.listen(0, "127.0.0.1", listening));
  const { port } = server.address() as AddressInfo;
  return { url: `http://127.0.0.1:${port}/game/`, odd, asked, close: () => server.close() };
}
