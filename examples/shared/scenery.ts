/** The places of the delta, painted pixel by pixel on a small canvas. Time is in seconds. */

import { glow } from "./night.ts";

type Context = CanvasRenderingContext2D;

const sky = ["#f2d9a8", "#efcf9a", "#e6c096", "#d6ae94", "#bd9c97"].reverse();
const water = ["#7fa3a6", "#5f8b93", "#467680", "#35636f"];

function bands(context: Context, colors: readonly string[], width: number, top: number, bottom: number): void {
  for (const [number, color] of colors.entries()) {
    const from = Math.round(top + ((bottom - top) * number) / colors.length);
    context.fillStyle = color;
    context.fillRect(0, from, width, bottom - from);
  }
}

function glints(context: Context, width: number, top: number, bottom: number, time: number): void {
  for (let each = 0; each < (bottom - top) * 1.2; each += 1) {
    const seed = Math.abs(Math.sin(each * 12.9898) * 43758.5453) % 1;
    const y = top + 2 + Math.floor((each * 7.31) % (bottom - top - 2));
    const long = 3 + Math.floor(seed * 7) + Math.floor((y - top) / 12);
    const x = Math.floor((seed * width * 3 + time * (2 + seed * 4) + each * 37) % (width + 24)) - 12;
    context.fillStyle = each % 3 === 0 ? "#f2d9a8" : "#a9c3bd";
    context.globalAlpha = 0.25 + 0.35 * Math.abs(Math.sin(time * 0.7 + each));
    context.fillRect(x, y, long, 1);
  }
  context.globalAlpha = 1;
}

function islands(context: Context, width: number, horizon: number): void {
  context.fillStyle = "#8a8f93";
  for (const [from, to, tall] of [
    [0.04, 0.26, 5],
    [0.55, 0.82, 4],
    [0.86, 1.1, 7],
  ] as const) {
    for (let x = Math.floor(width * from); x < width * to; x += 1) {
      const part = (x / width - from) / (to - from);
      const height = Math.round(Math.sin(part * Math.PI) * tall + (Math.sin(x * 0.9) > 0.6 ? 1 : 0));
      context.fillRect(x, horizon - height, 1, height);
    }
  }
}

function planks(context: Context, width: number, top: number, bottom: number): void {
  context.fillStyle = "#3a2616";
  context.fillRect(0, top - 1, width, bottom - top + 1);
  const rows = 4;
  for (let row = 0; row < rows; row += 1) {
    const y = Math.round(top + ((bottom - top) * row) / rows);
    const next = Math.round(top + ((bottom - top) * (row + 1)) / rows);
    context.fillStyle = ["#a9834f", "#9d7846", "#916d3f", "#856339"][row] ?? "#856339";
    context.fillRect(0, y, width, next - y - 1);
    context.fillStyle = "#c19a63";
    context.fillRect(0, y, width, 1);
    for (let x = (row * 29) % 47; x < width; x += 47) {
      context.fillStyle = "#4c331d";
      context.fillRect(x, y, 1, next - y);
      context.fillRect(x + 3, y + 2, 1, 1);
      context.fillRect(x - 3, y + 2, 1, 1);
    }
  }
}

function post(context: Context, x: number, top: number, bottom: number): void {
  context.fillStyle = "#22150c";
  context.fillRect(x - 1, top, 7, bottom - top);
  context.fillStyle = "#6b4a2b";
  context.fillRect(x, top + 1, 5, bottom - top);
  context.fillStyle = "#94693d";
  context.fillRect(x, top + 1, 2, bottom - top);
  context.fillStyle = "#c19a63";
  context.fillRect(x, top + 1, 5, 1);
  context.fillStyle = "#e6d9bf";
  context.fillRect(x, top + 6, 5, 2);
}

function lampPost(context: Context, x: number, ground: number, time: number): void {
  context.fillStyle = "#1d262b";
  context.fillRect(x, ground - 74, 2, 74);
  context.fillRect(x, ground - 74, 10, 2);
  context.fillRect(x + 6, ground - 72, 7, 2);
  context.fillRect(x + 6, ground - 62, 7, 2);
  flame(context, x + 7, ground - 70, time);
}

