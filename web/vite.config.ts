import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: { target: "es2023", chunkSizeWarningLimit: 900, assetsInlineLimit: 0 },
  // `npm run dev` beside `rovnek demo`.
  server: { proxy: { "/api": { target: "http://127.0.0.1:4780", ws: true } } },
  test: { include: ["src/**/*.test.ts"] },
});
