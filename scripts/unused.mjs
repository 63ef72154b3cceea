// Names every export that nothing else uses. Routes and configurations are read by the framework, a thread's work by the pool, not by imports.
import { analyzeTsConfig } from "ts-unused-exports";

const READ_BY_FRAMEWORK =
  /(^|\/)(app\/routes(\.ts|\/)|app\/root\.tsx|app\/entry\.|server\/app\.ts|workers\/(charts|housekeeping)\.ts|[^/]*\.config\.ts|tests\/|\.react-router\/)/;
const { unusedExports } = analyzeTsConfig("./tsconfig.json");
const lines = Object.entries(unusedExports)
  .filter(([file]) => !READ_BY_FRAMEWORK.test(file.replace(`${process.cwd()}/`, "")))
  .flatMap(([file, names]) =>
    Array.isArray(names) ? names.map((one) => `${file.replace(`${process.cwd()}/`, "")}:${one.location?.line ?? 1} ${one.exportName}`) : [],
  );
for (const line of lines) process.stderr.write(`unused export: ${line}\n`);
if (lines.length > 0) process.exitCode = 1;
