import { randomUUID } from "node:crypto";
import { mkdir, readdir, readFile, rm, rmdir, stat, utimes, writeFile } from "node:fs/promises";
import { hostname } from "node:os";
import { join, resolve } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { MantleError } from "../core/base/problem.ts";

/** A program that has a folder for itself. */
interface Holder {
  readonly pid: number;
  readonly host: string;
  /** When the process began, as the system counts it: another process may get the same number later. */
  readonly began: string;
  /** Tells the locks of one process apart. */
  readonly token: string;
}

/** A lock is renewed so often, in milliseconds, and is one of a program that has ended where it was not for so long. */
const beat = 5_000;
const longestSilence = 30_000;
const mostTries = 20;

/** The locks of this process. */
const held = new Set<string>();

/**
 * Takes a folder for this program alone, until it is released or the program ends, however it ends. The lock is a folder of its own beside
 * the other, `name.lock`, so that a copy of the folder has none.
 *
 * Locks are numbered, and one is taken by making the next number, which only one program can. One that holds a lock finds those that were
 * taken at the same moment when it looks again; then neither keeps it, and both try anew.
 *
 * @returns what releases it.
 * @throws MantleError `in-use` when another program has it.
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
  const place = `${resolve(folder)}.lock`;
  const holder: Holder = {
    pid: process.pid,
    host: hostname(),
    began: (await beginOf(process.pid)) ?? "",
    token: randomUUID(),
  };
  for (let tries = 1; ; tries += 1) {
    await mkdir(place, { recursive: true });
    const before = await holdersIn(place);
    const other = before.find(({ isAlive }) => isAlive);
    if (other !== undefined) throw inUse(folder, place, other.holder);
    const file = join(place, String(Math.max(0, ...before.map(({ number }) => number)) + 1));
    const isMine = await writeFile(file, JSON.stringify(holder), { flag: "wx" }).then(() => true, falseIfTaken);
    if (isMine) {
      held.add(holder.token);
      const rivals = (await holdersIn(place)).filter(({ holder: each }) => each?.token !== holder.token);
      if (!rivals.some(({ isAlive }) => isAlive)) {
        await Promise.all(rivals.map(({ number }) => rm(join(place, String(number)), { force: true })));
        return hold(place, file, holder.token);
      }
      held.delete(holder.token);
      await rm(file, { force: true });
    }
    if (tries === mostTries) throw inUse(folder, place, undefined);
    await pause(10 + Math.random() * 90);
  }
}

/** Keeps a lock that was taken. */
function hold(place: string, file: string, token: string): () => Promise<void> {
  const timer = setInterval(() => {
    const now = new Date();
    // What cannot be renewed, as on a full disk, holds on this machine all the same.
    utimes(file, now, now).catch(() => undefined);
  }, beat);
  timer.unref();
  return async () => {
    clearInterval(timer);
    held.delete(token);
    await rm(file, { force: true });
    // Another program may be about to take it.
    await rmdir(place).catch(() => undefined);
  };
}

interface FoundHolder {
  readonly number: number;
  /** `undefined` for a lock that is only being written. */
  readonly holder: Holder | undefined;
  readonly isAlive: boolean;
}

async function holdersIn(place: string): Promise<readonly FoundHolder[]> {
  const names = (await readdir(place).catch(() => [])).filter((name) => /^\d+$/.test(name));
  const found = await Promise.all(names.map((name) => holderAt(join(place, name), Number(name))));
  return found.filter((each) => each !== undefined);
}

async function holderAt(file: string, number: number): Promise<FoundHolder | undefined> {
  try {
    const [text, { mtimeMs }] = await Promise.all([readFile(file, "utf8"), stat(file)]);
    const isRecent = Date.now() - mtimeMs < longestSilence;
    const holder = holderIn(text);
    return { number, holder, isAlive: holder === undefined ? isRecent : await isAlive(holder, isRecent) };
  } catch (error) {
    // It was released meanwhile.
    if (Object(error).code === "ENOENT") return undefined;
    throw error;
  }
}

function holderIn(text: string): Holder | undefined {
  try {
    const { pid, host, began, token } = JSON.parse(text);
    return { pid: Number(pid), host: String(host), began: String(began), token: String(token) };
  } catch {
    return undefined;
  }
}

async function isAlive({ pid, host, began, token }: Holder, isRecent: boolean): Promise<boolean> {
  // Of another machine's processes nothing is known but what they write.
  if (host !== hostname()) return isRecent;
  if (pid === process.pid) return held.has(token);
  try {
    process.kill(pid, 0);
  } catch (error) {
    // A process that this one may not send signals to is there.
    if (Object(error).code !== "EPERM") return false;
  }
  const now = await beginOf(pid);
  return now === undefined || now === began;
}

/** When a process began, on Linux: the 22nd field of its `stat` (proc(5)). `undefined` where that is not known. */
async function beginOf(pid: number): Promise<string | undefined> {
  const text = await readFile(`/proc/${pid}/stat`, "utf8").catch(() => "");
  // The second field is the name in parentheses, which may hold anything.
  return text.slice(text.lastIndexOf(")") + 2).split(" ")[19];
}

function falseIfTaken(error: NodeJS.ErrnoException): false {
  if (error.code === "EEXIST" || error.code === "ENOENT") return false;
  throw error;
}

function inUse(folder: string, place: string, holder: Holder | undefined): MantleError {
  const who = holder === undefined ? "another program" : `process ${holder.pid} on ${holder.host}`;
  return new MantleError(
    "in-use",
    `The database in ${folder} is open in ${who}, and only one program can have it. End that one, or set DATABASE_URL to a PostgreSQL, which many programs can have. If it has ended, remove ${place}.`,
  );
}
