/** Installs what the tests need and packages do not bring, where it is missing and we may: Chromium and PostgreSQL. */
await import("./ensure-chromium.ts");
await import("./ensure-postgres.ts");
