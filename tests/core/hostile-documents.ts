/** Whole numbers below a bound, the same for the same seed (D. Lehmer's generator, with the multiplier of S. Park and K. Miller, 1988). */
function numbersFrom(seed: number): (bound: number) => number {
  let state = (seed % 2_147_483_646) + 1;
  return (bound) => {
    state = (state * 48_271) % 2_147_483_647;
    return state % bound;
  };
}

/** Values that no author writes: what is too much, too deep, of another kind, or has a meaning in the language. */
const oddValues: readonly (() => unknown)[] = [
  () => null,
  () => true,
  () => -1,
  () => 0.5,
  () => 1e9,
  () => 9e15,
  () => "",
  () => "x".repeat(5_000),
  () => "\u202e\u0000\ud800",
  () => "__proto__",
  () => "constructor",
  () => [],
  () => ({}),
  () => ["x"],
  () => Array.from({ length: 300 }, () => 0),
  () => Array.from({ length: 300 }, (_, at) => `part-${at}`),
  () => Object.fromEntries(Array.from({ length: 300 }, (_, at) => [`k-${at}`, { x: at }])),
  () => JSON.parse('{"__proto__":{"polluted":true}}'),
  () => nested(70, (inner) => [inner]),
  () => nested(70, (inner) => ({ not: inner })),
  () => nested(8, (inner) => ({ any: [inner, inner] })),
];

function nested(levels: number, wrap: (inner: unknown) => unknown): unknown {
  let value: unknown = "slot:hat";
  for (let level = 0; level < levels; level += 1) value = wrap(value);
  return value;
}

/** A copy of a document in which one to four things were changed, removed, doubled or put elsewhere. */
export function hostileDocument(good: unknown, seed: number): unknown {
  const below = numbersFrom(seed);
  let document: unknown = structuredClone(good);
  for (let changes = 1 + below(4); changes > 0; changes -= 1) document = changed(document, below);
  return document;
}

function changed(document: unknown, below: (bound: number) => number): unknown {
  const holders = objectsIn(document);
  const holder = holders[below(holders.length)];
  const odd = (oddValues[below(oddValues.length)] ?? (() => null))();
  if (holder === undefined) return odd;
  const keys = Object.keys(holder);
  const key = keys[below(Math.max(1, keys.length))] ?? "new";
  const other = holders[below(holders.length)];
  const way = below(5);
  if (way === 0) Reflect.set(holder, key, odd);
  else if (way === 1) Reflect.deleteProperty(holder, key);
  else if (way === 2 && !Array.isArray(holder))
    Reflect.set(holder, ["new-key", "constructor", "toString", "mantle"][below(4)] ?? "", odd);
  else if (way === 3) Reflect.set(holder, key, structuredClone(Object.values(other ?? {})[0] ?? odd));
  else return below(20) === 0 ? odd : document;
  return document;
}

/** Everything in a document that holds something, itself included. */
function objectsIn(document: unknown): readonly object[] {
  const found: object[] = [];
  const open: unknown[] = [document];
  for (let value = open.pop(); value !== undefined; value = open.pop()) {
    if (typeof value !== "object" || value === null) continue;
    found.push(value);
    for (const each of Object.values(value)) open.push(each);
  }
  return found;
}

/** A text with some of it cut off, doubled, or replaced; or the text of a hostile document. */
export function hostileText(good: string, seed: number): string {
  const below = numbersFrom(seed + 7);
  const at = below(good.length);
  const odd = ["", "\u0000", "\ud800", "1e999", "[".repeat(5_000), '"', "\\", "{", "\uFEFF", '{"a":'.repeat(2_000)][
    below(10)
  ];
  if (below(2) === 0) return good.slice(0, at) + odd + good.slice(at + below(20));
  return JSON.stringify(hostileDocument(JSON.parse(good), seed)) ?? "";
}
