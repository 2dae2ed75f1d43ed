/// <reference types="vitest/config" />
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";

import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vite";

// what an answer looks like; answers that a device keeps are good for this
const contract = createHash("sha256").update(readFileSync("src/api/schema.generated.ts")).digest("hex").slice(0, 12);

export default defineConfig({
  define: { __LODELINE_VERSION__: JSON.stringify(contract) },
  plugins: [
    react(),
    VitePWA({
      // a new version is offered, never put in while somebody types
      registerType: "prompt",
      injectRegister: false,
      manifest: {
        name: "Lodeline",
        short_name: "Lodeline",
        description: "How long your rig can stay, and what sends it away.",
        id: "/",
        start_url: "/",
        display: "standalone",
        background_color: "#f5f2ea",
        theme_color: "#26302b",
        icons: [
          { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
          { src: "/icon.svg", sizes: "any", type: "image/svg+xml" },
        ],
        shortcuts: [{ name: "Round", url: "/round" }],
      },
      workbox: {
        // the shell and every view's code, whole
        globPatterns: ["**/*.{js,css,html,svg,woff2,png}"],
        navigateFallback: "/index.html",
        // the outline of coasts is large and the sketch does without: kept when it was first seen
        globIgnores: ["**/countries-*.js"],
        runtimeCaching: [{ urlPattern: /\/assets\/countries-.*\.js$/, handler: "CacheFirst" }],
        navigateFallbackDenylist: [/^\/api\//, /^\/calendar\//],
        cleanupOutdatedCaches: true,
        sourcemap: false,
      },
    }),
  ],
  server: { proxy: { "/api": "http://127.0.0.1:8000", "/calendar": "http://127.0.0.1:8000" } },
  // nothing inlined: the content policy takes files of this server only
  build: {
    assetsInlineLimit: 0,
    outDir: "dist",
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    // the looks of components that are not used are left out: making them does nothing else
    rolldownOptions: { treeshake: { manualPureFunctions: ["defineConfig", "defineRecipe", "defineSlotRecipe"] } },
  },
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
