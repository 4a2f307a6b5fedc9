import { axis, expect, test } from "../server.ts";
import { panel } from "../panels.ts";
import { choose, documentOf, pick } from "../rigs.ts";

test("room: how near the machine comes is told, near and hit apart, and a wild wall is out of the way", async ({
  app,
}) => {
  const room = app.getByTestId("clearance");
  await expect(room).toContainText(/^(lens|machine) \d\.\d\d m from /);
  // A free camera beside a tram, then near its side, then within it.
  await choose(app, "free camera");
  await app.keyboard.press("0");
  const what = "tram 7";
  const { scene, setups } = await documentOf(app);
  const piece = scene.pieces.find((p) => p.name === what)!;
  const [x, , z] = piece.position as [number, number, number];
  const go = async (name: string, value: number) => {
    const field = app.getByLabel(`Camera ${name}, metres`);
    await field.click();
    await field.fill(value.toFixed(2));
    await field.press("Enter");
  };
  await go("x", x);
  await go("z", z + 2.6);
  await expect(room).toContainText(new RegExp(`^lens \\d\\.\\d\\d m from ${what}`));
  await go("z", z + 1.6);
  await expect(room).toContainText(new RegExp(`^▲ lens 0\\.\\d\\d m from ${what}`));
  await go("z", z);
  await expect(room).toHaveText(`✕ lens hits ${what}`);

  // It is taken out for this setup: hatched on the plan, gone from the picture, and nothing to run into.
  await app.keyboard.press("Alt+1");
  await app.getByRole("searchbox", { name: "Search the pieces" }).fill(what);
  await app.getByRole("button", { name: new RegExp(`^${what}`) }).click();
  await app.getByRole("button", { name: "Taken out for setup A" }).click();
  await expect
    .poll(async () => (await documentOf(app)).scene.pieces.find((p) => p.id === piece.id)?.wild)
    .toEqual([setups[0]!.id]);
  await app.keyboard.press("Alt+2");
  await expect(app.getByTestId(`out-${piece.id}`).first()).toHaveAttribute("fill", "url(#taken-out)");
  await expect(room).not.toContainText(what);
  await app.getByRole("button", { name: new RegExp(`^Undo take out ${what} for A`) }).click();
  await expect(room).toContainText(what);
  await expect(app.getByTestId(`out-${piece.id}`)).toHaveCount(0);
});

test("a dolly is told how fast it is pushed", async ({ app }) => {
  await choose(app, "free dolly");
  await app.keyboard.press("0");
  await app.getByTestId("finder").click({ position: { x: 5, y: 5 } });
  await app.keyboard.down("w");
  await expect(app.getByTestId("push")).toContainText(/base \d\.\d of 1\.5 m\/s/);
  await app.keyboard.up("w");
  await expect(app.getByTestId("push")).toHaveText("");
  expect(await axis(app, "rolled")).not.toBe(0);
});

test("the three-quarter view follows whom it is told to", async ({ app }) => {
  await panel(app, "Around");
  const canvas = app.getByRole("img", { name: /^Three-quarter view/ }).locator("canvas");
  const picture = () => canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL());
  let last = "";
  const stands = async () => {
    const before = last;
    last = await picture();
    return last === before;
  };
  await expect.poll(stands, { intervals: [600] }).toBe(true);
  await pick(app, "The view follows", "conductor");
  await expect(app.getByRole("combobox", { name: "The view follows" })).toContainText("conductor");
  await expect.poll(async () => (await picture()) === last).toBe(false);
});
