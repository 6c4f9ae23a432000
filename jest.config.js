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
  moduleNameMapper: {
    "^zealous-mantle$": "<rootDir>/src/core/index.ts",
    "^zealous-mantle/authoring$": "<rootDir>/src/core/authoring.ts",
    "^zealous-mantle/node$": "<rootDir>/src/node/index.ts",
    "^zealous-mantle/browser$": "<rootDir>/src/browser/index.ts",
    "^zealous-mantle/english$": "<rootDir>/src/core/base/messages/english.ts",
    "^zealous-mantle/english/art$": "<rootDir>/src/core/base/messages/english-art.ts",
    "^zealous-mantle/import$": "<rootDir>/src/core/import.ts",
    "^zealous-mantle/model$": "<rootDir>/src/core/model.ts",
    "^zealous-mantle/phaser$": "<rootDir>/src/engines/phaser/index.ts",
    "^zealous-mantle/pixi$": "<rootDir>/src/engines/pixi/index.ts",
    "^zealous-mantle/three$": "<rootDir>/src/engines/three/index.ts",
    "^zealous-mantle/judge$": "<rootDir>/src/core/judge.ts",
    "^zealous-mantle/atlas$": "<rootDir>/src/core/atlas.ts",
    "^zealous-mantle/packs$": "<rootDir>/src/core/packs.ts",
    "^zealous-mantle/survey$": "<rootDir>/src/core/survey.ts",
    "^zealous-mantle/sync$": "<rootDir>/src/core/sync.ts",
    "^zealous-mantle/server$": "<rootDir>/src/server/index.ts",
    "^zealous-mantle/share$": "<rootDir>/src/core/share.ts",
    "^zealous-mantle/vite$": "<rootDir>/src/vite/index.ts",
    "^zealous-mantle/react$": "<rootDir>/src/frameworks/react.ts",
    "^zealous-mantle/vue$": "<rootDir>/src/frameworks/vue.ts",
    "^zealous-mantle/svelte$": "<rootDir>/src/frameworks/svelte.ts",
    "^zealous-mantle/testing$": "<rootDir>/src/testing/index.ts",
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
