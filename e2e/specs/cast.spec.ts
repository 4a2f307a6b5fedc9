import { Hand, scene, add } from "../plan.ts";
import { pick } from "../rigs.ts";
import { expect, test } from "../server.ts";

/** The way of somebody in the performance that plays. */
async function way(app: Parameters<typeof scene>[0], name: string) {
  const found = await scene(app);
  const playing = (found.scene as unknown as { performance: number }).performance;
  const parts = found.scene.performers.find((p) => p.name === name)!.parts as unknown as {
    performance: number;
    route: { waypoints: { time_s: number; stop_s: number; posture: string; position: number[] }[] };
  }[];
  return parts.find((p) => p.performance === playing)!.route.waypoints;
}

test("somebody new walks a drawn path, at a pace, with a stop where they sit", async ({ app }) => {
  await app.keyboard.press("Alt+1");
  const hand = new Hand(app);
  await hand.key("p");
  for (const at of [
    [-4, 0],
    [2, 0],
    [2, 4],
  ] as const) {
    await hand.click([...at]);
  }
  await hand.key("Enter");
  const name = app.getByLabel("Name of the performer");
  await expect(name).toHaveValue("performer 3");
  await name.fill("watchman");
  await name.press("Enter");
  await expect.poll(async () => (await scene(app)).scene.performers.at(-1)!.name).toBe("watchman");
  // Six metres at 2 m/s are three seconds; what comes later moves along.
  await hand.type("Speed to the next place, m/s", "2");
  await expect.poll(async () => (await way(app, "watchman"))[1]!.time_s).toBeCloseTo(3, 1);
  await app.getByRole("option").nth(1).click();
  await hand.type("Stays for, s", "4");
  await app.getByLabel("Posture").click();
  await app.getByRole("option", { name: "sits" }).click();
  // A place is dragged on the plan at once: the menu that was just chosen from is not in the way.
  await hand.drag([2, 4], [5, 4]);
  await expect.poll(async () => (await way(app, "watchman"))[1]!.posture).toBe("sit");
  await expect.poll(async () => (await way(app, "watchman"))[2]!.position[0]).toBeCloseTo(5, 1);
  const [, sits, leaves] = await way(app, "watchman");
  expect(sits!.stop_s).toBe(4);
  expect(leaves!.time_s - sits!.time_s - 4).toBeCloseTo(4 / 1.35, 1);

  // Their path goes on; Escape puts the tool away. P again is somebody new, who stands where one click was.
  await app.getByRole("button", { name: "Add places" }).click();
  await hand.click([8, 6]);
  await expect.poll(async () => (await way(app, "watchman")).length).toBe(4);
  await hand.key("Escape");
  await hand.key("p");
  await hand.click([-7, 5]);
  await expect(app.getByTestId("set-plan").locator("..")).toContainText("Enter: they stand here");
  await hand.key("Enter");
  await expect(name).toHaveValue("performer 4");
  await expect(app.getByRole("button", { name: /^performer 4/ })).toContainText("stands");
});

test("another performance starts the same and goes its own way", async ({ app }) => {
  await app.keyboard.press("Alt+1");
  await app.getByRole("button", { name: "Cast", exact: true }).click();
  await app.getByRole("button", { name: "Another like this" }).click();
  await expect(app.getByLabel("Name of the performance")).toHaveValue("alternative 1");
  await app.getByRole("button", { name: /^conductor/ }).click();
  const hand = new Hand(app);
  await hand.type("Speed to the next place, m/s", "3");
  await expect.poll(async () => (await way(app, "conductor"))[1]!.time_s).toBeCloseTo(2, 1);
  await app.getByLabel("Performance", { exact: true }).click();
  await app.getByRole("option", { name: "as written" }).click();
  await expect.poll(async () => (await way(app, "conductor"))[1]!.time_s).toBeCloseTo(3.9, 2);

  // A move plays against its own performance, whichever plays in the scene.
  await app.keyboard.press("Alt+3");
  const finder = app.getByRole("region", { name: "Finder" });
  await expect(finder).toContainText("against as written");
  await app.getByRole("button", { name: "path", exact: true }).click();
  for (let k = 0; k < 5; k++) await app.keyboard.press("Shift+ArrowRight");
  const there = () => app.locator('[data-part="people"] circle').first().getAttribute("cx");
  await expect(app.getByText("50 of 480")).toBeVisible();
  await expect.poll(there).not.toBeNull();
  const written = await there();
  await pick(app, "Performance that this move plays against", "alternative 1");
  await expect(finder).toContainText("against alternative 1");
  await expect.poll(there).not.toBe(written);
  await app.getByRole("button", { name: "Undo", exact: false }).first().click();
  await expect(finder).toContainText("against as written");
  await expect.poll(there).toBe(written);
});

