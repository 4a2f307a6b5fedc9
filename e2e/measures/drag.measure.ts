import { expect, test } from "../server.ts";
import { Hand, add } from "../plan.ts";

/** From a move of the pointer to the picture that shows it, with a full set; printed, not judged. */
test("dragging on the plan with 200 pieces and 10 performers", async ({ app }) => {
  const form = { kind: "block", size: [0.5, 1, 0.5], material: "timber" };
  const crates = Array.from({ length: 156 }, (_, i) => ({
    name: `crate ${i}`,
    form,
    position: [-9.5 + (i % 20), 0, -1.5 + Math.floor(i / 20) * 0.75],
  }));
  const route = (i: number) => ({
    waypoints: [
      { time_s: 0, position: [-8 + i, 0, 8] },
      { time_s: 8, position: [-8 + i, 0, -8] },
    ],
  });
  const people = Array.from({ length: 8 }, (_, i) => ({
    name: `walker ${i}`,
    height_m: 1.7,
    parts: [{ performance: 1, motion: "walks", route: route(i) }],
  }));
  await add(app, "pieces", crates);
  await add(app, "performers", people);
  await app.keyboard.press("Alt+1");
  await expect(app.locator("g[data-piece]")).toHaveCount(200);
  const hand = new Hand(app);
  const [a, b] = [await hand.where([-2.5, 3]), await hand.where([6, 8])];
  await app.evaluate(() => {
    const spans: number[] = [];
    Object.assign(window, { spans });
    const svg = document.querySelector('[data-testid="set-plan"]')!;
    // From the event to the first picture after it.
    svg.addEventListener("pointermove", (event) => {
      requestAnimationFrame(() => setTimeout(() => spans.push(performance.now() - event.timeStamp), 0));
    });
  });
  await app.mouse.move(...a);
  await app.mouse.down();
  await app.mouse.move(...b, { steps: 120 });
  await app.mouse.up();
  const spans = await app.evaluate(() =>
    (window as unknown as { spans: number[] }).spans.sort((x, y) => x - y),
  );
  const at = (share: number) => spans[Math.floor(share * (spans.length - 1))]!.toFixed(1);
  console.log(
    `drag, event to paint: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst ${at(1)} ms, ${spans.length} moves`,
  );
});
