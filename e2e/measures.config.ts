import base from "./playwright.config.ts";

/** Measures that are printed and not judged; `cargo xtask bench`. */
export default { ...base, testDir: "measures", testMatch: "*.measure.ts" };
