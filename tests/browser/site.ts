import { type ChildProcess, spawn } from "node:child_process";
import type { Browser, Page } from "playwright-core";
import { openBrowser } from "../../scripts/browser.ts";

/** The examples served by a process of their own, and a real browser. */
export interface Site {
  readonly url: string;
  /** A page in a fresh profile: nothing saved, no scenery moving. Errors in the page fail the test that asks for them. */
  visit(path: string, viewport?: { width: number; height: number }, script?: () => void): Promise<Visit>;
  /** Closes every page: what nobody looks at any more should not go on being animated. */
  leave(): Promise<void>;
  close(): Promise<void>;
}

export interface Visit {
  readonly page: Page;
  /** What the page complained of. */
  readonly errors: readonly string[];
}

export async function openSite(): Promise<Site> {
  const server = spawn("node_modules/.bin/tsx", ["scripts/serve.ts"], { stdio: ["ignore", "pipe", "inherit"] });
  const [url, browser] = await Promise.all([addressOf(server), openBrowser()]);
  return {
    url,
    visit: (path, viewport = { width: 1280, height: 800 }, script = () => {}) =>
      visit(browser, url + path, viewport, script),
    leave: async () => {
      await Promise.all(browser.contexts().map((context) => context.close()));
    },
    close: async () => {
      await browser.close();
      server.kill();
    },
  };
}

function addressOf(server: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    let printed = "";
    server.stdout?.on("data", (chunk) => {
      printed += String(chunk);
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(printed)?.[0];
      if (address !== undefined) resolve(address);
    });
    server.on("exit", () => reject(new Error(`The examples could not be served: ${printed}`)));
  });
}

async function visit(
  browser: Browser,
  address: string,
  viewport: { width: number; height: number },
  script: () => void,
): Promise<Visit> {
  const context = await browser.newContext({ viewport, reducedMotion: "reduce", hasTouch: true });
  await context.addInitScript(script);
  const page = await context.newPage();
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
  await page.goto(address);
  return { page, errors };
}
