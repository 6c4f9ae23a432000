/**
 * Reads a key of a plain record, seeing only its own keys.
 *
 * Ids come from authors and players, so one may be called `constructor`; `record[id]` would then find what every object inherits.
 */
export function getOwn<T>(record: Readonly<Record<string, T>>, key: string): T | undefined {
  return Object.hasOwn(record, key) ? record[key] : undefined;
}

/** A copy of the record without one key. */
export function without<T>(record: Readonly<Record<string, T>>, key: string): Readonly<Record<string, T>> {
  if (!Object.hasOwn(record, key)) return record;
  return Object.fromEntries(Object.entries(record).filter(([each]) => each !== key));
}
