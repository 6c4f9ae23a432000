/** What the tests need before the first of them runs: Chromium, PostgreSQL and the built code of the package. */
await import("./ensure-chromium.ts");
await import("./ensure-postgres.ts");
await import("./build-code.js");
