import { type ChildProcess, spawn } from "node:child_process";
import { afterAll, afterEach, beforeAll } from "@jest/globals";
import type { Browser, BrowserContextOptions, Page } from "playwright-core";
import { openBrowser } from "../../scripts/browser.ts";

/** The examples served by a process of their own, and a real browser. */
export interface Site {
  readonly url: string;
  /** A page in a fresh profile: nothing saved, no scenery moving. Errors in the page fail the test that asks for them. */
  visit(path: string, options?: VisitOptions): Promise<Visit>;
  /** Closes every page. */
  leave(): Promise<void>;
  close(): Promise<void>;
}

export interface VisitOptions {
  readonly viewport?: { width: number; height: number };
  /** Done in the page before anything else. */
  readonly script?: () => void;
  /** What the profile holds already. */
  readonly saved?: BrowserContextOptions["storageState"];
}

export interface Visit {
  readonly page: Page;
  /** What the page complained of. */
  readonly errors: readonly string[];
}

/** Opens the site before the tests of a file, closes every page after each, and all of it after the last. */
export function useSite(): Site {
  let site: Site | undefined;
  beforeAll(async () => {
    site = await openSite();
  }, 180_000);
  // What nobody looks at any more should not go on being animated.
  afterEach(() => site?.leave());
  afterAll(() => site?.close());
  const opened = () => {
    if (site === undefined) throw new Error("The site is not open yet");
    return site;
  };
  return {
    get url() {
      return opened().url;
    },
    visit: (path, options) => opened().visit(path, options),
    leave: () => opened().leave(),
    close: () => opened().close(),
  };
}

async function openSite(): Promise<Site> {
  const server = spawn("node_modules/.bin/tsx", ["scripts/serve.ts"], { stdio: ["ignore", "pipe", "inherit"] });
  const [url, browser] = await Promise.all([addressOf(server), openBrowser()]);
  return {
    url,
    visit: (path, options = {}) => visit(browser, url + path, options),
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
  { viewport = { width: 1280, height: 800 }, script, saved }: VisitOptions,
): Promise<Visit> {
  const context = await browser.newContext({
    viewport,
    reducedMotion: "reduce",
    hasTouch: true,
    ...(saved === undefined ? {} : { storageState: saved }),
  });
  if (script !== undefined) await context.addInitScript(script);
  const page = await context.newPage();
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
  await page.goto(address);
  return { page, errors };
}
