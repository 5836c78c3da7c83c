import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      registerType: "autoUpdate",
      // A file of its own: the page's policy allows no script within it.
      injectRegister: "script-defer",
      includeAssets: ["icon.svg"],
      manifest: {
        name: "Rough Draw",
        short_name: "Rough Draw",
        description: "Evacuate a refrigeration or air-conditioning system, know that it is dry and tight, and prove it.",
        start_url: "/",
        scope: "/",
        display: "standalone",
        background_color: "#f1f3e6",
        theme_color: "#f1f3e6",
        icons: [
          { src: "icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "icon-512-safe.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
      },
      // A worker of our own: it also sends what waits when there is signal again and no page is open.
      strategies: "injectManifest",
      srcDir: "src",
      // Its name is what browsers that have an earlier version ask for.
      filename: "sw.ts",
      injectManifest: {
        rollupFormat: "iife",
        globPatterns: ["**/*.{js,css,html,svg,png,woff2}"],
        maximumFileSizeToCacheInBytes: 4 * 1024 * 1024,
      },
    }),
  ],
  build: { outDir: "../rough_draw/api/static", emptyOutDir: true, assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8040" } },
});
