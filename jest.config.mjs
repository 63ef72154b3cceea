export default {
  testEnvironment: "node",
  roots: ["<rootDir>/core", "<rootDir>/store", "<rootDir>/formats", "<rootDir>/app", "<rootDir>/server", "<rootDir>/demo", "<rootDir>/cli", "<rootDir>/bench"],
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
        plugins: [],
      },
    ],
  },
};
