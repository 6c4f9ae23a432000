/** A JSON value. */
export type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

/**
 * The number of the form of a document, in `{ "mantle": "kind/2" }`; `undefined` where a value does not have this shape.
 */
export function formNumber(value: unknown, kind: string): number | undefined {
  const mantle: unknown = typeof value === "object" && value !== null && "mantle" in value ? value.mantle : undefined;
  if (typeof mantle !== "string" || !mantle.startsWith(`${kind}/`)) return undefined;
  const number = mantle.slice(kind.length + 1);
  return /^[1-9]\d{0,8}$/.test(number) ? Number(number) : undefined;
}
