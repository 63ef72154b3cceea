import { defineConfig } from "vite";

/** The programs without a page: command line, demo data, benchmark data. */
export default defineConfig({
  publicDir: false,
  ssr: { external: ["better-sqlite3", "@duckdb/node-api"] },
  build: {
    ssr: true,
    outDir: "build/tools",
    emptyOutDir: true,
    target: "node20",
    rollupOptions: {
      input: {
        uvrel: "./cli/uvrel.ts",
        charts: "./workers/charts.ts",
        housekeeping: "./workers/housekeeping.ts",
        seed: "./demo/seed.ts",
        advise: "./demo/advise.ts",
        fill: "./bench/fill.ts",
        circuit: "./bench/circuit.ts",
        families: "./bench/families.ts",
        library: "./bench/library.ts",
        trace: "./bench/trace.ts",
        contacts: "./bench/contacts.ts",
        diagnosis: "./bench/diagnosis.ts",
        ageing: "./bench/ageing.ts",
        chain: "./bench/chain.ts",
        records: "./bench/records.ts",
        learning: "./bench/learning.ts",
        days: "./bench/days.ts",
        fuzz: "./bench/fuzz.ts",
        engine: "./bench/engine.ts",
      },
      output: { entryFileNames: "[name].js" },
    },
  },
});
