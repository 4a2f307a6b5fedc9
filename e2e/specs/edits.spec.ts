import type { Page } from "@playwright/test";
import { expect, open, test } from "../server.ts";
import { Hand, scene } from "../plan.ts";

/** Answers to edits come this much later. */
async function late(page: Page, ms: number) {
  await page.route("**/api/edits", async (route) => {
    const answer = await route.fetch();
    await new Promise((resolve) => setTimeout(resolve, ms));
    await route.fulfill({ response: answer });
  });
}

test("forty fields typed as fast as can be are all there, however late the answers", async ({ app }) => {
  await late(app, 500);
  await app.keyboard.press("Alt+1");
  const pieces = (await scene(app)).scene.pieces;
  const alone = pieces.filter((p) => !(p as { group?: number }).group && !(p as { locked?: boolean }).locked);
  const ids = alone.slice(0, 10).map((p) => p.id);
  expect(ids.length).toBe(10);
  const search = app.getByRole("searchbox", { name: "Search the pieces" });
  const wanted = new Map<number, { name: string; position: number[]; turn: number }>();
  for (const [i, id] of ids.entries()) {
    const piece = pieces.find((p) => p.id === id)!;
    await app.keyboard.press("Escape");
    await search.fill(piece.name);
    await app.getByTestId(`listed-${id}`).getByRole("button").first().click();
    await search.fill("");
    await search.blur();
    const to = { name: `thing ${i}`, position: [i + 0.25, piece.position[1]!, -i - 0.5], turn: 10 + i };
    await app.getByLabel("Name of the piece").fill(to.name);
    await app.getByLabel("Place x, m").fill(`${to.position[0]}`);
    await app.getByLabel("Place z, m").fill(`${to.position[2]}`);
    await app.getByLabel("Turned, °", { exact: true }).fill(`${to.turn}`);
    await app.getByLabel("Turned, °", { exact: true }).blur();
    wanted.set(id, to);
  }
  await expect
    .poll(async () => {
      const now = (await scene(app)).scene.pieces.filter((p) => wanted.has(p.id));
      return new Map(now.map((p) => [p.id, { name: p.name, position: p.position, turn: p.turn_deg }]));
    })
    .toEqual(wanted);
});

test("two pages edit one scene: what both did is there, what both changed is asked", async ({
  app,
  demo,
}) => {
  const other = await app.context().newPage();
  await open(other, demo);
  for (const page of [app, other]) {
    await page.keyboard.press("Alt+1");
    await page.getByRole("searchbox", { name: "Search the pieces" }).fill("sand bin");
    await page.getByRole("button", { name: /^sand bin/ }).click();
  }
  // Both at once, each its own number; the answers come late.
  await late(app, 400);
  await late(other, 400);
  await new Hand(app).type("Place x, m", "11");
  await new Hand(other).type("Place z, m", "4");
  const bin = async () => (await scene(app)).scene.pieces.find((p) => p.name === "sand bin")!;
  await expect.poll(async () => (await bin()).position).toEqual([11, 0, 4]);
  for (const page of [app, other]) {
    await expect(page.getByLabel("Place x, m")).toHaveValue("11.00");
    await expect(page.getByLabel("Place z, m")).toHaveValue("4.00");
  }
  // Both the same number: the second one sees both, and chooses.
  await other.route("**/api/edits", async (route) => {
    const body = route.request().postDataJSON() as { edits: { base: number }[] };
    for (const edit of body.edits) edit.base -= 2;
    await route.continue({ postData: JSON.stringify(body) });
  });
  await new Hand(app).type("Place x, m", "12");
  await expect.poll(async () => (await bin()).position[0]).toBe(12);
  await new Hand(other).type("Place x, m", "9");
  const asked = other.getByText("there it is now 12, here it was to be 9");
  await expect(asked).toBeVisible();
  await expect(other.getByLabel("Place x, m")).toHaveValue("12.00");
  await other.unroute("**/api/edits");
  await other.getByRole("button", { name: "Use mine" }).click();
  await expect.poll(async () => (await bin()).position[0]).toBe(9);
  await expect(app.getByLabel("Place x, m")).toHaveValue("9.00");
  await other.close();
});

test("stations are switched as quickly as keys go, and nothing breaks", async ({ app }) => {
  for (let i = 0; i < 30; i++) await app.keyboard.press(`Alt+${(i % 3) + 1}`);
  await app.keyboard.press("Alt+2");
  await expect(app.getByTestId("camera-numbers")).toContainText("pan");
});
