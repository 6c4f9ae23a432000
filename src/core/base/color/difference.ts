import { type LinearRgb, lightOf, toLinear } from "./color.ts";

/** How eyes see color: `protan` without red receptors, `deutan` without green, `tritan` without blue ones. */
export type ColorVision = "normal" | "protan" | "deutan" | "tritan";

type Matrix = readonly [LinearRgb, LinearRgb, LinearRgb];

/**
 * Color-blind sight at its full strength, over sRGB values (G. M. Machado, M. M. Oliveira, L. A. F. Fernandes, "A
 * physiologically-based model for simulation of color vision deficiency", 2009).
 */
const blindness: Readonly<Record<Exclude<ColorVision, "normal">, Matrix>> = {
  protan: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deutan: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritan: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

/** Where a color `0xRRGGBB` lies in CIELAB under D65, for eyes of a kind. */
export function toLab(color: number, sight: ColorVision): Lab {
  if (sight === "normal") return labOf(toLinear(color));
  const values: LinearRgb = [(color >> 16) / 255, ((color >> 8) & 255) / 255, (color & 255) / 255];
  const [red, green, blue] = blindness[sight];
  return labOf([lightOf(dot(red, values)), lightOf(dot(green, values)), lightOf(dot(blue, values))]);
}

export type Lab = readonly [lightness: number, a: number, b: number];

function labOf(light: LinearRgb): Lab {
  const x = curve((dot([0.4123907992659593, 0.357584339383878, 0.1804807884018343], light) / 0.3127) * 0.329);
  const y = curve(dot([0.2126390058715103, 0.715168678767756, 0.0721923153607337], light));
  const z = curve((dot([0.0193308187155918, 0.119194779794626, 0.9505321522496607], light) / 0.3583) * 0.329);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

function curve(value: number): number {
  return value > 216 / 24389 ? Math.cbrt(value) : ((24389 / 27) * value + 16) / 116;
}

function dot([a, b, c]: LinearRgb, [x, y, z]: LinearRgb): number {
  return a * x + b * y + c * z;
}

const degrees = Math.PI / 180;

/**
 * How different two colors look, 0 for the same, about 1 where it can just be seen: CIEDE2000 (M. R. Luo, G. Cui, B. Rigg, "The
 * development of the CIE 2000 colour-difference formula", 2001; written after G. Sharma, W. Wu, E. N. Dalal, 2005).
 */
export function ciede2000([l1, a1, b1]: Lab, [l2, a2, b2]: Lab): number {
  const flat = ((Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2) ** 7;
  const stretch = 1.5 - 0.5 * Math.sqrt(flat / (flat + 25 ** 7));
  const [c1, c2] = [Math.hypot(a1 * stretch, b1), Math.hypot(a2 * stretch, b2)];
  const hue = (a: number, b: number) => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / degrees + 360) % 360);
  const [h1, h2] = [hue(a1 * stretch, b1), hue(a2 * stretch, b2)];
  const isGray = c1 * c2 === 0;
  const turn = isGray ? 0 : ((h2 - h1 + 540) % 360) - 180;
  const lightness = l2 - l1;
  const chroma = c2 - c1;
  const hues = 2 * Math.sqrt(c1 * c2) * Math.sin((turn / 2) * degrees);
  const meanL = (l1 + l2) / 2;
  const meanC = (c1 + c2) / 2;
  const meanH = isGray ? h1 + h2 : (h1 + h2 + (Math.abs(h1 - h2) <= 180 ? 0 : h1 + h2 < 360 ? 360 : -360)) / 2;
  const cosine = (times: number, shift: number) => Math.cos((times * meanH + shift) * degrees);
  const t = 1 - 0.17 * cosine(1, -30) + 0.24 * cosine(2, 0) + 0.32 * cosine(3, 6) - 0.2 * cosine(4, -63);
  const weightL = 1 + (0.015 * (meanL - 50) ** 2) / Math.sqrt(20 + (meanL - 50) ** 2);
  const weightC = 1 + 0.045 * meanC;
  const weightH = 1 + 0.015 * meanC * t;
  const cross =
    -2 *
    Math.sqrt(meanC ** 7 / (meanC ** 7 + 25 ** 7)) *
    Math.sin(60 * Math.exp(-(((meanH - 275) / 25) ** 2)) * degrees);
  const [byL, byC, byH] = [lightness / weightL, chroma / weightC, hues / weightH];
  return Math.sqrt(byL ** 2 + byC ** 2 + byH ** 2 + cross * byC * byH);
}
