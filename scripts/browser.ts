import { type Browser, chromium } from "playwright-core";

/** Where Debian's Chromium is, unless `CHROMIUM` says otherwise. */
export const chromiumPath = process.env["CHROMIUM"] ?? "/usr/bin/chromium";

/** Starts Chromium without a window. */
export async function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: chromiumPath,
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
}
