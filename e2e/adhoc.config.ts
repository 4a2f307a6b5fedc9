import base from "./playwright.config.ts";
export default { ...base, testDir: "adhoc", testMatch: /.*\.shot\.ts/ };
