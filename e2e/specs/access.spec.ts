import type { Page } from "@playwright/test";
import axe from "axe-core";
import { panel } from "../panels.ts";
import { expect, test } from "../server.ts";

/** What stands in the way of those who listen to the page, or cannot see faint text: nothing serious. */
async function nothingSerious(app: Page, where: string, ...regions: string[]) {
  await app.evaluate((source) => {
    // Once a page: the script is half a megabyte.
    if (!("axe" in window)) window.eval(source);
  }, axe.source);
  // What has not changed since the whole page was looked at is not looked at again.
  const violations = await app.evaluate(async (regions) => {
    const { axe } = window as unknown as { axe: typeof import("axe-core") };
    const where = regions.length > 0 ? { include: regions } : document;
    return (await axe.run(where, { resultTypes: ["violations"] })).violations;
  }, regions);
  const grave = violations.filter(({ impact }) => impact === "serious" || impact === "critical");
  const told = [...grave, ...violations.filter(({ id }) => /heading-one|empty-table-header/.test(id))];
  expect(
    told.map(
      ({ id, nodes }) =>
        `${where}: ${id}: ${nodes
          .map((n) => n.target.join(" "))
          .slice(0, 3)
          .join("; ")}`,
    ),
  ).toEqual([]);
}

test("every station and panel can be listened to and read", async ({ app }) => {
  test.setTimeout(240_000);
  await nothingSerious(app, "operate");
  for (const name of [
    "Around",
    "Machine",
    "Positions",
    "Inputs",
    "Camera",
    "Setups",
    "Slate",
    "Devices",
    "Takes",
  ]) {
    await panel(app, name);
    await nothingSerious(app, name, "main .grows");
  }
  await app.keyboard.press("Alt+j");
  await expect(app.getByRole("region", { name: "Take log" })).toBeVisible();
  await nothingSerious(app, "take log", '[aria-label="Take log"]');
  await app.keyboard.press("Escape");
  await app.keyboard.press("Alt+1");
  await expect(app.getByRole("region", { name: "Elevation" })).toBeVisible();
  await nothingSerious(app, "set");
  for (const name of ["Cast", "Setups", "Camera"]) {
    await app.getByRole("button", { name, exact: true }).click();
    await nothingSerious(app, `set, ${name}`, "main section.panel");
  }
  await app.keyboard.press("Alt+3");
  await expect(app.getByRole("region", { name: "Figures" })).toBeVisible();
  await nothingSerious(app, "shape");
  for (const name of ["path", "camera of this move", "files"]) {
    await app.getByRole("button", { name, exact: true }).click();
    if (name === "files") await expect(app.getByRole("button", { name: "Write film" })).toBeEnabled();
    await nothingSerious(app, `shape, ${name}`, "main section.panel");
  }
  await app.keyboard.press("Alt+2");
  for (const [key, name] of [
    ["F2", "Productions"],
    ["F4", "Scenes of Last Tram"],
  ] as const) {
    await app.keyboard.press(key);
    await expect(app.getByRole("region", { name })).toBeVisible();
    await nothingSerious(app, name, `[aria-label="${name}"]`);
  }
  await app.getByRole("button", { name: "Carry over …" }).click();
  await expect(app.getByRole("region", { name: "Carry over into scene 12" })).toBeVisible();
  await nothingSerious(app, "carry over", '[aria-label="Carry over into scene 12"]');
});
