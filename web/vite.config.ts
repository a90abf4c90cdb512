import { fileURLToPath } from "node:url";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

const page = (name: string) => fileURLToPath(new URL(name, import.meta.url));

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    rollupOptions: { input: { index: page("index.html"), api: page("api.html") } },
    // Everything ships with the application; nothing is inlined that the content policy would refuse.
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  test: { include: ["tests/*.test.ts"] },
  server: { proxy: { "/api": { target: "http://127.0.0.1:7311", changeOrigin: true } } },
});
