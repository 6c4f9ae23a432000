import { MantleError } from "../core/base/problem.ts";
import { conflictError, type Generation, type Listing, type Store } from "../core/save/store.ts";

export interface HttpStoreOptions {
  /** Where the server is: its routes are `saves` and `save` below it. */
  readonly url: string;
  /** What proves who the player is, sent as a bearer token; or what returns it, where it is renewed now and then. */
  readonly token: string | (() => string | Promise<string>);
  /** Milliseconds after which a request is given up. @defaultValue `10000` */
  readonly timeout?: number;
}

/**
 * A store on a server, for one player, spoken to by HTTP: `GET saves` lists the keys; `GET` and `PUT` of `save?key=…` read and write.
 * `docs/server.md` says what the server has to answer.
 *
 * Each call is one request. A game puts it behind a store on the device, by `syncedStore`.
 *
 * @throws MantleError, from each call: `no-connection` when nobody answers, and whether a write was done is not known then; `try-later` when
 * the server cannot do it now; `not-allowed` when it does not know the player; `refused` when it does not take what was written.
 */
export function httpStore({ url, token, timeout = 10_000 }: HttpStoreOptions): Store {
  const base = url.endsWith("/") ? url : `${url}/`;
  const ask = async (method: string, path: string, query: Readonly<Record<string, string>> = {}, body?: object) => {
    const address = new URL(path, base);
    for (const [name, value] of Object.entries(query)) address.searchParams.set(name, value);
    try {
      const proof = typeof token === "string" ? token : await token();
      const headers = { authorization: `Bearer ${proof}`, ...(body && { "content-type": "application/json" }) };
      const response = await fetch(address, {
        method,
        headers,
        signal: AbortSignal.timeout(timeout),
        ...(body && { body: JSON.stringify(body) }),
      });
      // Where the rest of an answer is cut off, that is no answer.
      return { status: response.status, text: await response.text() };
    } catch (error) {
      throw new MantleError("no-connection", `The server at ${base} does not answer: ${reasonOf(error)}`);
    }
  };
  const read = async (path: string, query?: Readonly<Record<string, string>>): Promise<object> => {
    const answer = await ask("GET", path, query);
    if (answer.status !== 200) throw refusal(answer);
    try {
      const value: unknown = JSON.parse(answer.text);
      if (typeof value === "object" && value !== null) return value;
    } catch {}
    throw new MantleError("no-connection", `What answers at ${base} is no server of saves.`);
  };
  return {
    async read(key) {
      const { generations }: { readonly generations?: unknown } = await read("save", { key });
      return Array.isArray(generations) ? generations.flatMap(toGeneration) : [];
    },
    async write(key, { revision, text }, keep) {
      const answer = await ask("PUT", "save", { key, revision: String(revision) }, { text, keep });
      if (answer.status === 409) throw conflictError(key);
      if (answer.status !== 204) throw refusal(answer);
    },
    async list(): Promise<Listing> {
      const { keys, epoch }: { readonly keys?: unknown; readonly epoch?: unknown } = await read("saves");
      const known = Array.isArray(keys) ? keys.filter((key) => typeof key === "string") : [];
      return { keys: known.sort(), unknown: [], ...(typeof epoch === "string" && { epoch }) };
    },
  };
}

function toGeneration(value: unknown): readonly Generation[] {
  const { revision, text }: { readonly revision?: unknown; readonly text?: unknown } = Object(value);
  return Number.isSafeInteger(revision) && typeof text === "string" ? [{ revision: Number(revision), text }] : [];
}

function refusal({ status, text }: { readonly status: number; readonly text: string }): MantleError {
  if (status === 401 || status === 403)
    return new MantleError("not-allowed", "The server does not know this player. Sign in again.");
  if (status === 429 || status >= 500)
    return new MantleError("try-later", `The server cannot do this now (${status}). It is tried again later.`);
  return new MantleError("refused", `The server does not take this (${status}): ${text.slice(0, 300)}`);
}

function reasonOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
