import { type ErrorCode, MantleError } from "../core/base/problem.ts";

/**
 * Fetches a file that a catalog names.
 *
 * @param path - what it is called in the catalog folder. @param url - where it is served; `undefined` when it is not.
 * @throws MantleError of the code, with the address and what came: nothing, another answer, or a page in place of the file.
 */
export async function fetchFile(
  path: string,
  url: string | undefined,
  { code, signal }: { readonly code: ErrorCode; readonly signal?: AbortSignal | undefined },
): Promise<Uint8Array> {
  const missing = (why: string) =>
    new MantleError(code, `"${path}" could not be fetched${url === undefined ? "" : ` from ${url}`}: ${why}.`);
  if (url === undefined) throw missing("it is served nowhere");
  const response = await fetch(url, signal === undefined ? {} : { signal }).catch((error: unknown) => {
    if (signal?.aborted) throw error;
    throw missing("no server answered");
  });
  if (!response.ok) throw missing(`the server answered ${response.status}`);
  // Servers of pages answer with their first page when they do not have a file.
  if (/^text\/html\b/.test(response.headers.get("content-type") ?? ""))
    throw missing("a web page came in its place, as where the folder is not served");
  return new Uint8Array(await response.arrayBuffer());
}
