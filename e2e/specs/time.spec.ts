import type { Page } from "@playwright/test";
import { panel } from "../panels.ts";
import { pick } from "../rigs.ts";
import { atRest, axis, expect, roll, test } from "../server.ts";

const frame = async (page: Page) => Number(await page.getByTestId("frame").textContent());

/** Types into a value that is shown as it changes. */
async function type(page: Page, label: string, text: string) {
  await page.getByRole("button", { name: label, exact: true }).click();
  await page.getByRole("textbox", { name: label, exact: true }).fill(text);
  await page.keyboard.press("Enter");
  // What cannot be meant stays in the field.
  if (text !== "soon") await expect(page.getByRole("textbox", { name: label, exact: true })).toHaveCount(0);
}

test("times are typed, points are gone to, what plays goes round or stands; the take just rolled is a key away", async ({
  app,
}) => {
  for (const [label, text, at] of [
    ["Frame", "120", 120],
    ["Timecode", "12:00:03:12", 84],
    ["Frame", "2.5 s", 60],
    ["Timecode", "1:12", 36],
  ] as const) {
    await type(app, label, text);
    await expect(app.getByTestId("frame")).toHaveText(String(at));
  }
  await type(app, "Frame", "soon");
  await expect(app.getByText('"soon" is no time; give a frame')).toBeVisible();
  await app.keyboard.press("Escape");
  // The conductor passes the door at frame 93; the beginning is the last point before that.
  await type(app, "Frame", "36");
  await app.keyboard.press("PageDown");
  await expect(app.getByTestId("frame")).toHaveText("93");
  await app.keyboard.press("PageUp");
  await expect(app.getByTestId("frame")).toHaveText("0");

  // Between in and out the performance goes round; without a loop it stands there.
  await type(app, "Frame", "240");
  await expect(app.getByTestId("frame")).toHaveText("240");
  await app.keyboard.press("i");
  await type(app, "Frame", "252");
  await expect(app.getByTestId("frame")).toHaveText("252");
  await app.keyboard.press("o");
  await app.keyboard.press("Space");
  await expect.poll(() => frame(app)).toBeLessThan(250);
  await app.keyboard.press("Alt+b");
  await expect(app.getByRole("button", { name: "Stands at its end (Alt B)" })).toBeVisible();
  await expect(app.getByRole("button", { name: "Play (space)" })).toBeVisible();
  await expect.poll(() => frame(app)).toBe(252);
  // Closer, the strip shows what lies about the playhead.
  const first = app.getByTestId("strip").locator("text").first();
  await expect(first).toHaveText("0");
  await app.keyboard.press("Alt+=");
  await app.keyboard.press("Alt+=");
  await expect(first).not.toHaveText("0");
  await app.keyboard.press("Alt+-");
  await app.keyboard.press("Alt+-");
  await expect(first).toHaveText("0");
  await type(app, "Frame", "252");
  await expect(app.getByTestId("frame")).toHaveText("252");
  await app.keyboard.press("o");
  await type(app, "Frame", "240");
  await expect(app.getByTestId("frame")).toHaveText("240");
  await app.keyboard.press("i");

  await roll(app, 1, ["d"]);
  await expect(app.getByTestId("take-3").getByText("Alt R")).toBeVisible();
  await app.keyboard.press("Alt+r");
  await expect(app.getByTestId("slate-take")).toHaveText("3");
  await expect(app.getByTestId("take-3").getByText("Alt R live")).toBeVisible();
  await app.keyboard.press("Alt+r");
  await expect(app.getByText("Next take")).toBeVisible();
});

test("the camera's six numbers are typed, and the machine says how far it is short", async ({ app }) => {
  await type(app, "Camera pan, degrees", "-60");
  await expect.poll(() => axis(app, "pan")).not.toBe(0);
  await atRest(app, "pan");
  await expect(app.getByTestId("camera-numbers")).toContainText("pan -60.0");
  await type(app, "Camera y, metres", "8ft");
  await atRest(app, "boom");
  await expect(app.getByTestId("camera-numbers")).toContainText("y  2.44");
  await type(app, "Camera y, metres", "30");
  await expect(app.getByText(/The machine gets no nearer to y 30.00 m than \d+\.\d\d m/)).toBeVisible();
});

test("the camera is told to other software, and heard by our own listener", async ({ app }) => {
  await panel(app, "Devices");
  const devices = app.getByRole("region", { name: "Devices" });
  await devices.getByRole("button", { name: "listen", exact: true }).first().click();
  const port = app.getByLabel("Port for OpenTrackIO");
  await expect(devices.getByRole("button", { name: "listens", exact: true })).toBeVisible();
  await app.getByLabel("Port that is told").fill(await port.inputValue());
  await app.keyboard.press("Enter");
  await pick(app, "What is told live", "take 1, over and over");
  await devices.getByRole("button", { name: "tell", exact: true }).click();
  await expect(app.getByTestId("told")).toContainText("sent");
  await expect(app.getByTestId("source-opentrackio 1")).toContainText("heard");
  await expect(app.getByTestId("source-opentrackio 1")).toContainText("60 Hz");
});