test("lengths are shown and taken in feet and inches, and pieces are kept together, locked and hidden", async ({
  app,
}) => {
  await app.keyboard.press("Alt+1");
  const hand = new Hand(app);
  await app.getByLabel("Lengths in").click();
  await app.getByRole("option", { name: "feet and inches" }).click();
  await expect(app.getByLabel("Stage depth, m")).toHaveValue(`72'2⅛"`);
  await hand.type("Ceiling height, m", `30'6"`);
  await expect.poll(async () => (await scene(app)).scene.stage).toMatchObject({ height_m: 9.2964 });
  await hand.type("Ceiling height, m", "8m");
  await expect.poll(async () => (await scene(app)).scene.stage).toMatchObject({ height_m: 8 });

  const tram = async () => (await scene(app)).scene.pieces.find((p) => p.name === "tram 7")!;
  const before = (await tram()).position;
  await hand.click([-6.25, -4.25]);
  await app.keyboard.press("ArrowRight");
  await expect.poll(async () => (await tram()).position[0]).toBeCloseTo(before[0]! + 0.25, 6);
  await app.getByRole("button", { name: "Lock", exact: true }).click();
  await expect(app.getByRole("button", { name: "Unlock", exact: true })).toBeVisible();
  await hand.drag([-6, -4.25], [-2, -2]);
  expect((await tram()).position[0]).toBeCloseTo(before[0]! + 0.25, 6);
  await app.getByRole("button", { name: "Hide tram 7" }).click();
  await expect.poll(async () => ((await tram()) as unknown as { hidden: boolean }).hidden).toBe(true);

  // Two drums are framed, kept together, and dragged as one.
  await hand.key("Escape");
  await hand.drag([2.2, -10.6], [5.4, -8.4]);
  await expect(app.getByText("2 pieces picked")).toBeVisible();
  await app.keyboard.press("Control+g");
  await expect
    .poll(
      async () => new Set((await scene(app)).scene.pieces.map((p) => (p as { group?: number }).group)).size,
    )
    .toBeGreaterThan(2);
  await hand.key("Escape");
  await hand.drag([4.5, -9.25], [4.5, -7.25]);
  await expect
    .poll(async () => {
      const { pieces } = (await scene(app)).scene;
      return pieces.filter((p) => p.name.endsWith("drum")).map((p) => Math.round(p.position[2]! * 4) / 4);
    })
    .toEqual([-7.25, -8]);
});

test("a piece is lifted and made higher in the elevation", async ({ app }) => {
  await app.keyboard.press("Alt+1");
  const hand = new Hand(app);
  await hand.click([14.5, 6.5]);
  await expect(app.getByLabel("Name of the piece")).toHaveValue("sand bin");
  const bin = async () => (await scene(app)).scene.pieces.find((p) => p.name === "sand bin")!;
  const pull = async (what: string, by: number) => {
    const box = (await app.getByTestId("elevation").locator(what).boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await app.mouse.move(x, y);
    await app.mouse.down();
    await app.mouse.move(x, y + by, { steps: 4 });
    await app.mouse.up();
  };
  await pull("rect[data-top]", -20);
  await expect.poll(async () => (((await bin()).form.size as number[])[1] ?? 0) > 1.5).toBe(true);
  const { id } = await bin();
  await pull(`path[data-piece="${id}"]`, -15);
  await expect.poll(async () => (await bin()).position[1]! > 0.5).toBe(true);
});

test("two hundred pieces and ten performers: a piece is dragged and lands where the hand let go", async ({
  app,
}) => {
  const form = { kind: "block", size: [0.5, 1, 0.5], material: "timber" };
  const crates = Array.from({ length: 200 }, (_, i) => ({
    name: `crate ${i}`,
    form,
    position: [-9.5 + (i % 20), 0, -1.5 + Math.floor(i / 20) * 0.75],
  }));
  const people = Array.from({ length: 10 }, (_, i) => ({
    name: `walker ${i}`,
    height_m: 1.7,
    parts: [
      {
        performance: 1,
        motion: "walks",
        route: {
          waypoints: [
            { time_s: 0, position: [-8 + i, 0, 8] },
            { time_s: 8, position: [-8 + i, 0, -8] },
          ],
        },
      },
    ],
  }));
  const pieces = await add(app, "pieces", crates);
  await add(app, "performers", people);
  await app.keyboard.press("Alt+1");
  await expect(app.locator("g[data-piece]")).toHaveCount(244);
  const hand = new Hand(app);
  const [x, , z] = crates[107]!.position as [number, number, number];
  await hand.drag([x, z], [x, z + 7]);
  const there = async () => (await scene(app)).scene.pieces.find((p) => p.id === pieces[107])!.position;
  await expect.poll(async () => Math.abs((await there())[2]! - z - 7)).toBeLessThan(0.3);
});

test("a set is built without a mouse: placed, moved, turned, numbered and removed from the keyboard", async ({
  app,
}) => {
  await app.keyboard.press("Alt+1");
  const count = (await scene(app)).scene.pieces.length;
  await app.keyboard.press("c");
  await expect(app.getByRole("button", { name: "chair C" })).toHaveAttribute("aria-pressed", "true");
  await app.keyboard.press("Enter");
  await expect(app.getByLabel("Name of the piece")).toHaveValue("chair");
  const chair = async () => (await scene(app)).scene.pieces.at(-1)!;
  expect((await chair()).position).toEqual([0, 0, 0]);
  await app.keyboard.press("ArrowRight");
  await app.keyboard.press("ArrowRight");
  await expect.poll(async () => (await chair()).position[0]).toBeCloseTo(0.5, 6);
  await app.keyboard.press("Shift+ArrowDown");
  await expect.poll(async () => (await chair()).position[2]).toBeCloseTo(0.01, 6);
  await app.keyboard.press(".");
  await expect.poll(async () => (await chair()).turn_deg).toBe(15);
  await app.keyboard.press("Control+d");
  await expect.poll(async () => (await scene(app)).scene.pieces.length).toBe(count + 2);
  await expect(app.getByLabel("Place x, m")).toHaveValue("1.00");
  await app.keyboard.press("Delete");
  await expect.poll(async () => (await scene(app)).scene.pieces.length).toBe(count + 1);
});
