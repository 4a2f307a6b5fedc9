import { fileURLToPath } from "node:url";
import react from "@vitejs/plugin-react";
import license, { type Dependency } from "rollup-plugin-license";
import { defineConfig } from "vitest/config";

/** Notices of the packages in the page, for the binary that embeds it. */
const notices = (packages: Dependency[]) =>
  JSON.stringify(
    packages.map(({ name, version, license, licenseText: text, noticeText: notice }) => ({
      name,
      version,
      license,
      text,
      notice,
    })),
  );

export default defineConfig({
  plugins: [
    react(),
    license({
      thirdParty: {
        output: { file: fileURLToPath(new URL("licences.json", import.meta.url)), template: notices },
      },
    }),
  ],
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
