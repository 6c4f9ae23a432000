/**
 * Installs what the tests need and packages do not bring, where it is missing and we may: Chromium and PostgreSQL. Makes the database that tests
 * copy.
 */
await import("./ensure-chromium.ts");
await import("./ensure-postgres.ts");
const { databaseTemplate } = await import("./database-template.ts");
await databaseTemplate();
