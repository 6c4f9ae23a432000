/** For the compiler alone: what a form is the form of. */
declare const output: unique symbol;

/** The form of a document, or of a value in one: plain data, which is checked and written as JSON Schema elsewhere. */
export type Form<T = unknown> = Shape & {
  /** What is asked of a value that has the right shape. */
  readonly bounds?: readonly Bound[];
  readonly [output]?: T;
};

type Shape =
  | { readonly type: "string" | "number" | "boolean" | "unknown" }
  | { readonly type: "literal"; readonly literal: unknown }
  | { readonly type: "picklist"; readonly options: readonly unknown[] }
  | { readonly type: "optional" | "nullable"; readonly wrapped: Form }
  | { readonly type: "union"; readonly options: readonly Form[] }
  | { readonly type: "lazy"; readonly getter: () => Form }
  | { readonly type: "array"; readonly item: Form }
  | { readonly type: "tuple"; readonly items: readonly Form[] }
  | { readonly type: "record"; readonly key: Form; readonly value: Form }
  /** Other keys have the form `rest`; without one there are none. */
  | { readonly type: "object"; readonly entries: Entries; readonly rest: Form | undefined };

export type Entries = Readonly<Record<string, Form>>;

/** What is asked of a value that has the right shape. */
export type Bound =
  | { readonly type: "min-length" | "max-length" | "min" | "max" | "above"; readonly limit: number }
  | { readonly type: "pattern"; readonly pattern: RegExp }
  | { readonly type: "whole" };

/** The values that have a form. */
export type Valid<F> = F extends { readonly [output]?: infer T } ? Exclude<T, never> : never;

/** A value that may be left out. */
export interface Optional<T> {
  readonly type: "optional";
  readonly wrapped: Form;
  readonly [output]?: T;
}

type Flat<T> = { [K in keyof T]: T[K] };
type CanBeLeftOut = { readonly type: "optional" };
// Keys are mapped by `as`, which keeps their doc comments: editors show them, and the JSON Schema is described by them.
type ValidEntries<E> = Flat<
  { readonly [K in keyof E as E[K] extends CanBeLeftOut ? never : K]: Valid<E[K]> } & {
    readonly [K in keyof E as E[K] extends CanBeLeftOut ? K : never]?: Valid<E[K]> | undefined;
  }
>;

export const string = (...bounds: readonly Bound[]): Form<string> => ({ type: "string", bounds });
export const number = (...bounds: readonly Bound[]): Form<number> => ({ type: "number", bounds });
export const boolean = (): Form<boolean> => ({ type: "boolean" });
export const unknown = (): Form => ({ type: "unknown" });

export function literal<const T extends string | number | boolean>(value: T): Form<T> {
  return { type: "literal", literal: value };
}

export function picklist<const T extends readonly string[]>(options: T): Form<T[number]> {
  return { type: "picklist", options };
}

/** A value that may be left out. */
export function optional<F extends Form>(wrapped: F): Optional<Valid<F>> {
  return { type: "optional", wrapped };
}

export function nullable<F extends Form>(wrapped: F): Form<Valid<F> | null> {
  return { type: "nullable", wrapped };
}

/** A value that has one of several forms. */
export function union<const F extends readonly Form[]>(options: F): Form<Valid<F[number]>> {
  return { type: "union", options };
}

/** A form that may hold itself. */
export function lazy<T>(getter: () => Form<T>): Form<T> {
  return { type: "lazy", getter };
}

export function array<F extends Form>(item: F, ...bounds: readonly Bound[]): Form<readonly Valid<F>[]> {
  return { type: "array", item, bounds };
}

/** A list of so many values, each of its own form. */
export function tuple<const F extends readonly Form[]>(items: F): Form<{ readonly [At in keyof F]: Valid<F[At]> }> {
  return { type: "tuple", items };
}

export function record<F extends Form>(key: Form<string>, value: F): Form<Readonly<Record<string, Valid<F>>>> {
  return { type: "record", key, value };
}

/** An object of these keys and no others. */
export function object<const E extends Entries>(entries: E): Form<ValidEntries<E>> {
  return { type: "object", entries, rest: undefined };
}

/** An object of these keys, whose others have a form. */
export function objectWithRest<const E extends Entries, R extends Form>(
  entries: E,
  rest: R,
): Form<ValidEntries<E> & Record<string, Valid<R>>> {
  return { type: "object", entries, rest };
}

export const minLength = (limit: number): Bound => ({ type: "min-length", limit });
export const maxLength = (limit: number): Bound => ({ type: "max-length", limit });
export const min = (limit: number): Bound => ({ type: "min", limit });
export const max = (limit: number): Bound => ({ type: "max", limit });
export const above = (limit: number): Bound => ({ type: "above", limit });
export const pattern = (form: RegExp): Bound => ({ type: "pattern", pattern: form });
export const whole: Bound = { type: "whole" };

/** A form of which more is asked. */
export function bounded<F extends Form>(form: F, ...bounds: readonly Bound[]): F {
  return { ...form, bounds: [...(form.bounds ?? []), ...bounds] };
}

/** An object that has these keys, and may have others. */
export function looseObject<const E extends Entries>(entries: E): Form<ValidEntries<E>> {
  return { type: "object", entries, rest: unknown() };
}
