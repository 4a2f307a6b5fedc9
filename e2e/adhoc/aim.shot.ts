import { expect, test } from "../server.ts";
test("aim", async ({ app }) => {
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  await app.getByTestId("strip").click({ position: { x: 300, y: 20 } });
  await app.screenshot({ path: "/tmp/a0.png" });
  await app.getByRole("button", { name: "Add aim" }).click();
  await app.getByRole("button", { name: "Add focus" }).click();
  await app.waitForTimeout(2500);
  await app.screenshot({ path: "/tmp/a1.png" });
  await app.getByRole("button", { name: "+ turned to" }).click();
  await app.waitForTimeout(2500);
  await app.screenshot({ path: "/tmp/a2.png" });
});
