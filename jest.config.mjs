export default {
  testEnvironment: "node",
  maxWorkers: "100%",
  // The demo workshop is filled from its circuits, and a busy machine takes its time for that: no test passes or fails by the clock.
  testTimeout: 180_000,
  globalSetup: "<rootDir>/tests/support/scratch.mjs",
  roots: [
    "<rootDir>/core",
    "<rootDir>/store",
    "<rootDir>/formats",
    "<rootDir>/app",
    "<rootDir>/server",
    "<rootDir>/demo",
    "<rootDir>/cli",
    "<rootDir>/bench",
    "<rootDir>/meters",
    "<rootDir>/papers",
  ],
  testMatch: ["**/*.test.ts", "**/*.test.tsx"],
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  transform: {
    "\\.tsx?$": [
      "babel-jest",
      {
        babelrc: false,
        configFile: false,
        presets: [
          ["@babel/preset-react", { runtime: "automatic" }],
          ["@babel/preset-typescript", { allowDeclareFields: true, onlyRemoveTypeImports: true }],
        ],
        plugins: ["./scripts/lib/takeGlobals.mjs"],
      },
    ],
  },
};
