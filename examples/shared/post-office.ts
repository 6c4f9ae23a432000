/** The post office from inside, painted pixel by pixel, and what lies about in the marsh. */

type Context = CanvasRenderingContext2D;

function box(context: Context, color: string, x: number, y: number, width: number, height: number): void {
  context.fillStyle = color;
  context.fillRect(x, y, width, height);
}

/** A box with a dark line around it and light along its upper edge. */
function panel(
  context: Context,
  [dark, mid, light]: readonly string[],
  x: number,
  y: number,
  w: number,
  h: number,
): void {
  box(context, dark ?? "", x - 1, y - 1, w + 2, h + 2);
  box(context, mid ?? "", x, y, w, h);
  box(context, light ?? "", x, y, w, 1);
}

const oak = ["#22150c", "#7a5230", "#a9834f"];
const letters = ["#f4ecdc", "#e6d9bf", "#d9b98c", "#c9634a", "#7fa3a6"];

function seeded(number: number): number {
  return Math.abs(Math.sin(number * 12.9898) * 43758.5453) % 1;
}

/** Pigeonholes for the mail of every island. */
function rack(context: Context, left: number, top: number, columns: number, rows: number): void {
  panel(context, oak, left, top, columns * 13 + 3, rows * 13 + 3);
  for (let row = 0; row < rows; row += 1) {
    for (let column = 0; column < columns; column += 1) {
      const [x, y] = [left + 3 + column * 13, top + 3 + row * 13];
      box(context, "#2e1d10", x, y, 10, 10);
      const count = Math.floor(seeded(row * 31 + column * 7 + 3) * 5);
      for (let each = 0; each < count; each += 1) {
        const tall = 5 + Math.floor(seeded(row * 5 + column * 11 + each) * 4);
        const color = letters[(row * 3 + column * 5 + each * 2) % letters.length] ?? "";
        box(context, "#1a1009", x + 1 + each * 2, y + 9 - tall, 2, tall + 1);
        box(context, color, x + 1 + each * 2, y + 10 - tall, 1, tall);
      }
    }
  }
}

function window(context: Context, left: number, top: number, time: number): void {
  panel(context, ["#22150c", "#8a5c33", "#b88351"], left, top, 62, 46);
  const sky = ["#bd9c97", "#d6ae94", "#e6c096", "#f2d9a8"];
  for (const [number, color] of sky.entries()) box(context, color, left + 4, top + 4 + number * 6, 54, 6);
  box(context, "#7fa3a6", left + 4, top + 28, 54, 7);
  box(context, "#5f8b93", left + 4, top + 35, 54, 7);
  for (let each = 0; each < 6; each += 1) {
    const x = Math.floor((seeded(each + 1) * 160 + time * 3) % 50);
    box(context, "#f2d9a8", left + 5 + x, top + 30 + each * 2, 3, 1);
  }
  // A gull goes by now and then.
  const gull = Math.floor((time * 9) % 160);
  if (gull < 48) {
    const wing = Math.floor(time * 4) % 2;
    box(context, "#4b626a", left + 6 + gull, top + 12 - wing, 2, 1);
    box(context, "#4b626a", left + 8 + gull, top + 12, 1, 1);
    box(context, "#4b626a", left + 9 + gull, top + 12 - wing, 2, 1);
  }
  box(context, "#22150c", left + 30, top + 4, 2, 38);
  box(context, "#22150c", left + 4, top + 22, 54, 1);
  panel(context, oak, left - 3, top + 47, 68, 3);
}

function lamp(context: Context, x: number, drop: number, time: number): void {
  box(context, "#1d262b", x, 0, 1, drop);
  box(context, "#1d262b", x - 5, drop, 11, 2);
  box(context, Math.sin(time * 7 + x) > -0.8 ? "#fbd873" : "#f2a83a", x - 3, drop + 2, 7, 7);
  box(context, "#fff6c9", x - 1, drop + 3, 3, 4);
  box(context, "#1d262b", x - 4, drop + 9, 9, 1);
}

function scales(context: Context, x: number, y: number): void {
  box(context, "#74520f", x, y - 11, 2, 11);
  box(context, "#b98a2f", x - 9, y - 11, 20, 1);
  box(context, "#b98a2f", x - 11, y - 6, 6, 2);
  box(context, "#b98a2f", x + 7, y - 4, 6, 2);
  box(context, "#74520f", x - 8, y - 10, 1, 4);
  box(context, "#74520f", x + 9, y - 10, 1, 6);
  box(context, "#d9a941", x - 3, y - 1, 8, 1);
}

