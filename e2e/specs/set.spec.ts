import { readFileSync } from "node:fs";
import { Hand, scene } from "../plan.ts";
import { expect, open, test } from "../server.ts";

const demo = JSON.parse(readFileSync("../demo/scene.json", "utf8")) as Awaited<
  ReturnType<typeof scene>
>["scene"];

/** Kind, place and lengths, rounded to what a hand on a plan can do. */
function facts(pieces: typeof demo.pieces) {
  const near = (v: unknown): unknown =>
    typeof v === "number" ? Math.round(v * 10) / 10 + 0 : Array.isArray(v) ? v.map(near) : v;
  return pieces
    .map((p) => {
      const form = Object.fromEntries(Object.entries(p.form).map(([k, v]) => [k, near(v)]));
      return JSON.stringify([form.kind, near(p.position), near((p.turn_deg ?? 0) % 180), form]);
    })
    .sort();
}

test("the demo's hall is built again from nothing in under 60 actions, undone and redone", async ({
  page,
  empty,
}) => {
  test.slow();
  await open(page, empty);
  await page.getByRole("button", { name: "Build the set" }).click();
  await expect(page.getByText("The stage is empty.")).toBeVisible();
  const start = await scene(page);
  const hand = new Hand(page);

  await hand.type("Stage width, m", "36");
  await hand.type("Stage depth, m", "22");
  await hand.type("Ceiling height, m", "8");
  await expect
    .poll(async () => (await scene(page)).scene.stage)
    .toEqual({ width_m: 36, depth_m: 22, height_m: 8 });
  await hand.key("x");
  await hand.drag([-18, -11], [18, 11]);
  await hand.pieces(4);

  await hand.key("n");
  await hand.drag([-15.25, -11.15], [-12.75, -11.15]);
  await hand.pieces(5);
  await hand.type("Foot over the floor, m", "3.5");
  await hand.type("Height, m", "2.5");
  await hand.type("Repeat, count × distance", "5 × 6 m");
  await hand.pieces(9);
  await hand.key("d");
  await hand.drag([-18.15, -6.5], [-18.15, -2]);
  await hand.pieces(10);
  await hand.type("Height, m", "4.5");

  await hand.key("b");
  await hand.drag([-15.25, -11], [-15, 11]);
  await hand.pieces(11);
  await hand.type("Foot over the floor, m", "7.5");
  await hand.type("Height, m", "50cm");
  await hand.type("Repeat, count × distance", "6 × 6 m");
  await hand.pieces(16);

  await hand.key("q");
  await hand.drag([-14, -7.5], [7, -7.5], true);
  await hand.drag([-14, 3.5], [-6, 3.5], true);
  await hand.click([11, 3.5]);
  await hand.pieces(19);
  await hand.key("r");
  await hand.drag([-18, -4.25], [18, -4.25], true);
  await hand.drag([-18, 7.5], [18, 7.5]);
  await hand.key("t");
  await hand.click([-6.25, -4.25], true);
  await hand.click([-7.5, 7.5]);
  await hand.pieces(23);

  await hand.key("g");
  await hand.drag([15.5, -10.5], [18, 8.5]);
  await hand.pieces(24);
  await hand.key("s");
  await hand.click([11.25, 1.5]);
  await hand.pieces(25);
  await hand.type("Turned, °", "90");
  await hand.key("h");
  await hand.click([8.25, -10], true);
  await hand.click([12.5, -10]);
  await hand.key("y");
  await hand.drag([4, -9.75], [5, -8.75], true);
  await hand.click([3, -10]);
  await hand.key("b");
  await hand.drag([13.75, 6], [15.25, 7]);
  await hand.pieces(30);

  for (const z of [-1.25, 5.5]) {
    await hand.key("e");
    await hand.click([-12.5, z]);
    await hand.pieces(z < 0 ? 31 : 37);
    await hand.type("Repeat, count × distance", "6 × 6 m");
    await hand.pieces(z < 0 ? 36 : 42);
  }
  await hand.key("m");
  await hand.click([-5.5, -2], true);
  await hand.pieces(43);
  await hand.click([0.5, -1.5]);
  await hand.pieces(44);

  await hand.key("p");
  const way = demo.performers[0]!.parts[0]!.route!.waypoints;
  for (const { position } of way) await hand.click([position[0]!, position[2]!]);
  await hand.key("Enter");
  await expect(page.getByLabel("Name of the performer")).toBeVisible();
  expect(hand.done).toBeLessThan(60);

  const built = await scene(page);
  expect(facts(built.scene.pieces)).toEqual(facts(demo.pieces));
  const walked = built.scene.performers[0]!.parts[0]!.route!.waypoints;
  walked.forEach(({ position }, i) => {
    expect(position[0]).toBeCloseTo(way[i]!.position[0]!, 0);
    expect(position[2]).toBeCloseTo(way[i]!.position[2]!, 0);
  });

  // The address keeps the station.
  await page.reload();
  await hand.pieces(44);
  expect(await scene(page)).toEqual(built);

  /** Presses a key until the server says that there is nothing more to do. */
  const all = async (key: string, what: "undo" | "redo") => {
    for (let more = true; more;) {
      const answer = page.waitForResponse((r) => r.url().endsWith(`/api/${what}`));
      await page.keyboard.press(key);
      const { changed } = (await (await answer).json()) as {
        changed: { history: Record<string, object | null> };
      };
      more = changed.history[what] !== null;
    }
  };
  await all("Control+z", "undo");
  await expect(page.getByText("The stage is empty.")).toBeVisible();
  expect(await scene(page)).toEqual(start);
  await all("Control+Shift+z", "redo");
  await hand.pieces(44);
  expect(await scene(page)).toEqual(built);
});
