// Starts the built server.
const { start } = await import("../build/server/index.js");
start();
