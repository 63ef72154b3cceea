import { index, type RouteConfig, route } from "@react-router/dev/routes";

export default [
  index("routes/rail.tsx"),
  route("jobs/new", "routes/intake.tsx"),
  route("jobs/import", "routes/import.tsx"),
  route("jobs/:id", "routes/bench.tsx"),
  route("jobs/:id/entries", "routes/entries.ts"),
  route("jobs/:id/advice", "routes/advice.ts"),
  route("jobs/:id/predictions", "routes/predictions.ts"),
  route("jobs/:id/case.json", "routes/case-file.ts"),
  route("jobs/:id/verdict", "routes/verdict.tsx"),
  route("jobs/:id/report", "routes/report.tsx"),
  route("machines", "routes/machines.tsx"),
  route("machines/new", "routes/machine-new.tsx"),
  route("machines/:id", "routes/machine.tsx"),
  route("machines/:id/edit", "routes/machine-edit.tsx"),
  route("rig", "routes/rig.tsx"),
  route("settings", "routes/settings.tsx"),
  route("theme", "routes/theme.ts"),
  route("*", "routes/not-found.tsx"),
] satisfies RouteConfig;
