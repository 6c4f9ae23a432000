import { shorten } from "../limits.ts";
import { type Message, message } from "../message.ts";
import { nearestId } from "../nearest-id.ts";
import type { Fix, Problem } from "../problem.ts";
import { boundCheck, isOptional, isRecord, type Path } from "./bounds.ts";
import type { Bound, Form } from "./forms.ts";

/** Something in a document that does not have its form. */
export interface Mismatch extends Pick<Problem, "code" | "params" | "fixes"> {
  /** The keys that lead to it. */
  readonly path: Path;
}

/**
 * Finds everything in a value that does not have a form, outermost first. Where one of several forms is wanted, it is what
 * is wrong by the form that comes nearest to what was found.
 *
 * @param path - the keys that lead to the value.
 */
export function findMismatches(form: Form, value: unknown, path: Path = []): readonly Mismatch[] {
  const found = shapeMismatches(form, value, path);
  if (found.length > 0) return found;
  const bound = form.bounds?.find((each) => !boundCheck(each)(value));
  return bound === undefined ? [] : [outOfBounds(bound, value, path)];
}

function shapeMismatches(form: Form, value: unknown, path: Path): readonly Mismatch[] {
  switch (form.type) {
    case "string":
    case "boolean":
      return typeof value === form.type ? [] : [wrongType(value, form.type, path)];
    case "number":
      return Number.isFinite(value) ? [] : [wrongType(value, "number", path)];
    case "unknown":
      return [];
    case "literal":
      return value === form.literal ? [] : [notAllowed(value, [form.literal], path)];
    case "picklist":
      return form.options.includes(value) ? [] : [notAllowed(value, form.options, path)];
    case "optional":
      return value === undefined ? [] : findMismatches(form.wrapped, value, path);
    case "nullable":
      return value === null ? [] : findMismatches(form.wrapped, value, path);
    case "lazy":
      return findMismatches(form.getter(), value, path);
    case "union":
      return inNoForm(form.options, value, path);
    case "array":
      if (!Array.isArray(value)) return [wrongType(value, "list", path)];
      // Holes are looked at too, which `flatMap` passes over.
      return Array.from(value).flatMap((each: unknown, at) => findMismatches(form.item, each, [...path, at]));
    case "tuple":
      return inTuple(form.items, value, path);
    case "record":
      if (!isRecord(value)) return [wrongType(value, "object", path)];
      return Object.entries(value).flatMap(([key, each]) => [
        ...findMismatches(form.key, key, [...path, key]),
        ...findMismatches(form.value, each, [...path, key]),
      ]);
    case "object":
      return inObject(form, value, path);
  }
}

function inTuple(items: readonly Form[], value: unknown, path: Path): readonly Mismatch[] {
  if (!Array.isArray(value)) return [wrongType(value, "list", path)];
  const count = items.length;
  if (value.length !== count)
    return [outOfBounds({ type: value.length < count ? "min-length" : "max-length", limit: count }, value, path)];
  return items.flatMap((item, at) => findMismatches(item, value[at], [...path, at]));
}

type ObjectForm = Extract<Form, { readonly type: "object" }>;

function inObject({ entries, rest }: ObjectForm, value: unknown, path: Path): readonly Mismatch[] {
  if (!isRecord(value)) return [wrongType(value, "object", path)];
  const found = Object.entries(entries).flatMap(([key, form]) => {
    if (value[key] !== undefined) return findMismatches(form, value[key], [...path, key]);
    return isOptional(form) ? [] : [missingKey(form, [...path, key])];
  });
  const others = Object.keys(value).filter((key) => !Object.hasOwn(entries, key));
  if (rest !== undefined)
    return [...found, ...others.flatMap((key) => findMismatches(rest, value[key], [...path, key]))];
  if (others.length === 0) return found;
  const known = Object.keys(entries);
  // Comparing costs, and nobody misspells more: a stranger may send thousands.
  const meant = new Map(others.slice(0, mostCompared).map((key) => [key, nearestId(key, known)]));
  const strange = others.filter((key) => meant.get(key) === undefined);
  return [
    // A key that is missing since it is misspelled is one finding.
    ...found.filter(
      ({ code, params }) => code !== "missing-key" || ![...meant.values()].includes(String(params["key"])),
    ),
    ...[...meant].flatMap(([key, like]) =>
      like === undefined ? [] : [keyLike(key, like, value[like] !== undefined, path)],
    ),
    ...(strange.length === 0 ? [] : [unknownKeys(strange, path)]),
  ];
}

