import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [tailwindcss(), reactRouter()],
  build: { assetsInlineLimit: 0 },
  worker: { format: "es" },
  optimizeDeps: {
    include: [
      "react",
      "react-dom",
      "react-dom/client",
      "react/jsx-runtime",
      "react-router",
      "react-router/dom",
      "radix-ui",
      "lucide-react",
      "@conform-to/react",
      "date-fns",
      "comlink",
      "papaparse",
      "echarts/core",
      "echarts/charts",
      "echarts/components",
      "echarts/renderers",
    ],
  },
  environments: {
    ssr: {
      build: { rollupOptions: { input: "./server/app.ts" } },
      resolve: { external: ["better-sqlite3"] },
    },
  },
});
