/** What the server of the browser tests and the tests agree on. */

/** A page that sends this header gets blank pictures: most tests look at no pixel, and drawing them would take most of the time. */
export const blankArtHeader = "x-blank-art";

/** An empty page on the same site. */
export const blankPath = "/blank";

/** Where a program of the tests is served, by its name. */
export function programPath(name: string): string {
  return `/programs/${name}.js`;
}
