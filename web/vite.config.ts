import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { target: "es2023", assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:7410" } },
  test: {
    // a machine that builds and runs two browsers beside them makes them slow, not wrong
    testTimeout: 60_000,
    hookTimeout: 60_000,
    // what shows nothing needs no page, which takes longer to make than most tests to run
    projects: [
      { extends: true, test: { name: "plain", environment: "node", include: ["src/**/*.test.ts"] } },
      {
        extends: true,
        test: {
          name: "page",
          environment: "jsdom",
          include: ["src/**/*.test.tsx"],
          setupFiles: "src/tests/patience.ts",
        },
      },
    ],
  },
});