/** The door to the quay, and the ferry's mast behind it. */
function quayDoor(context: Context, x: number, floor: number, time: number): void {
  panel(context, ["#22150c", "#8a5c33", "#b88351"], x, floor - 84, 46, 84);
  for (const [number, color] of ["#e6c096", "#f2d9a8"].entries())
    box(context, color, x + 4, floor - 80 + number * 14, 38, 14);
  for (const [number, color] of ["#7fa3a6", "#5f8b93", "#467680", "#35636f"].entries())
    box(context, color, x + 4, floor - 52 + number * 13, 38, 13);
  const bob = Math.round(Math.sin(time * 1.4));
  box(context, "#3a2616", x + 24, floor - 72 + bob, 2, 50);
  box(context, "#9c3b2e", x + 26, floor - 70 + bob, 9, 5);
  box(context, "#c9634a", x + 26, floor - 70 + bob, 9, 1);
  box(context, "#22150c", x + 4, floor - 22 + bob, 38, 12);
  box(context, "#9c3b2e", x + 4, floor - 21 + bob, 38, 7);
  box(context, "#e6d9bf", x + 4, floor - 21 + bob, 38, 1);
  box(context, "#35636f", x + 4, floor - 11, 38, 11);
  box(context, "#a9c3bd", x + 8, floor - 10, 14, 1);
  panel(context, ["#22150c", "#f4ecdc", "#fffaf0"], x + 9, floor - 98, 28, 9);
  box(context, "#16323a", x + 13, floor - 95, 20, 1);
  box(context, "#16323a", x + 16, floor - 93, 14, 1);
}

/** The post office: its mail, its counter, and the door to the quay. */
export function paintPostOffice(context: Context, width: number, height: number, time: number): void {
  const floor = height - 42;
  box(context, "#2a1a10", 0, 0, width, height);
  for (let x = 0; x < width; x += 16) {
    box(context, x % 32 === 0 ? "#5d7b7c" : "#587576", x, 8, 15, floor - 8);
    box(context, "#6f8d8c", x, 8, 1, floor - 8);
  }
  box(context, "#3a2616", 0, 0, width, 8);
  box(context, "#6b4a2b", 0, 0, width, 6);
  box(context, "#94693d", 0, 0, width, 2);
  box(context, "#22150c", 0, floor - 26, width, 26);
  for (let x = 0; x < width; x += 20) {
    box(context, "#6b4a2b", x + 1, floor - 25, 18, 22);
    box(context, "#8c6238", x + 1, floor - 25, 18, 1);
  }
  for (let row = 0; row < 4; row += 1) {
    const y = floor + row * 11;
    box(context, ["#8d6a41", "#846239", "#7a5932", "#6f502c"][row] ?? "", 0, y, width, 10);
    box(context, "#a17c4e", 0, y, width, 1);
    box(context, "#3a2616", 0, y + 10, width, 1);
    for (let x = (row * 37) % 61; x < width; x += 61) box(context, "#4c331d", x, y, 1, 10);
  }
  window(context, 26, 26, time);
  rack(context, 116, 22, 9, 5);
  quayDoor(context, 262, floor, time);
  // The counter, behind which somebody stands.
  panel(context, ["#22150c", "#845a34", "#b88351"], 118, floor - 30, 116, 30);
  panel(context, ["#22150c", "#a9834f", "#c19a63"], 114, floor - 34, 124, 5);
  for (let x = 124; x < 228; x += 27) {
    box(context, "#5e3f22", x, floor - 25, 22, 20);
    box(context, "#75502d", x + 1, floor - 24, 20, 18);
  }
  scales(context, 138, floor - 35);
  for (const [x, color] of [
    [208, "#f4ecdc"],
    [214, "#d9b98c"],
    [211, "#e6d9bf"],
  ] as const) {
    panel(context, ["#22150c", color, "#fffaf0"], x, floor - 40 + (x % 3), 11, 4);
  }
  lamp(context, 100, 24, time);
  lamp(context, 248, 24, time + 2);
  // A rug, worn by everyone who came in.
  box(context, "#3d1a18", 66, floor + 14, 120, 20);
  box(context, "#7c2f27", 67, floor + 15, 118, 18);
  box(context, "#b98a2f", 70, floor + 17, 112, 1);
  box(context, "#b98a2f", 70, floor + 30, 112, 1);
  for (let x = 78; x < 178; x += 14) {
    box(context, "#c9634a", x, floor + 22, 6, 1);
    box(context, "#c9634a", x + 2, floor + 21, 2, 3);
  }
}

/** The mail sacks before everything else. */
export function paintPostOfficeFront(context: Context, width: number, height: number): void {
  for (const [x, tall] of [
    [8, 20],
    [width - 34, 16],
    [30, 13],
  ] as const) {
    for (let row = 0; row < tall; row += 1) {
      const half = Math.round(12 * Math.sin(((row + 3) / (tall + 3)) * 1.5));
      box(context, "#2e2416", x + 11 - half, height - tall + row, half * 2, 1);
      if (row > 0) box(context, row < 4 ? "#d8c49a" : "#b59c6c", x + 12 - half, height - tall + row, half * 2 - 2, 1);
      if (row > 3) box(context, "#d8c49a", x + 12 - half, height - tall + row, 3, 1);
    }
    box(context, "#7c2f27", x + 6, height - tall + 3, 10, 1);
  }
}

/** A whistle in the mud: it glints. */
export function paintWhistle(context: Context, x: number): void {
  box(context, "#3a2616", x - 4, 156, 9, 4);
  box(context, "#d9a941", x - 3, 157, 6, 2);
  box(context, "#fadf84", x - 3, 157, 4, 1);
  box(context, "#74520f", x + 3, 157, 1, 2);
}
