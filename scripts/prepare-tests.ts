/**
 * Installs what the tests need and packages do not bring, where it is missing and we may: Chromium and PostgreSQL. Makes what several test files use:
 * the server's program, and the database that is copied for each.
 */
await import("./ensure-chromium.ts");
await import("./ensure-postgres.ts");
const { databaseTemplate } = await import("./database-template.ts");
const { serverProgram } = await import("./start-server.ts");
await Promise.all([databaseTemplate(), serverProgram()]);
