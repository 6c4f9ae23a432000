import { InvalidArgumentError } from "commander";

/** Reads a whole number from the command line. */
export function wholeNumber(text: string): number {
  const number = Number(text);
  if (!Number.isSafeInteger(number)) throw new InvalidArgumentError("Give a whole number.");
  return number;
}

/** Reads a whole number of at least 1 from the command line. */
export function positiveNumber(text: string): number {
  const number = wholeNumber(text);
  if (number < 1) throw new InvalidArgumentError("Give a whole number of at least 1.");
  return number;
}

/** Reads a number of pixels from the command line, of 0 or more. */
export function size(text: string): number {
  const number = wholeNumber(text);
  if (number < 0 || number > 256) throw new InvalidArgumentError("Give a whole number from 0 to 256.");
  return number;
}

/** Reads how many characters to roll from the command line. */
export function rollCount(text: string): number {
  const number = positiveNumber(text);
  if (number > 10_000) throw new InvalidArgumentError("Give at most 10000.");
  return number;
}

/** Reads a time in seconds from the command line. */
export function seconds(text: string): number {
  const number = Number(text);
  if (text.trim() === "" || !Number.isFinite(number) || number < 0)
    throw new InvalidArgumentError("Give a time in seconds, like 0.3.");
  return number;
}
