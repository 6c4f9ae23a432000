/** Whether this is a long run, `npm run test:long`: properties are tried many more times, and on new input each time. */
export const isLong = process.env["MANTLE_LONG"] === "1";

/** How often a property is tried: ten times as often as is said in a long run, or as often as is said for that, and a quarter as often otherwise. */
export function runs(count: number, long = count * 10): { readonly numRuns: number } {
  return { numRuns: isLong ? long : Math.ceil(count / 4) };
}
