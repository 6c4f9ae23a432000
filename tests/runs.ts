/** Whether this is a long run, `npm run test:long`: properties are tried many more times, and on new input each time. */
export const isLong = process.env["MANTLE_LONG"] === "1";

/** How often a property is tried: so often, and ten times as often in a long run. */
export function runs(count: number): { readonly numRuns: number } {
  return { numRuns: isLong ? count * 10 : count };
}
