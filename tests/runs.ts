/** Whether this is a long run, `npm run test:long`: properties are tried many more times, and on new input each time. */
export const isLong = process.env["MANTLE_LONG"] === "1";

/** What everything random begins with: in a long run another number each time, which is printed at its end, unless `MANTLE_SEED` gives it. */
export const seed = isLong ? Number(process.env["MANTLE_SEED"] ?? 1) : 1;

/** How often a property is tried: ten times as often as is said in a long run, or as often as is said for that, and a ninth as often otherwise. */
export function runs(count: number, long = count * 10): { readonly numRuns: number; readonly seed?: number } {
  return { numRuns: isLong ? long : Math.ceil(count / 9), ...(isLong && { seed }) };
}
