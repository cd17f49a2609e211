import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { target: "es2022", assetsInlineLimit: 0 },
  server: { proxy: { "/api": { target: "http://127.0.0.1:8760", ws: true } } },
  test: {
    environment: "jsdom",
    // one page for all files of a thread: making one for each took five times as long as the tests themselves
    pool: "threads",
    isolate: false,
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/test-setup.ts"],
    coverage: {
      provider: "v8",
      include: ["src/**/*.{ts,tsx}"],
      exclude: [
        "src/api/schema.d.ts",
        "src/main.tsx",
        "src/**/*.test*.{ts,tsx}",
        "src/**/*.testing.{ts,tsx}",
      ],
      reporter: ["text-summary"],
      reportsDirectory: "../var/coverage-web",
    },
  },
});
