import { defineConfig } from "@playwright/test";

/** Debian's Chromium, WebGL drawn by the processor. */
export const chromium = {
  executablePath: "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--use-gl=angle",
    "--use-angle=gl-egl",
    "--ignore-gpu-blocklist",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};

export default defineConfig({
  testDir: "specs",
  fullyParallel: false,
  // Two cores, and each page draws on the processor: one at a time.
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [["list"]],
  forbidOnly: true,
  // The machine is shared and noisy; a test that needs its second try is reported as flaky.
  retries: 1,
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: chromium,
    acceptDownloads: true,
    trace: "off",
  },
});
