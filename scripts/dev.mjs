// The development server: pages are rebuilt as they are edited, the database is the same as in the demo.
import express from "express";
import { createServer } from "vite";

const vite = await createServer({ server: { middlewareMode: true } });
const { address, openPremises } = await vite.ssrLoadModule("./server/app.ts");
const { host, port } = address();
const premises = openPremises();
const app = express();
app.use(vite.middlewares);
app.use(async (request, response, next) => {
  try {
    const server = await vite.ssrLoadModule("./server/app.ts");
    server.createApp(premises, host, false)(request, response, next);
  } catch (error) {
    vite.ssrFixStacktrace(error);
    next(error);
  }
});
app.listen(port, host, () => process.stdout.write(`Uvrel (development) is at http://${host}:${port}\n`));
