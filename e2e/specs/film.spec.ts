import { execFileSync, spawnSync } from "node:child_process";
import type { Download, Page } from "@playwright/test";
import { expect, test } from "../server.ts";

/** What ffprobe counts in a film. */
function probed(path: string): Record<string, string> {
  const wanted = "stream=codec_name,width,height,avg_frame_rate,nb_read_frames";
  const args = ["-v", "error", "-count_frames", "-select_streams", "v:0", "-show_entries", wanted];
  const { streams } = JSON.parse(
    execFileSync("ffprobe", [...args, "-of", "json", path], { encoding: "utf8" }),
  ) as {
    streams: Record<string, string>[];
  };
  return streams[0]!;
}

/** How near a frame of a film is to a still, dB, by ffmpeg. */
function psnr(film: string, frame: number, still: string): number {
  const graph = `[0:v]select=eq(n\\,${frame}),format=gbrp[a];[1:v]format=gbrp[b];[a][b]psnr`;
  const args = ["-hide_banner", "-i", film, "-i", still, "-lavfi", graph, "-f", "null", "-"];
  const { stderr } = spawnSync("ffmpeg", args, { encoding: "utf8" });
  return Number(/average:([\d.]+|inf)/.exec(stderr)?.[1] ?? NaN);
}

const saved = async (app: Page, ask: () => Promise<void>): Promise<Download> =>
  (await Promise.all([app.waitForEvent("download"), ask()]))[0];

/** On by tens of frames, and where that is. */
async function on(app: Page, tens: number, frame: number) {
  for (let k = 0; k < tens; k++) await app.keyboard.press("Shift+ArrowRight");
  await expect(app.getByTestId("frame")).toHaveText(String(frame));
}

test("a move is written as a film, each frame as its still shows it, and stopped", async ({ app }) => {
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  await app.getByRole("button", { name: "files", exact: true }).click();
  const film = app.getByRole("group", { name: "Film" });
  await film.getByRole("combobox", { name: "Size of the picture" }).click();
  await app.getByRole("option", { name: "640 × 268" }).click();
  await film.getByRole("button", { name: "Written into the film" }).click();
  await expect(film).toContainText("nothing");
  await film.getByRole("button", { name: "Written into the film" }).blur();
  await on(app, 10, 100);
  await app.keyboard.press("i");
  await on(app, 4, 140);
  const there = await saved(app, () => app.keyboard.press("Alt+s"));
  expect(there.suggestedFilename()).toBe("scene12-take1-0140.png");
  for (let k = 0; k < 7; k++) await app.keyboard.press("ArrowRight");
  await expect(app.getByTestId("frame")).toHaveText("147");
  await app.keyboard.press("o");

  const webm = await saved(app, () => film.getByRole("button", { name: "Write film" }).click());
  expect(webm.suggestedFilename()).toBe("scene12-take1.webm");
  const path = await webm.path();
  expect(probed(path)).toMatchObject({ codec_name: "vp9", width: 640, height: 268, nb_read_frames: "48" });
  expect(probed(path).avg_frame_rate).toBe("24/1");
  const still = await there.path();
  const [same, before] = [psnr(path, 40, still), psnr(path, 20, still)];
  console.log(`frame 40 against its still: ${same.toFixed(1)} dB, frame 20: ${before.toFixed(1)} dB`);
  expect(same).toBeGreaterThan(34);
  expect(same).toBeGreaterThan(before + 6);

  // Longer, with what is written into it, and given up half way.
  await app.keyboard.press("Home");
  await on(app, 0, 100);
  await app.keyboard.press("i");
  await film.getByRole("button", { name: "Written into the film" }).click();
  await film.getByRole("button", { name: "Write film" }).click();
  await expect(film.getByRole("status")).toContainText("of 148");
  await film.getByRole("button", { name: "Stop" }).click();
  await expect(film.getByRole("button", { name: "Write film" })).toBeVisible();

  // The frame alone in a window of its own, as it moves on; and the finder over the whole screen.
  const [clean] = await Promise.all([app.waitForEvent("popup"), app.keyboard.press("Alt+w")]);
  const colours = () =>
    clean.evaluate(() => {
      const canvas = document.querySelector("canvas")!;
      const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
      return `${canvas.width / canvas.height > 2} ${data.reduce((sum, v) => sum + v, 0)}`;
    });
  await expect.poll(colours).toMatch(/^true \d{7,}$/);
  const first = await colours();
  await app.keyboard.press("Shift+ArrowRight");
  await expect.poll(colours).not.toBe(first);
  await clean.close();
  const full = () => app.evaluate(() => document.fullscreenElement?.getAttribute("aria-label") ?? "");
  await app.keyboard.press("Alt+Enter");
  await expect.poll(full).toBe("Finder");
  await app.keyboard.press("Alt+Enter");
  await expect.poll(full).toBe("");
});
