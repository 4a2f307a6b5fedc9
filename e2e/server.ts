import {
  test as base,
  type BrowserContext,
  type ConsoleMessage,
  type Page,
  type WebError,
} from "@playwright/test";
import { spawn, type ChildProcess } from "node:child_process";
import { createServer } from "node:net";
import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { panel } from "./panels.ts";
import { viewport } from "./playwright.config.ts";

const binary = process.env.ROVNEK_BIN ?? "../target/release/rovnek";

/** A port nobody uses just now. */
async function freePort(): Promise<number> {
  const probe = createServer().listen(0, "127.0.0.1");
  await once(probe, "listening");
  const address = probe.address();
  probe.close();
  if (address === null || typeof address === "string") throw new Error("no port");
  return address.port;
}

/** A running `rovnek demo`. */
export interface Demo {
  url: string;
  process: ChildProcess;
}

/** Port of the servers that follow one another; one that runs beside another has a port of its own. */
class Home {
  private taken = false;

  constructor(private readonly port: number) {}

  async start(...what: string[]): Promise<Demo> {
    if (this.taken) return start(await freePort(), ...what);
    this.taken = true;
    const server = await start(this.port, ...what);
    server.process.once("exit", () => (this.taken = false));
    return server;
  }
}

async function start(port: number, ...what: string[]): Promise<Demo> {
  const child = spawn(binary, [...what, "--port", String(port)], { stdio: ["ignore", "pipe", "inherit"] });
  const ready = new Promise<void>((resolve, reject) => {
    child.stdout.on("data", (text: Buffer) => text.includes("is ready at") && resolve());
    child.once("exit", (code) => reject(new Error(`rovnek ended with ${code} before it was ready`)));
  });
  await ready;
  return { url: `http://127.0.0.1:${port}`, process: child };
}

async function stop({ process }: Demo) {
  process.kill("SIGTERM");
  if (process.exitCode === null) await once(process, "exit");
}

/** Begins a production in a Rovnek whose shelf is empty. */
async function begin({ url }: Demo, name: string) {
  const post = async (path: string, body: object) => {
    const headers = { "content-type": "application/json" };
    const answer = await fetch(`${url}/api/${path}`, { method: "POST", headers, body: JSON.stringify(body) });
    if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
    return answer;
  };
  const { id } = (await (await post("productions", { name, demo: false })).json()) as { id: string };
  await post(`productions/${id}/open`, {});
}

/** A page that is handed from test to test, until one of them has changed it for good. */
class Handed {
  private page: Page | null = null;

  constructor(private readonly browsing: BrowserContext) {}

  async take(): Promise<Page> {
    this.page ??= await this.browsing.newPage();
    await this.page.setViewportSize(viewport);
    return this.page;
  }

  /** Leaves the server, closes what a test has opened beside, and forgets what it has stored and answered. */
  async giveBack() {
    const others = this.browsing.pages().filter((page) => page !== this.page || changed.has(page));
    await Promise.all(others.map((page) => page.close()));
    if (this.page?.isClosed()) this.page = null;
    if (!this.page || this.page.url() === "about:blank") return;
    await this.page.unrouteAll({ behavior: "ignoreErrors" });
    await this.page.evaluate(() => (localStorage.clear(), sessionStorage.clear()));
    // An empty page that is still at the server's address: for any other address the browser begins a new
    // process, which has compiled nothing.
    const between = new URL("between", this.page.url()).href;
    await this.page.route(between, (route) => route.fulfill({ contentType: "text/html", body: EMPTY }));
    await this.page.goto(between);
    // What is routed is not cached.
    await this.page.unrouteAll();
  }
}

const EMPTY = '<link rel="icon" href="data:," />';

const changed = new WeakSet<Page>();

/** Runs a script in a page whenever it loads; the next test has another page. */
export async function onLoad(page: Page, script: () => void) {
  changed.add(page);
  await page.addInitScript(script);
}

/**
 * Each test has a demo of its own, and a page on it; or a production in which nothing is yet; or a shelf on
 * which nothing stands. Servers follow one another at one port, and the page stays the same, so that the
 * browser keeps the scripts that it has compiled.
 */
export const test = base.extend<
  { demo: Demo; empty: Demo; bare: Demo; app: Page; sound: void },
  { handed: Handed; browsing: BrowserContext; home: Home }
