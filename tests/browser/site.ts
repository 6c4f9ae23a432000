import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { afterAll, afterEach, beforeAll } from "@jest/globals";
import type { Browser, BrowserContext, BrowserType, Page } from "playwright-core";
import { type Character, type Generation, memoryStore, openSession, type Session } from "zealous-mantle";
import { blankArtHeader, blankPath, programPath } from "../../scripts/test-site.ts";
import { demo } from "../demo-catalog.ts";

declare global {
  /** What connects to the browser: the environment of the tests gives it. */
  var chromium: BrowserType;
}

/** How long something may take to come, in milliseconds, on the slowest machine. */
const longestWait = 30_000;

/** The examples as they are served, and a real browser. */
export interface Site {
  readonly url: string;
  /** A page with nothing saved and no scenery moving. Errors in the page fail the test that asks for them. */
  visit(path: string, options?: VisitOptions): Promise<Visit>;
  /** A page of another server, with nothing of the others. */
  open(address: string): Promise<Visit>;
  /** What a page has stored, in the database of the examples or another. */
  saved(page: Page, database?: string): Promise<Saved>;
  /**
   * A page that runs a program of the tests, by its name; the program is loaded once, and the page emptied before each test.
   *
   * @param script - done in the page before the program.
   */
  run(program: string, script?: () => void): Promise<Visit>;
}

export interface VisitOptions {
  readonly viewport?: { readonly width: number; readonly height: number };
  /** Whether the pictures of the demo are drawn; blank ones otherwise, since most tests look at no pixel. */
  readonly art?: boolean;
  /** Whether the test can let the page's time pass, with `page.clock`; it goes on by itself too. */
  readonly clock?: boolean;
  /** Done in the page before anything else. */
  readonly script?: () => void;
  /** What is stored already: by key, its generations. */
  readonly saved?: Saved;
  /** What the page's tab remembers. */
  readonly remembered?: Readonly<Record<string, string>>;
}

type Saved = Readonly<Record<string, readonly Generation[]>>;

export interface Visit {
  readonly page: Page;
  /** What the page complained of. */
  readonly errors: readonly string[];
}

/**
 * Connects to the browser of all tests before those of a file, and leaves it after the last. Tests that ask for the same kind of page get the same
 * page one after the other, emptied in between, so that nothing is loaded anew.
 */
export function useSite(): Site {
  let url = "";
  const pages = new Map<string, Promise<Page>>();
  const programs = new Map<string, Promise<Page>>();
  let browser: Browser | undefined;
  const open = async (options: VisitOptions): Promise<Page> => {
    if (browser === undefined) throw new Error("The browser is not open yet");
    const context = await newContext(browser, options);
    const page = await context.newPage();
    if (options.clock === true) await page.clock.install({ time: 0 });
    return page;
  };
  const load = async (program: string, script?: () => void): Promise<Page> => {
    const page = await open(script === undefined ? {} : { script });
    await page.goto(url + blankPath);
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.addScriptTag({ url: url + programPath(program) });
    return page;
  };
  const visit = async (path: string, options: VisitOptions = {}): Promise<Visit> => {
    const { viewport = { width: 1280, height: 800 }, art, clock, script, saved = {}, remembered = {} } = options;
    const kind = JSON.stringify([art, clock, script?.toString()]);
    const opening = pages.get(kind) ?? open(options);
    pages.set(kind, opening);
    const page = await opening;
    const errors = errorsOf(page);
    if (page.url() !== url + blankPath) await page.goto(url + blankPath);
    await page.evaluate(empty, [saved, remembered] as const);
    await page.setViewportSize(viewport);
    await page.goto(url + path);
    return { page, errors };
  };
  beforeAll(async () => {
    const served = await addresses();
    url = served.url;
    browser = await chromium.connect(served.browser);
  });
  // What nobody looks at any more should not go on being animated.
  afterEach(async () => {
    for (const page of await Promise.all(pages.values())) {
      page.removeAllListeners();
      if (page.url() === url + blankPath) continue;
      for (const other of page.context().pages()) if (other !== page) await other.close();
      await page.goto(url + blankPath);
      await page.emulateMedia({ reducedMotion: "reduce" });
    }
    for (const page of await Promise.all(programs.values())) await page.evaluate(() => document.body.replaceChildren());
  });
  afterAll(() => browser?.close());
  return {
    get url() {
      return url;
    },
    visit,
    async open(address) {
      if (browser === undefined) throw new Error("The browser is not open yet");
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      const page = await context.newPage();
      const errors = errorsOf(page);
      await page.goto(address);
      return { page, errors };
    },
    saved: (page, database = "saltmarsh") => page.evaluate(readStored, database),
    async run(program, script) {
      const kind = `${program} ${script?.toString()}`;
      const loading = programs.get(kind) ?? load(program, script);
      programs.set(kind, loading);
      const page = await loading;
      page.removeAllListeners();
      await page.evaluate(() => document.body.replaceChildren());
      return { page, errors: errorsOf(page) };
    },
  };
}

