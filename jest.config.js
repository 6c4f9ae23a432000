import { builtFile, entries, nameOf } from "./scripts/entries.js";

const shared = {
  testEnvironment: "<rootDir>/scripts/jest-environment.js",
  roots: ["<rootDir>/tests"],
  extensionsToTreatAsEsm: [".ts"],
  transform: {
    "^.+\\.ts$": [
      "@swc/jest",
      { jsc: { parser: { syntax: "typescript" }, target: "es2022" }, module: { type: "es6" } },
    ],
  },
  // What is built is tested: it is what users get, and to load it takes less time than to load hundreds of sources for each file of tests.
  moduleNameMapper: {
    ...Object.fromEntries(entries.map(({ entry }) => [`^${nameOf(entry)}$`, `<rootDir>/${builtFile(entry)}`])),
    "/src/cli/run\\.ts$": "<rootDir>/dist/js/run.js",
  },
};

export default {
  projects: [
    {
      ...shared,
      displayName: "library",
      testMatch: ["**/*.test.ts"],
      testPathIgnorePatterns: ["/tests/browser/"],
      globalSetup: "<rootDir>/scripts/jest-start.js",
      globalTeardown: "<rootDir>/scripts/jest-stop.js",
    },
    {
      ...shared,
      displayName: "browser",
      testMatch: ["**/browser/*.test.ts"],
      globalSetup: "<rootDir>/scripts/jest-serve.js",
      globalTeardown: "<rootDir>/scripts/jest-stop-serving.js",
    },
  ],
  // So that what hangs fails soon.
  testTimeout: 60_000,
  maxWorkers: 2,
  testSequencer: "<rootDir>/scripts/jest-sequencer.js",
  reporters: ["default", "<rootDir>/scripts/jest-budget.js", "<rootDir>/scripts/jest-tally.js"],
};
