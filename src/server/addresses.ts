import { MantleError } from "../core/base/problem.ts";

/**
 * The addresses of a database, one for each host that is named: `postgres://user@one:5432,two:5432/name`, as libpq writes them (PostgreSQL,
 * "Connection URIs"). Which of them stores is found out when they are reached, so `target_session_attrs` is read over.
 *
 * @throws MantleError `bad-call` for what is no address.
 */
export function addressesIn(url: string): readonly string[] {
  const [, beginning = "", hosts = "", end = ""] = /^(postgres(?:ql)?:\/\/(?:[^@/]*@)?)([^/?]*)(.*)$/s.exec(url) ?? [];
  const addresses = hosts.split(",").map((host) => beginning + host + end);
  // What cannot be read may hold a password as well, so it is not repeated.
  if (beginning === "" || !addresses.every((each) => URL.canParse(each)))
    throw new MantleError(
      "bad-call",
      "That is no address of a database. Write it like postgres://user@host:5432/name.",
    );
  return addresses.map(withoutTarget);
}

/** The address without what opens it. */
export function nameOf(url: string): string {
  const addresses = addressesIn(url).map((each) => new URL(each));
  const hosts = addresses.map(({ hostname, port }) => `${hostname}${port === "" ? "" : `:${port}`}`);
  return `at ${hosts.join(",")}${addresses[0]?.pathname ?? ""}`;
}

function withoutTarget(address: string): string {
  const url = new URL(address);
  url.searchParams.delete("target_session_attrs");
  return url.href;
}
