import { atRest, axis, expect, open, test } from "../server.ts";
import { panel } from "../panels.ts";

test("three hands on one take: a page at the head, a phone at the lens, and whose they were", async ({
  app,
  demo,
  browser,
}) => {
  // Another operator's browser.
  const theirs = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const head = await theirs.newPage();
  await open(head, demo);
  await head.getByRole("button", { name: "Who has which wheel" }).click();
  await head.getByLabel("What you are called").fill("Ines");
  await head.getByLabel("What you are called").press("Enter");
  await head.getByRole("button", { name: "Ask for the head" }).click();
  await expect(app.getByRole("alert")).toContainText("Ines asks for the head");
  await app.getByRole("button", { name: "Give" }).click();
  await head.keyboard.press("Escape");
  await expect(head.getByTestId("wheels")).toHaveText("You have the head");
  await expect(app.getByTestId("at-head")).toHaveText("Ines");
  await expect(app.getByTestId("wheels")).toHaveText("You have the machine, lens, performer");

  const asked = await app.evaluate(async () => {
    const headers = { "content-type": "application/json" };
    const body = JSON.stringify({ on: true, tls: false, port: 0 });
    return (await fetch("/api/devices/phone", { method: "PUT", headers, body })).json();
  });
  const { address, code } = asked as { address: string; code: string };
  const hand = await browser.newContext({ viewport: { width: 390, height: 800 } });
  const phone = await hand.newPage();
  await phone.goto(address.replace(/\/\/[^:]+:/, "//127.0.0.1:"));
  await phone.getByLabel("Code on the operator's page").fill(code);
  await phone.getByRole("button", { name: "Connect" }).click();
  await phone.getByLabel("The pads drive").selectOption("the lens");
  await expect(phone.locator("#state")).toContainText("Asked for the lens");
  await expect(app.getByRole("alert")).toContainText("asks for the lens");
  await app.getByRole("button", { name: "Give" }).click();
  await expect(phone.locator("#state")).toContainText("You have the lens.");

  // All three at once: what each holds moves, and nothing of what another one holds.
  const before = await Promise.all(["swing", "pan", "zoom"].map((name) => axis(app, name)));
  await app.keyboard.press("r");
  await expect(app.getByRole("button", { name: "Cut", exact: true })).toBeVisible();
  await app.keyboard.down("d");
  await head.keyboard.down("h");
  const pad = (await phone.locator("#ahead").boundingBox())!;
  await phone.mouse.move(pad.x + 60, pad.y + 200);
  await phone.mouse.down();
  await phone.mouse.move(pad.x + 160, pad.y + 200);
  for (const [i, name] of ["swing", "pan", "zoom"].entries())
    await expect.poll(() => axis(app, name)).toBeGreaterThan(before[i]! + 2);

  // A page that is gone brakes what it held; the wheel comes back, and the others go on.
  await theirs.close();
  await expect(app.getByTestId("at-head")).toHaveCount(0);
  await atRest(app, "pan");
  const swing = await axis(app, "swing");
  await expect.poll(() => axis(app, "swing")).toBeGreaterThan(swing + 1);
  await app.keyboard.up("d");
  await app.keyboard.press("r");
  await hand.close();

  await panel(app, "Takes");
  await app.keyboard.press("Alt+j");
  const line = app.getByRole("row").filter({ hasText: "Ines" });
  await expect(line).toContainText(/machine: page \d+ · head: Ines, then page \d+ · lens: phone \d+/);
});
