import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

// The server serves the built files below /static/ and the page for every other address.
export default defineConfig({
  base: "/static/",
  plugins: [react(), tailwindcss()],
  build: {
    target: "es2022",
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 900,
    // One file for each language.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [{ test: /languages[\\/]\w+[\\/]/, name: (id) => /languages[\\/](\w+)/.exec(id)?.[1] ?? null }],
        },
      },
    },
  },
  // The sentences of the screens are beside those of the server, in report/instavis_report/languages.
  server: { fs: { allow: [".."] } },
  test: { environment: "node", testTimeout: 60_000, include: ["src/**/*.test.{ts,tsx}"] },
});
