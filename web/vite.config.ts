import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: {
    target: "es2023",
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 800,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: "three", test: /node_modules\/three/ },
            { name: "mui", test: /node_modules\/(@mui|@emotion|notistack)/ },
          ],
        },
      },
    },
  },
  // `npm run dev` beside `rovnek demo`.
  server: { proxy: { "/api": { target: "http://127.0.0.1:4780", ws: true } } },
  test: { include: ["src/**/*.test.ts"] },
});
