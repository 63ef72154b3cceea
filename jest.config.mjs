export default {
  testEnvironment: "node",
  roots: ["<rootDir>/core", "<rootDir>/store", "<rootDir>/formats", "<rootDir>/app", "<rootDir>/server", "<rootDir>/demo", "<rootDir>/cli"],
  testMatch: ["**/*.test.ts"],
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  transform: {
    "\\.tsx?$": [
      "babel-jest",
      {
        babelrc: false,
        configFile: false,
        presets: [["@babel/preset-typescript", { allowDeclareFields: true, onlyRemoveTypeImports: true }]],
        plugins: [],
      },
    ],
  },
};
