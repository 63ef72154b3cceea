/** The arrows of the house: app, cli, server → store, formats → core. Tests may look wherever they need to. */
const rule = (name, from, to, comment) => ({ name, severity: "error", comment, from: { path: from, pathNot: "\\.test\\.ts$" }, to: { path: to } });
module.exports = {
  forbidden: [
    rule("core-stands-alone", "^core/", "^(app|server|store|formats|cli|demo|bench|workers)/", "The core knows nothing above it."),
    rule(
      "core-has-no-interface",
      "^core/",
      "(^|/)node_modules/(react|react-dom|react-router|better-sqlite3|express)|^(fs|path|http|node:)",
      "No React, no Node, no SQL in the core.",
    ),
    rule("store-and-formats-below-the-app", "^(store|formats)/", "^(app|server|cli|demo|bench)/", "Storage and files know nothing of screens."),
    rule("formats-know-no-store", "^formats/", "^store/", "A file format is not a table."),
    rule(
      "meters-stand-alone",
      "^meters/",
      "^(app|server|store|cli|demo|bench|workers)/",
      "A stand-in is an outside device: it knows the core and nothing of the app.",
    ),
    rule(
      "papers-show-drawings-not-screens",
      "^papers/",
      "^app/(routes|bench|rig|shop|ui)/",
      "A paper takes the drawings of the screens and what they are worked out from, no screen.",
    ),
    rule("core-knows-no-papers", "^(core|store|formats)/", "^papers/", "Papers stand on top."),
    rule("cli-knows-no-screens", "^cli/", "^app/", "The command line uses the core directly."),
    rule("circuit-knows-no-machine", "^core/circuit/", "^core/(machine|meter|procedure|diagnosis)/", "circuit ← machine ← meter ← procedure ← diagnosis"),
    rule("machine-below-meter", "^core/machine/", "^core/(meter|procedure|diagnosis)/", "circuit ← machine ← meter ← procedure ← diagnosis"),
    rule("meter-below-procedure", "^core/meter/", "^core/(procedure|diagnosis)/", "circuit ← machine ← meter ← procedure ← diagnosis"),
    rule("procedure-below-diagnosis", "^core/procedure/", "^core/diagnosis/", "circuit ← machine ← meter ← procedure ← diagnosis"),
    { name: "no-circles", severity: "error", from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    exclude: { path: "(^build|^\\.react-router|\\+types)" },
  },
};
