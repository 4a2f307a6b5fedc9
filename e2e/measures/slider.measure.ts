import { documentOf } from "../rigs.ts";
import { expect, open, test } from "../server.ts";

/** From a slider that is moved to the new curves on the screen; printed, not judged. */
test("a slider in Shape on a 60 s take with four treatments", async ({ app, demo }) => {
  const rows = Array.from({ length: 60 * 120 + 1 }, (_, i) => {
    const t = i / 120;
    const shake = 0.2 * Math.sin(57 * t) + 0.1 * Math.sin(91 * t);
    return [
      t,
      40 * Math.sin(0.2 * t) + shake,
      15 + 8 * Math.sin(0.31 * t),
      4 + Math.sin(0.4 * t),
      20 * Math.sin(0.5 * t) + shake,
    ];
  });
  const csv = ["time_s,swing_deg,boom_deg,reach_m,pan_deg", ...rows.map((r) => r.join(","))].join("\n");
  const brought = await app.request.post(`${demo.url}/api/import/axes?name=long`, { data: csv });
  expect(brought.ok()).toBe(true);
  const move = (await documentOf(app)).moves.at(-1)!.id;
  const smooth = (passes: number) => ({
    on: true,
    kind: "smooth",
    machine: { by: "binomial", passes },
    head: { by: "binomial", passes },
    lens: null,
  });
  const ops = [30, 40, 50, 60].map((passes, i) => ({
    op: "add",
    path: `/moves/${move}/treatments/new:${i + 1}`,
    value: smooth(passes),
  }));
  const edit = { page: "measure", scene: 1, edits: [{ label: "smooth", ops }] };
  expect((await app.request.post(`${demo.url}/api/edits`, { data: edit })).ok()).toBe(true);
  await open(app, demo);
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await app.getByRole("combobox", { name: "Move to shape" }).click();
  await app.getByRole("option", { name: /long/ }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  const spans: number[] = [];
  // Only the last one is open.
  const slider = app
    .locator(".MuiSlider-root")
    .filter({ has: app.getByRole("slider", { name: "machine: smoothing passes" }) });
  await slider.scrollIntoViewIfNeeded();
  const box = (await slider.boundingBox())!;
  const y = box.y + box.height / 2;
  await app.mouse.move(box.x + box.width * 0.3, y);
  await app.mouse.down();
  for (let i = 1; i <= 30; i++) {
    const drawn = await app.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('[aria-label^="Curves of"]')!;
      Object.assign(window, { moved: 0 });
      addEventListener("pointermove", (e) => Object.assign(window, { moved: e.timeStamp }), { once: true });
      return canvas.dataset.drawn;
    });
    await app.mouse.move(box.x + box.width * (0.3 + 0.02 * i), y);
    await app.waitForFunction(
      (drawn) =>
        document.querySelector<HTMLCanvasElement>('[aria-label^="Curves of"]')!.dataset.drawn !== drawn,
      drawn,
    );
    spans.push(
      await app.evaluate(() => {
        const canvas = document.querySelector<HTMLCanvasElement>('[aria-label^="Curves of"]')!;
        return Number(canvas.dataset.drawn) - (window as unknown as { moved: number }).moved;
      }),
    );
  }
  await app.mouse.up();
  spans.sort((a, b) => a - b);
  const at = (share: number) => spans[Math.floor(share * (spans.length - 1))]!.toFixed(0);
  console.log(
    `slider, input to new curves: median ${at(0.5)} ms (100 wanted), p95 ${at(0.95)} ms, worst ${at(1)} ms, ${spans.length} moves`,
  );
});
