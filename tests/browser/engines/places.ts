/** The size of the canvas on which engines are tried, in pixels. */
export const canvas = { width: 800, height: 1000 };

/** Where somebody stands on it; it has room for a hundred. */
export function placeOf(number: number): { readonly x: number; readonly y: number } {
  return { x: (number % 10) * 80 + 40, y: Math.floor(number / 10) * 100 + 90 };
}
