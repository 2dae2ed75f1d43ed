import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
  // nothing inlined: the content policy takes files of this server only
  build: { assetsInlineLimit: 0, outDir: "dist", emptyOutDir: true, chunkSizeWarningLimit: 900 },
  test: {
    environment: "happy-dom",
    globals: true,
    setupFiles: ["src/testing/test-setup.ts"],
    css: false,
    isolate: false,
    maxWorkers: "100%",
    testTimeout: 60_000,
  },
});
