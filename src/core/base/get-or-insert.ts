/** What a map keeps under a key, made on first use. */
export function getOrInsert<K, V>(
  kept: { get(key: K): V | undefined; set(key: K, value: V): unknown },
  key: K,
  make: () => V,
): V {
  const known = kept.get(key);
  if (known !== undefined) return known;
  const made = make();
  kept.set(key, made);
  return made;
}
