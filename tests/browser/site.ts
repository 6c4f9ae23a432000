import { afterAll, afterEach, beforeAll, jest } from "@jest/globals";
import type { Browser, BrowserContextOptions, Page } from "playwright-core";
import { openBrowser } from "../../scripts/browser.ts";

/** How long something may take to come, in milliseconds, on the slowest machine. */
const longestWait = 30_000;

/** The examples as they are served, and a real browser. */
export interface Site {
  readonly url: string;
  /** A page in a fresh profile: nothing saved, no scenery moving. Errors in the page fail the test that asks for them. */
  visit(path: string, options?: VisitOptions): Promise<Visit>;
  /** Closes every page. */
  leave(): Promise<void>;
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

/**
 * Opens a browser before the tests of a file, closes every page after each, and all of it after the last.
 *
 * The tests have all the time they need: what they wait for either comes, or is missed by the wait itself.
 */
export function useSite(): Site {
  const url = process.env["EXAMPLES_URL"] ?? "";
  let browser: Browser | undefined;
  const opened = () => {
    if (browser === undefined) throw new Error("The browser is not open yet");
    return browser;
  };
  const leave = async () => {
    await Promise.all(
      opened()
        .contexts()
        .map((context) => context.close()),
    );
  };
  jest.setTimeout(120_000);
  beforeAll(async () => {
    browser = await openBrowser();
  });
  // What nobody looks at any more should not go on being animated.
  afterEach(leave);
  afterAll(() => browser?.close());
  return { url, visit: (path, options = {}) => visit(opened(), url + path, options), leave };
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
  context.setDefaultTimeout(longestWait);
  if (script !== undefined) await context.addInitScript(script);
  const page = await context.newPage();
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
  await page.goto(address);
  return { page, errors };
}

/** Lets a page draw so many frames, however long it takes. */
export function frames(page: Page, count: number): Promise<void> {
  return page.evaluate(
    (left) =>
      new Promise<void>((done) => {
        let drawn = 0;
        const next = () => {
          drawn += 1;
          if (drawn > left) done();
          else requestAnimationFrame(next);
        };
        next();
      }),
    count,
  );
}