/** How many unknown keys of an object are compared with those that are known. */
const mostCompared = 10;

/** A key that is not known, and is nearly one that is: misspelled, or beside it. */
function keyLike(key: string, like: string, isThere: boolean, path: Path): Mismatch {
  const fixes = [isThere ? fix("move-beside", { value: like }) : fix("write-value", { value: like })];
  return { path, code: "unknown-key", params: { key: shorten(key) }, fixes };
}

/** What is wrong with a value that has none of several forms. */
function inNoForm(options: readonly Form[], value: unknown, path: Path): readonly Mismatch[] {
  const byForm = options.map((option) => findMismatches(option, value, path));
  if (byForm.some((found) => found.length === 0)) return [];
  const form = nearestForm(byForm, path);
  const [unknown] = form === undefined ? [] : unknownIn(form, path);
  if (form !== undefined && isRecord(value)) {
    const like = form.find(({ fixes: [fix] }) => fix?.code === "write-value" && unknown !== undefined);
    if (like?.code === "unknown-key" && like.path.length === path.length) return [like];
    if (unknown !== undefined) return [misspelledKey(byForm, form, unknown, value, path)];
    if (Object.keys(value).length === 0) {
      const keys = byForm.flatMap((each) => missingIn(each, path).slice(0, 1));
      return [{ path, code: "nothing-said", params: { keys }, fixes: [fix("write-one-key")] }];
    }
  }
  const nearest = form?.[0] ?? byForm.flat().find(({ code }) => code !== "wrong-type");
  if (nearest !== undefined) return [nearest];
  const types = byForm.flat().flatMap(({ params }) => (params["expected"] as Message | undefined) ?? []);
  return [{ path, code: "wrong-form", params: { found: show(value) }, fixes: [expecting(types)] }];
}

/** The findings by the form that knows most of the keys that are there; `undefined` where it is not of the kind of any form. */
function nearestForm(byForm: readonly (readonly Mismatch[])[], path: Path): readonly Mismatch[] | undefined {
  const forms = byForm.filter((form) => form.some((each) => each.path.length > path.length || isUnknownKey(each)));
  const count = (form: readonly Mismatch[]) => unknownIn(form, path).length;
  return forms.toSorted((one, other) => count(one) - count(other) || one.length - other.length)[0];
}

/** A key that the nearest form does not know: mostly one that is missing there, misspelled. */
function misspelledKey(
  byForm: readonly (readonly Mismatch[])[],
  form: readonly Mismatch[],
  key: string,
  value: Readonly<Record<string, unknown>>,
  path: Path,
): Mismatch {
  const isNothingKnown = Object.keys(value).length === unknownIn(form, path).length;
  const known = [...new Set(missingIn(isNothingKnown ? byForm.flat() : form, path))];
  const meant = nearestId(key, known);
  const advice = known.length === 0 ? fix("correct-key") : fix("write-one-of", { values: known });
  return {
    path,
    code: "unknown-key",
    params: { key: shorten(key) },
    fixes: [meant === undefined ? advice : fix("write-value", { value: meant })],
  };
}

function isUnknownKey({ code }: Mismatch): boolean {
  return code === "unknown-key" || code === "unknown-keys";
}

/** Keys of the value itself that a form does not know. */
function unknownIn(form: readonly Mismatch[], path: Path): readonly string[] {
  return form.flatMap(({ params, ...each }) =>
    isUnknownKey({ params, ...each }) && each.path.length === path.length
      ? [params["keys"] ?? params["key"] ?? []].flat().map(String)
      : [],
  );
}