function flame(context: Context, x: number, y: number, time: number): void {
  context.fillStyle = Math.sin(time * 9) > -0.7 ? "#fbd873" : "#f2a83a";
  context.fillRect(x, y, 5, 8);
  context.fillStyle = "#fff6c9";
  context.fillRect(x + 2, y + 2, 2, 4);
}

function hut(context: Context, x: number, ground: number): void {
  context.fillStyle = "#22150c";
  context.fillRect(x - 1, ground - 60, 92, 60);
  for (let row = 0; row < 10; row += 1) {
    context.fillStyle = row % 2 === 0 ? "#5f7f80" : "#557475";
    context.fillRect(x, ground - 59 + row * 6, 90, 5);
  }
  context.fillStyle = "#2a1a10";
  for (let row = 0; row < 22; row += 1) context.fillRect(x - 8 + row, ground - 60 - row, 106 - row * 2, 1);
  context.fillStyle = "#8a4a35";
  for (let row = 1; row < 21; row += 1)
    if (row % 4 !== 0) context.fillRect(x - 6 + row, ground - 60 - row, 102 - row * 2, 1);
  context.fillStyle = "#22150c";
  context.fillRect(x + 12, ground - 42, 24, 42);
  context.fillStyle = "#9c3b2e";
  context.fillRect(x + 14, ground - 40, 20, 40);
  context.fillStyle = "#b98a2f";
  context.fillRect(x + 29, ground - 20, 2, 3);
  context.fillStyle = "#22150c";
  context.fillRect(x + 50, ground - 44, 28, 20);
  panes(context, x + 52, ground - 42);
  context.fillStyle = "#f4ecdc";
  context.fillRect(x + 52, ground - 56, 24, 8);
  context.fillStyle = "#16323a";
  context.fillRect(x + 55, ground - 53, 18, 1);
  context.fillRect(x + 57, ground - 51, 14, 1);
}

function panes(context: Context, x: number, y: number): void {
  context.fillStyle = "#f2c56a";
  context.fillRect(x, y, 24, 16);
  context.fillStyle = "#22150c";
  context.fillRect(x + 11, y, 2, 16);
  context.fillRect(x, y + 7, 24, 1);
}

function boat(context: Context, x: number, y: number, time: number): void {
  const bob = Math.round(Math.sin(time * 1.4));
  context.fillStyle = "#22150c";
  for (let row = 0; row < 9; row += 1) context.fillRect(x + row * 2, y + bob + row, 54 - row * 4, 1);
  context.fillStyle = "#9c3b2e";
  for (let row = 1; row < 5; row += 1) context.fillRect(x + 2 + row * 2, y + bob + row, 50 - row * 4, 1);
  context.fillStyle = "#e6d9bf";
  context.fillRect(x + 3, y + bob + 1, 48, 1);
  context.fillStyle = "#3a2616";
  context.fillRect(x + 24, y + bob - 30, 2, 31);
}

function reeds(context: Context, width: number, ground: number, time: number, count: number, from: number): void {
  for (let each = 0; each < count; each += 1) {
    const seed = Math.abs(Math.sin((each + from) * 78.233) * 43758.5453) % 1;
    const x = Math.floor((seed * 7919) % width);
    const tall = 12 + Math.floor(seed * 26);
    const color = ["#4f5f2c", "#6d7b38", "#8f9a4d", "#3c4a25"][each % 4] ?? "#4f5f2c";
    for (let row = 0; row < tall; row += 1) {
      const lean = Math.round(Math.sin(time * 1.1 + x * 0.05) * 3 * (row / tall) ** 2);
      context.fillStyle = color;
      context.fillRect(x + lean, ground - row, 1, 1);
      if (row > tall - 6 && each % 3 === 0) {
        context.fillStyle = "#6b4a2b";
        context.fillRect(x + lean, ground - row, 2, 1);
      }
    }
  }
}