>({
  home: [async ({}, use) => use(new Home(await freePort())), { scope: "worker" }],
  browsing: [
    async ({ browser }, use) => {
      const browsing = await browser.newContext();
      await use(browsing);
      await browsing.close();
    },
    { scope: "worker" },
  ],
  handed: [async ({ browsing }, use) => use(new Handed(browsing)), { scope: "worker" }],
  context: async ({ browsing }, use) => use(browsing),
  page: async ({ handed }, use) => use(await handed.take()),
  // Every page of a test is listened to: an error in one of them fails it.
  sound: [
    async ({ context }, use) => {
      const faults: string[] = [];
      const thrown = (error: WebError) => faults.push(error.error().message);
      const said = (message: ConsoleMessage) => message.type() === "error" && faults.push(message.text());
      context.on("weberror", thrown).on("console", said);
      await use();
      context.off("weberror", thrown).off("console", said);
      // What a test provokes itself is answered with 4xx and told to the operator.
      const real = faults.filter((f) => !/status of 4\d\d/.test(f));
      base.expect(real, "errors in the page").toEqual([]);
    },
    { auto: true },
  ],
  demo: async ({ handed, home }, use) => {
    // Still: a page in which nothing moves draws nothing, and leaves both cores to what is tested.
    const demo = await home.start("demo", "--still");
    await use(demo);
    // Pages leave before their server ends: they would miss it.
    await handed.giveBack();
    await stop(demo);
  },
  empty: async ({ bare }, use) => {
    await begin(bare, "Untitled");
    await use(bare);
  },
  bare: async ({ handed, home }, use) => {
    const folder = mkdtempSync(join(tmpdir(), "rovnek-e2e-"));
    const production = await home.start("serve", "--data", folder);
    await use(production);
    // Pages leave before their server ends: they would miss it.
    await handed.giveBack();
    await stop(production);
    rmSync(folder, { recursive: true, force: true });
  },
  app: async ({ demo, page }, use) => {
    await open(page, demo);
    await use(page);
  },
});

/** Polls ask every twentieth of a second, and not up to a second later. */
const POLLS = { intervals: [50] };
const poll: typeof base.expect.poll = (actual, options) =>
  base.expect.poll(actual, { ...POLLS, ...(typeof options === "string" ? { message: options } : options) });

export const expect = Object.assign(base.expect.extend({}), { poll });

/** Opens the page and waits until the floor is seen through the lens. */
export async function open(page: Page, demo: Demo) {
  await page.goto(demo.url);
  await base.expect(page.getByTestId("camera-numbers")).toContainText("pan");
}

/** The number an axis' strip shows. */
export async function axis(page: Page, name: string): Promise<number> {
  const text = await page.locator(`[data-value="${name}"]`).textContent();
  return Number(text);
}

/** Steps of the floor for which an axis stands before it is taken to be at rest: half a second. */
const AT_REST_STEPS = 120;

/** Waits until no axis of these moves: by the floor's clock, as a page that draws slowly shows old numbers. */
export async function atRest(page: Page, ...names: string[]) {
  const read = () =>
    page.evaluate((names) => {
      const shown = names.map((name) => document.querySelector(`[data-value="${name}"]`));
      const values = shown.map((axis) => axis?.textContent).join();
      return { values, step: Number(shown[0]?.getAttribute("data-step")) };
    }, names);
  let since = await read();
  await expect
    .poll(async () => {
      const now = await read();
      if (now.values !== since.values) since = now;
      return now.step - since.step;
    })
    .toBeGreaterThan(AT_REST_STEPS);
}

/** Rolls a take of at least some seconds while keys are held, and cuts. */
export async function roll(page: Page, seconds: number, keys: string[]) {
  await panel(page, "Takes");
  const before = await page.locator('[data-testid^="take-"]').count();
  await page.keyboard.press("r");
  await base.expect(page.getByRole("button", { name: "Cut", exact: true })).toBeVisible();
  for (const key of keys) await page.keyboard.down(key);
  await expect
    .poll(async () => {
      const shown = await page.getByText(/rolling \d\d:/).textContent();
      return Number(/:(\d+\.\d)/.exec(shown ?? "")?.[1] ?? 0);
    })
    .toBeGreaterThanOrEqual(seconds);
  for (const key of keys) await page.keyboard.up(key);
  await page.keyboard.press("r");
  await base.expect(page.locator('[data-testid^="take-"]')).toHaveCount(before + 1);
  await base.expect(page.getByText("rolling", { exact: true })).toHaveCount(0);
}