/** Keys of the value itself that a form wants, and that are wrong or not there. */
function missingIn(form: readonly Mismatch[], path: Path): readonly string[] {
  return form.flatMap((each) => {
    const key = each.path.length === path.length + 1 ? each.path.at(-1) : undefined;
    return typeof key === "string" ? [key] : [];
  });
}

function unknownKeys(keys: readonly string[], path: Path): Mismatch {
  const shown = keys.slice(0, 10).map(shorten);
  const [first = ""] = shown;
  const fixes = [fix("correct-key")];
  return keys.length === 1
    ? { path, code: "unknown-key", params: { key: first }, fixes }
    : { path, code: "unknown-keys", params: { keys: shown }, fixes };
}

function missingKey(form: Form, path: Path): Mismatch {
  // What is wrong with nothing shows what belongs there.
  const [{ fixes } = { fixes: [] }] = findMismatches(form, undefined, path);
  return { path, code: "missing-key", params: { key: String(path.at(-1)) }, fixes };
}

function wrongType(value: unknown, type: "string" | "number" | "boolean" | "list" | "object", path: Path): Mismatch {
  const expected = message(`type-${type}`);
  return { path, code: "wrong-type", params: { found: show(value), expected }, fixes: [expecting([expected])] };
}

function expecting(types: readonly Message[]): Fix {
  const codes = new Map(types.map((type) => [type.code, type]));
  return codes.size === 0 ? fix("see-schema") : fix("write-type", { expected: [...codes.values()] });
}

function notAllowed(value: unknown, allowed: readonly unknown[], path: Path): Mismatch {
  const values = allowed.map(String);
  const [only] = values.length === 1 ? values : [];
  const meant = only ?? (typeof value === "string" ? nearestId(value, values) : undefined);
  const advice = meant === undefined ? fix("write-one-of", { values }) : fix("write-value", { value: meant });
  return { path, code: "value-not-allowed", params: { found: show(value) }, fixes: [advice] };
}

function outOfBounds(bound: Bound, value: unknown, path: Path): Mismatch {
  const found = show(value);
  if (bound.type === "whole") {
    const expected = message("type-integer");
    return { path, code: "wrong-type", params: { found, expected }, fixes: [expecting([expected])] };
  }
  if (bound.type === "pattern") {
    const [, code, advice] = patterns.find(([form]) => form.test(bound.pattern.source)) ?? elsewise;
    return { path, code, params: { found }, fixes: [fix(advice)] };
  }
  const [code, advice, name] = limited[bound.type];
  return { path, code, params: { found }, fixes: [fix(advice, { [name]: bound.limit })] };
}

/** What is out of bounds, and what to do about it. */
const limited = {
  min: ["value-too-small", "write-at-least", "min"],
  above: ["value-too-small", "write-more-than", "min"],
  max: ["value-too-large", "write-at-most", "max"],
  "min-length": ["list-too-short", "list-at-least", "min"],
  "max-length": ["list-too-long", "list-at-most", "max"],
} as const;

/** What forms of words are called, by what is in their patterns. */
const patterns = [
  [/#\[0-9a-fA-F\]\{6\}/, "not-a-color", "write-color"],
  [/part\|tag\|slot/, "not-a-pattern", "write-pattern"],
  [/\^\(?\[a-z\]/, "not-an-id", "write-id"],
] as const;

const elsewise = [/$/, "wrong-form", "see-schema"] as const;

function fix(code: Fix["code"], params: Fix["params"] = {}): Fix {
  return { code, params };
}

/** A value as a sentence shows it. */
function show(value: unknown): Message {
  if (Array.isArray(value)) return message(value.length === 0 ? "an-empty-list" : "a-list");
  if (typeof value === "string") return message("a-string", { value: shorten(value) });
  if (typeof value === "object" && value !== null) return message("an-object");
  return message("a-value", { value: String(value) });
}
