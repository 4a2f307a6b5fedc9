import { expect, open, test } from "../server.ts";

/** Five thousand keys dragged, the picture hidden: the longest task of the page; printed, not judged. */
test("5 000 keys dragged in Shape", async ({ app, demo }) => {
  const keys = (phase: number) =>
    Array.from({ length: 1000 }, (_, i) => ({ time_s: i / 50, value: 20 + 10 * Math.sin(i / 40 + phase) }));
  const axes = ["swing", "boom", "pan", "tilt", "roll"];
  const curves = Object.fromEntries(axes.map((axis, i) => [axis, keys(i)]));
  const value = { setup_id: 1, source: { kind: "curves" }, variant_of: null, name: "many", curves };
  const ops = [{ op: "add", path: "/moves/new:1", value }];
  const data = { page: "measure", scene: 1, edits: [{ label: "many", ops }] };
  expect((await app.request.post(`${demo.url}/api/edits`, { data })).ok()).toBe(true);
  await open(app, demo);
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await app.getByRole("combobox", { name: "Move to shape" }).click();
  await app.getByRole("option", { name: "many" }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  await app.keyboard.press("v");
  await app.keyboard.press("v");
  await expect(app.getByTestId("finder")).toBeHidden();
  const bar = app.getByRole("group", { name: "Keys", exact: true });
  await app.keyboard.press("Control+a");
  await expect(bar).toContainText("5000 of 5000 keys");
  const canvas = (await app.getByRole("img", { name: /^Curves of/ }).boundingBox())!;
  const lane = (await app.getByTestId("lane-swing").boundingBox())!;
  // Some key lies under some height of the column in the middle.
  const x = canvas.x + 108 + (canvas.width - 108) / 2;
  await app.evaluate(() => {
    const tasks: number[] = [];
    Object.assign(window, { tasks });
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map((e) => e.duration))).observe({
      type: "longtask",
    });
  });
  const held = async (y: number) => {
    await app.mouse.move(x, y);
    return app.evaluate(
      ([x, y]) => {
        const over = document.elementFromPoint(x!, y!)!.parentElement!;
        return (
          getComputedStyle(over).cursor === "grab" ||
          getComputedStyle(document.elementFromPoint(x!, y!)!).cursor === "grab"
        );
      },
      [x, y],
    );
  };
  let y = lane.y + 6;
  while (y < lane.y + lane.height && !(await held(y))) y += 3;
  await app.evaluate(() => (window as unknown as { tasks: number[] }).tasks.splice(0));
  const steps: number[] = [];
  await app.mouse.down();
  for (let i = 1; i <= 40; i++) {
    const begun = Date.now();
    await app.mouse.move(x + i * 2, y - i / 4);
    await app.evaluate(() => new Promise((r) => requestAnimationFrame(r)));
    steps.push(Date.now() - begun);
  }
  const dragging = await app.evaluate(() => (window as unknown as { tasks: number[] }).tasks.splice(0));
  await app.mouse.up();
  await expect(app.getByRole("button", { name: /^Undo move 5000 keys/ })).toBeVisible();
  await app.evaluate(() => new Promise((r) => requestAnimationFrame(r)));
  const after = await app.evaluate(() => (window as unknown as { tasks: number[] }).tasks);
  steps.sort((a, b) => a - b);
  console.log(`a step of the drag: median ${steps[20]} ms, most ${steps.at(-1)} ms`);
  console.log(
    `long tasks while dragging: ${dragging.join(", ") || "none"}; letting go: ${after.join(", ") || "none"}`,
  );
});
