/** Two devices of one player, the demo's server between them, and a character that both changed. */
import { spawn } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, Page } from "playwright-core";
import { createFromPreset, type Json, writeSave } from "zealous-mantle";
import { httpStore } from "zealous-mantle/browser";
import { loadCatalog } from "zealous-mantle/node";
import { freePort } from "./postgres.ts";

/** What a device does to the character. */
export interface Change {
  readonly wear: string;
  readonly paint: string;
  readonly name: string;
}

/** Runs the server on a database within it, in a temporary folder. */
export async function runServer(): Promise<{ readonly url: string; readonly close: () => Promise<void> }> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-devices-"));
  const port = String(await freePort());
  const env = { ...process.env, SERVER_FOLDER: folder, PORT: port, DATABASE_URL: "", ORIGINS: "*" };
  const server = spawn(process.execPath, ["--import", "tsx", "examples/server/main.ts"], { env });
  await new Promise<void>((ready, fail) => {
    let printed = "";
    for (const stream of [server.stdout, server.stderr])
      stream.on("data", (chunk) => {
        printed += String(chunk);
        if (printed.includes("Try it:")) ready();
      });
    server.once("exit", () => fail(new Error(printed)));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    async close() {
      const ended = new Promise((done) => server.once("exit", done));
      server.kill("SIGTERM");
      await ended;
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** Opens the creator on two devices of one player, who has a courier on the server. */
export async function openDevices(browser: Browser, site: string, server: string): Promise<readonly [Page, Page]> {
  const { token } = await (await fetch(`${server}/players`, { method: "POST" })).json();
  const catalog = await loadCatalog("demo/saltmarsh", { art: "none" });
  const wren = createFromPreset(catalog, "first-watch", { id: "wren", name: "Wren" });
  await writeSave(httpStore({ url: server, token }), "character-wren", "character", { ...wren } as unknown as Json);
  const open = async () => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" });
    const page = await context.newPage();
    await page.goto(`${site}/creator/?server=${server}#token=${token}`);
    await page.waitForSelector("mantle-fitting");
    return page;
  };
  return [await open(), await open()];
}

/** Changes the character on a device, and keeps it. */
export async function change(page: Page, { wear, paint, name }: Change): Promise<void> {
  await page.evaluate(
    ([part, ramp, called]) => {
      const { fitting } = document.querySelector("mantle-fitting") ?? {};
      fitting?.wear(part);
      fitting?.paint("oilcloth", ramp);
      fitting?.rename(called);
    },
    [wear, paint, name] as const,
  );
  await page.click("#finish");
  await page.waitForSelector(`text=${name} is in the ledger.`);
}
