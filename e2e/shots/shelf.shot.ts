import { expect, test } from "../server.ts";
import { place } from "../settled.ts";

test("the shelf, with three productions", async ({ app }) => {
  for (const [number, name] of [
    ["12A", "Depot, later"],
    ["13", "Gate, dawn"],
  ] as const) {
    await app.keyboard.press("F4");
    await app
      .getByRole("listitem", { name: "Scene 12", exact: true })
      .getByRole("button", { name: "Duplicate" })
      .click();
    await expect(app.getByRole("textbox", { name: "Scene number" })).not.toHaveValue("12");
    await app.getByRole("textbox", { name: "Scene number" }).fill(number);
    await app.keyboard.press("Enter");
    await app.getByRole("textbox", { name: "Scene name" }).fill(name);
    await app.keyboard.press("Enter");
  }
  await app.keyboard.press("F2");
  const shelf = app.getByRole("region", { name: "Productions" });
  await expect(shelf.getByRole("img")).toHaveCount(1);
  await shelf.getByRole("listitem", { name: "Last Tram" }).getByRole("button", { name: "Duplicate" }).click();
  await app.getByRole("textbox", { name: "Name of Last Tram, copy" }).fill("Points and Switches");
  await app.keyboard.press("Enter");
  await app.getByRole("textbox", { name: "Name of the new production" }).fill("Ticket Office");
  await expect(shelf.getByRole("img")).toHaveCount(2);
  await app.screenshot({ path: place("shelf") });
});
