import base from "./playwright.config.ts";

/** Takes the pictures in docs/screenshots; `cargo xtask shots`. */
export default { ...base, testDir: "shots", testMatch: "*.shot.ts" };
