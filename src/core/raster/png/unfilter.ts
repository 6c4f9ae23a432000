import { badPicture } from "./chunks.ts";

/**
 * Undoes the filters of rows in place (ISO/IEC 15948, clause 9): each row is one byte that names its filter, and its bytes.
 *
 * @param rows - `height` rows of `1 + stride` bytes.
 * @param step - how many bytes lie between a sample and that of the pixel before it, at least 1.
 */
export function unfilter(rows: Uint8Array, stride: number, height: number, step: number): void {
  for (let row = 0; row < height; row += 1) {
    const start = row * (stride + 1) + 1;
    const filter = rows[start - 1] as number;
    if (filter === 0) continue;
    if (filter > 4) throw badPicture("a row has a filter that is not known");
    const above = row === 0 ? -1 : start - stride - 1;
    for (let at = 0; at < stride; at += 1) {
      const left = at < step ? 0 : (rows[start + at - step] as number);
      const up = above < 0 ? 0 : (rows[above + at] as number);
      const corner = above < 0 || at < step ? 0 : (rows[above + at - step] as number);
      const guess =
        filter === 1 ? left : filter === 2 ? up : filter === 3 ? (left + up) >> 1 : nearest(left, up, corner);
      rows[start + at] = (rows[start + at] as number) + guess;
    }
  }
}

/** The neighbor that comes nearest to `left + up - corner` (A. W. Paeth, "Image file compression made easy", 1991). */
function nearest(left: number, up: number, corner: number): number {
  const byLeft = Math.abs(up - corner);
  const byUp = Math.abs(left - corner);
  const byCorner = Math.abs(left + up - 2 * corner);
  if (byLeft <= byUp && byLeft <= byCorner) return left;
  return byUp <= byCorner ? up : corner;
}
