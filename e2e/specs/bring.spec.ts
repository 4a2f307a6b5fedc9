import { readFileSync, writeFileSync } from "node:fs";
import { exportedHut } from "../files.ts";
import { scene } from "../plan.ts";
import { pick } from "../rigs.ts";
import { expect, open, test } from "../server.ts";

test("a mesh from three.js's exporter is brought in, stands on the plan and is refused when broken", async ({
  app,
}, info) => {
  const path = info.outputPath("hut.glb");
  writeFileSync(path, await exportedHut());
  await app.keyboard.press("Alt+1");
  const before = (await scene(app)).scene.pieces.length;
  await app.getByLabel("Bring in a file").setInputFiles(path);
  await expect(app.getByLabel("Name of the piece")).toHaveValue("hut");
  const made = (await scene(app)).scene.pieces.at(-1)!;
  const size = (made.form.size as number[]).map((v) => Math.round(v * 100) / 100);
  expect([made.form.kind, size]).toEqual(["mesh", [4, 3.5, 3]]);
  expect(made.position.map((v) => Math.round(v * 100) / 100)).toEqual([2, 0, -1]);
  const outline = await app.locator(`g[data-piece="${made.id}"] path`).first().getAttribute("d");
  expect(outline).toContain("L");

  const broken = info.outputPath("broken.glb");
  writeFileSync(broken, readFileSync(path).subarray(0, 900));
  await app.getByLabel("Bring in a file").setInputFiles(broken);
  await expect(app.getByText(/broken\.glb: \d+ bytes are missing at the end/)).toBeVisible();
  const text = info.outputPath("notes.bvh");
  writeFileSync(text, "not a capture");
  await app.getByLabel("Bring in a file").setInputFiles(text);
  await expect(app.getByText(/notes\.bvh: line 1: .*BVH file/)).toBeVisible();
  expect((await scene(app)).scene.pieces.length).toBe(before + 1);
  await app.keyboard.press("Control+z");
  await expect(app.locator("g[data-piece]")).toHaveCount(before);
});

test("a set that is taken away and brought into another production is the same set", async ({
  app,
  empty,
  page,
}, info) => {
  await app.keyboard.press("Alt+1");
  const file = app.waitForEvent("download");
  await app.getByRole("link", { name: "Export set" }).click();
  const path = info.outputPath("set.glb");
  await (await file).saveAs(path);
  const plain = (pieces: object[]) => pieces.map((p) => ({ ...p, id: 0 }));
  const left = plain((await scene(app)).scene.pieces);
  const other = await page.context().newPage();
  await open(other, empty);
  await other.keyboard.press("Alt+1");
  await other.getByLabel("Bring in a file").setInputFiles(path);
  await expect(other.locator("g[data-piece]")).toHaveCount(left.length);
  expect(plain((await scene(other)).scene.pieces)).toEqual(left);
  await other.close();
});

test("captured motion becomes a performer who can be placed and trimmed", async ({ app }) => {
  const capture = process.env.ROVNEK_CAPTURE;
  test.skip(!capture, "ROVNEK_CAPTURE is set by cargo xtask test");
  await app.keyboard.press("Alt+1");
  await app.getByLabel("Bring in a file").setInputFiles(capture!);
  await expect(app.getByLabel("Name of the performer")).toHaveValue("test_mocapbank");
  await expect(app.getByLabel("Plays to, s")).toHaveValue("15.13");
  for (const [label, value] of [
    ["Begins at x, m", "3"],
    ["Begins at z, m", "-1"],
    ["Plays from, s", "2"],
    ["Turned, °", "45"],
  ]) {
    await app.getByLabel(label!, { exact: true }).fill(value!);
    await app.getByLabel(label!, { exact: true }).press("Enter");
  }
  const start = async () => {
    const answer = await app.request.get(`${new URL(app.url()).origin}/api/scene/figures`);
    const figures = (await answer.json()) as { name: string; path: number[][]; bodies: unknown[] }[];
    return figures.find((f) => f.name === "test_mocapbank")!;
  };
  await expect
    .poll(async () => (await start()).path[0]!.map((v) => Math.round(v * 100) / 100))
    .toEqual([3, 0, -1]);
  expect((await start()).bodies.length).toBeGreaterThan(12);
});

test("two who dance in a glTF file are performers where the file has them, and do what is chosen of it", async ({
  app,
}) => {
  await app.keyboard.press("Alt+1");
  const before = (await scene(app)).scene.pieces.length;
  await app.getByLabel("Bring in a file").setInputFiles("../reference/values/figure.gltf");
  await expect(app.getByLabel("Name of the performer")).toHaveValue("dancer");
  await expect(app.getByLabel("Begins at x, m")).toHaveValue("-1.00");
  await expect(app.getByLabel("Plays to, s")).toHaveValue("2.00");
  expect((await scene(app)).scene.pieces.length).toBe(before + 1);
  await pick(app, "Motion", "dancer, bow");
  await expect(app.getByLabel("Plays to, s")).toHaveValue("1.50");
  await app.keyboard.press("Control+z");
  await expect(app.getByLabel("Plays to, s")).toHaveValue("2.00");
  await app.keyboard.press("Control+z");
  await expect(app.getByLabel("Name of the performer")).toHaveCount(0);
  expect((await scene(app)).scene.pieces.length).toBe(before);
});
