/**
 * JSON in its canonical form (RFC 8785): equal values give equal texts. Keys whose value is `undefined` are left out, and what has a `toJSON`, such as
 * a date, is what that returns, as in `JSON.stringify`.
 *
 * @throws RangeError for a number that JSON does not have, TypeError for what is no JSON. A value that holds itself overflows the stack.
 */
export function canonicalText(value: unknown): string {
  if (typeof value === "string") return JSON.stringify(value);
  if (typeof value === "number") {
    if (!Number.isFinite(value)) throw new RangeError(`JSON has no number ${value}.`);
    return String(value === 0 ? 0 : value);
  }
  if (value === null || typeof value === "boolean") return String(value);
  if (typeof value !== "object") throw new TypeError(`JSON has no ${typeof value}.`);
  if (Array.isArray(value)) return `[${value.map((item) => canonicalText(item ?? null)).join()}]`;
  if ("toJSON" in value && typeof value.toJSON === "function") return canonicalText(value.toJSON());
  let text = "";
  // Names are sorted by their UTF-16 code units (section 3.2.3), as `sort` does.
  for (const name of Object.keys(value).sort()) {
    const held: unknown = value[name as keyof typeof value];
    if (held === undefined) continue;
    text += `${text === "" ? "" : ","}${JSON.stringify(name)}:${canonicalText(held)}`;
  }
  return `{${text}}`;
}
