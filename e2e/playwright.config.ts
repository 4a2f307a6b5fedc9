import { defineConfig } from "@playwright/test";

/**
 * Debian's Chromium, WebGL drawn by the processor. The page itself is put together without OpenGL: a third of both
 * cores went into drawing panels through a graphics card that is not there.
 */
export const chromium = {
  executablePath: "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--use-gl=angle",
    "--use-angle=gl-egl",
    "--ignore-gpu-blocklist",
    "--disable-gpu-compositing",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};

/** Size of the page, pixels. */
export const viewport = { width: 1280, height: 800 };

export default defineConfig({
  testDir: "specs",
  fullyParallel: false,
  // Two cores, and each page draws on the processor: one at a time.
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [["list"]],
  forbidOnly: true,
  // A test that needs a second try has found a fault.
  retries: 0,
  use: {
    viewport,
    launchOptions: chromium,
    acceptDownloads: true,
    trace: "off",
  },
});
