import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { compression } from "vite-plugin-compression2";
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
    // Packed once, here, and not by the server again and again. What a font holds is packed already.
    compression({ include: /\.(js|css|wasm)$/, threshold: 1000, algorithms: ["brotliCompress", "gzip"] }),
  ],
  build: {
    outDir: "../rough_draw/api/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        // The bundler would name what is shared after all who share it.
        chunkFileNames: (chunk) => `assets/${chunk.name.split("~")[0]}-[hash].js`,
        assetFileNames: (asset) => `assets/${(asset.names[0] ?? "file").split(/[~.]/)[0]}-[hash][extname]`,
        codeSplitting: {
          // Few files: over a slow line each costs a way there and back. What every page needs is one of them; what
          // some pages share goes together unless it is large.
          groups: [
            { name: "first", tags: ["$initial"], priority: 2 },
            { name: "shared", minShareCount: 2, entriesAware: true, entriesAwareMergeThreshold: 16000, priority: 1 },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8040" } },
});
