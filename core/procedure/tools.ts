/** What a shop can have beside a multimeter; nothing else is asked for. Readings of any tool are weighed when they are given. */
export const TOOLS = {
  "test-lamp": "Test lamp",
  clamp: "Clamp ammeter",
  "load-tester": "Load tester",
  "conductance-tester": "Conductance tester",
  milliamps: "Ammeter with a milliamp range",
  "second-meter": "Second meter",
  "known-good-unit": "Known-good regulator/rectifier",
} as const;

export type ToolId = keyof typeof TOOLS;

export const TOOL_IDS = Object.keys(TOOLS) as [ToolId, ...ToolId[]];

/** What a shop is taken to have that has not said: nearly every one has a lamp. */
export const USUAL_TOOLS: readonly ToolId[] = ["test-lamp"];
