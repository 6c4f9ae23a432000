/** Two devices of one player, the demo's server between them, and a character that both changed. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Browser, Page } from "playwright-core";
import { createFromPreset, type Json, writeSave } from "zealous-mantle";
import { httpStore } from "zealous-mantle/browser";
import { loadCatalog } from "zealous-mantle/node";
import { freePort } from "./postgres.ts";
import { startServer } from "./start-server.ts";
import { blankArtHeader } from "./test-site.ts";

/** What a device does to the character. */
export interface Change {
  readonly wear: string;
  readonly paint: string;
  readonly name: string;
}

/**
 * Runs the server in a temporary folder.
 *
 * @param database - the address of its database; without, it has one within it.
 */
export async function runServer(database = ""): Promise<{ readonly url: string; readonly close: () => Promise<void> }> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-devices-"));
  const port = String(await freePort());
  const server = await startServer({ SERVER_FOLDER: folder, PORT: port, DATABASE_URL: database, ORIGINS: "*" });
  return {
    url: `http://127.0.0.1:${port}`,
    async close() {
      await server.end("SIGTERM");
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/**
 * Opens the creator on two devices of one player, who has a courier on the server.
 *
 * @param art - whether the pictures are drawn; blank ones otherwise.
 */
export async function openDevices(
  browser: Browser,
  site: string,
  server: string,
  { art = true }: { readonly art?: boolean } = {},
): Promise<readonly [Page, Page]> {
  const { token } = await (await fetch(`${server}/players`, { method: "POST" })).json();
  const catalog = await loadCatalog("demo/saltmarsh", { art: "none" });
  const wren = createFromPreset(catalog, "first-watch", { id: "wren", name: "Wren" });
  await writeSave(httpStore({ url: server, token }), "character-wren", "character", { ...wren } as unknown as Json);
  const open = async () => {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      reducedMotion: "reduce",
      ...(art ? {} : { extraHTTPHeaders: { [blankArtHeader]: "1" } }),
    });
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
