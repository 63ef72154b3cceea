/**
 * Test files run in a context of their own, in which every look at a global (Math, Float64Array) costs a hundred times a
 * variable's. The sums live on them, so each module takes them into variables first.
 */
const GLOBALS = ["Math", "Number", "Object", "Array", "Map", "Float64Array", "Int32Array"];
const takeGlobals = ({ types }) => ({
  visitor: {
    Program(path) {
      const taken = GLOBALS.filter((name) => !path.scope.hasOwnBinding(name));
      const one = (name) => types.variableDeclarator(types.identifier(name), types.memberExpression(types.identifier("globalThis"), types.identifier(name)));
      path.unshiftContainer("body", types.variableDeclaration("const", taken.map(one)));
    },
  },
});

export default {
  testEnvironment: "node",
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
        plugins: [takeGlobals],
      },
    ],
  },
};