/** Where the examples and the browser are, once they are served. */
async function addresses(): Promise<{ readonly url: string; readonly browser: string }> {
  const file = join(process.env["MANTLE_TEST_RUN"] ?? "", "addresses.json");
  while (!existsSync(file)) await new Promise((resolve) => setTimeout(resolve, 50));
  const { failure, ...served } = JSON.parse(await readFile(file, "utf8"));
  if (failure !== undefined) throw new Error(failure);
  return served;
}

function errorsOf(page: Page): readonly string[] {
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  page.on("console", (message) => message.type() === "error" && errors.push(message.text()));
  return errors;
}

async function newContext(browser: Browser, { art = false, script }: VisitOptions): Promise<BrowserContext> {
  const context = await browser.newContext({
    reducedMotion: "reduce",
    hasTouch: true,
    ...(art ? {} : { extraHTTPHeaders: { [blankArtHeader]: "1" } }),
  });
  context.setDefaultTimeout(longestWait);
  if (script !== undefined) await context.addInitScript(script);
  return context;
}

/** Forgets everything that the site has stored, and stores what a test begins with. */
async function empty([saved, remembered]: readonly [Saved, Readonly<Record<string, string>>]): Promise<void> {
  localStorage.clear();
  sessionStorage.clear();
  for (const [key, value] of Object.entries(remembered)) sessionStorage.setItem(key, value);
  const done = (request: IDBRequest | IDBTransaction) =>
    new Promise<void>((resolve, reject) => {
      const settle = () => (request.error === null ? resolve() : reject(request.error));
      if ("oncomplete" in request) Object.assign(request, { oncomplete: settle, onerror: settle });
      else Object.assign(request, { onsuccess: settle, onerror: settle });
    });
  await done(indexedDB.deleteDatabase("saltmarsh"));
  if (Object.keys(saved).length === 0) return;
  const opening = indexedDB.open("saltmarsh", 1);
  opening.onupgradeneeded = () => opening.result.createObjectStore("saves");
  await done(opening);
  const writing = opening.result.transaction("saves", "readwrite");
  for (const [key, generations] of Object.entries(saved)) writing.objectStore("saves").put(generations, key);
  await done(writing);
  opening.result.close();
}

async function readStored(name: string): Promise<Saved> {
  const settled = <T>(request: IDBRequest<T>) =>
    new Promise<T>((resolve, reject) => {
      request.onsuccess = () => resolve(request.result);
      request.onerror = () => reject(request.error);
    });
  const database = await settled(indexedDB.open(name));
  const saves = database.transaction("saves").objectStore("saves");
  const [keys, values] = [await settled(saves.getAllKeys()), await settled(saves.getAll())];
  database.close();
  return Object.fromEntries(keys.map((key, at) => [String(key), values[at]]));
}

/** What is stored of a session after something was done in it. */
export async function savedAfter(play: (session: Session) => void): Promise<Saved> {
  const store = memoryStore();
  const session = await openSession({ catalog: demo, store });
  play(session);
  await session.close();
  const { keys } = await store.list();
  return Object.fromEntries(await Promise.all(keys.map(async (key) => [key, await store.read(key)] as const)));
}

/** What is stored when somebody is in the ledger, and goes out as seat 1. */
export function savedWith(character: Character): Promise<Saved> {
  return savedAfter((session) => {
    session.add(character);
    session.seat(1).take(character.id);
  });
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
