/**
 * Test files run in a context of their own, in which every look at a global (Math, Float64Array) costs a hundred times a
 * variable's. The sums live on them, so each module takes them into variables first. A file of its own, as workers of the
 * tests get their configuration without functions.
 */
const GLOBALS = ["Math", "Number", "Object", "Array", "Map", "Float64Array", "Int32Array"];

// biome-ignore lint/style/noDefaultExport: Babel takes a plugin by its file's default export
export default function takeGlobals({ types }) {
  return {
    visitor: {
      Program(path) {
        const taken = GLOBALS.filter((name) => !path.scope.hasOwnBinding(name));
        const own = (name) => types.variableDeclarator(types.identifier(name), types.memberExpression(types.identifier("globalThis"), types.identifier(name)));
        path.unshiftContainer("body", types.variableDeclaration("const", taken.map(own)));
      },
    },
  };
}
