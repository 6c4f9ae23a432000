export default {
  testEnvironment: "node",
  roots: ["<rootDir>/tests"],
  testMatch: ["**/*.test.ts"],
  extensionsToTreatAsEsm: [".ts"],
  transform: {
    "^.+\\.ts$": [
      "@swc/jest",
      { jsc: { parser: { syntax: "typescript" }, target: "es2022" }, module: { type: "es6" } },
    ],
  },
  moduleNameMapper: {
    "^zealous-mantle$": "<rootDir>/src/core/index.ts",
    "^zealous-mantle/node$": "<rootDir>/src/node/index.ts",
    "^zealous-mantle/browser$": "<rootDir>/src/browser/index.ts",
  },
  testTimeout: 60_000,
  reporters: ["default", "<rootDir>/scripts/jest-tally.js"],
};