/** The jetty by the post office. */
export function paintJetty(context: Context, width: number, height: number, time: number): void {
  const deck = height - (width > 200 ? 30 : 24);
  const horizon = Math.round(height * 0.42);
  bands(context, sky, width, 0, horizon);
  context.fillStyle = "#f9ecc4";
  context.beginPath();
  context.arc(Math.round(width * 0.72), horizon - 2, 11, Math.PI, 0);
  context.fill();
  islands(context, width, horizon);
  bands(context, water, width, horizon, deck);
  glints(context, width, horizon, deck, time);
  if (width > 200) {
    boat(context, 196, deck - 16, time);
    hut(context, 14, deck + 2);
    lampPost(context, 128, deck + 2, time);
  }
  planks(context, width, deck, height);
  for (let x = 8; x < width; x += width > 200 ? 76 : width - 22) post(context, x, deck - 14, deck + 3);
}

/** The jetty with the locker that stands on it. */
export function paintHarborJetty(context: Context, width: number, height: number, time: number): void {
  paintJetty(context, width, height, time);
  const [left, top] = [104, height - 58];
  context.fillStyle = "#241409";
  context.fillRect(left - 1, top - 1, 20, 34);
  context.fillStyle = "#7c4430";
  context.fillRect(left, top, 18, 32);
  context.fillStyle = "#9c5a45";
  context.fillRect(left, top, 18, 2);
  context.fillRect(left, top, 2, 32);
  context.fillStyle = "#241409";
  context.fillRect(left + 9, top + 2, 1, 30);
  context.fillStyle = "#d9a941";
  context.fillRect(left + 7, top + 15, 1, 3);
  context.fillRect(left + 11, top + 15, 1, 3);
}

/** What shines on the jetty at night: the lamp, and the window of the hut. */
export function paintJettyLights(context: Context, _width: number, height: number, time: number): void {
  const ground = height - 28;
  glow(context, 78, ground - 34, 26);
  panes(context, 66, ground - 42);
  glow(context, 137, ground - 66, 34);
  flame(context, 135, ground - 70, time);
}

/** The marsh beyond the jetty, at low water. */
export function paintMarsh(context: Context, width: number, height: number, time: number): void {
  const ground = height - 40;
  const horizon = Math.round(height * 0.36);
  bands(context, ["#9fb3ae", "#b4c1b1", "#ccceb2", "#e0d6b0"], width, 0, horizon);
  islands(context, width, horizon);
  bands(context, water, width, horizon, ground - 30);
  glints(context, width, horizon, ground - 30, time);
  bands(context, ["#7a7a4a", "#6f6f43"], width, ground - 30, ground);
  reeds(context, width, ground - 24, time, 150, 1);
  bands(context, ["#8b7d55", "#7f7150", "#71654a", "#645a44"], width, ground - 12, height);
  for (let each = 0; each < 40; each += 1) {
    const seed = Math.abs(Math.sin(each * 3.7) * 1000) % 1;
    context.fillStyle = each % 2 === 0 ? "#5b523d" : "#9b8d63";
    context.fillRect(Math.floor(seed * width), ground - 8 + ((each * 13) % 44), 4 + (each % 5), 1);
  }
  context.fillStyle = "#5f8b93";
  for (const [x, y, long] of [
    [40, 8, 54],
    [210, 6, 70],
  ] as const) {
    context.fillRect(x, ground + y, long, 3);
    context.fillRect(x + 4, ground + y - 1, long - 10, 5);
  }
  // The creek, in which one wades.
  for (let row = 0; row < 16; row += 1) {
    const inset = Math.round(26 * (1 - Math.min(1, row / 6)));
    context.fillStyle = row === 0 ? "#a9c3bd" : row < 4 ? "#5f8b93" : "#467680";
    context.fillRect(58 + inset, ground + 24 + row, width - 88 - inset * 2, 1);
  }
  glints(context, width - 120, ground + 28, ground + 40, time);
}

/** The reeds that stand before everything else in the marsh. */
export function paintMarshFront(context: Context, width: number, height: number, time: number): void {
  reeds(context, width, height + 6, time, 40, 400);
}
