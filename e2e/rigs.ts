import type { Page } from "@playwright/test";
import { expect, onLoad } from "./server.ts";
import { panel } from "./panels.ts";

/** The document as the server has it. */
export const documentOf = (page: Page) =>
  page.evaluate(async () => (await (await fetch("/api/document")).json()) as unknown) as Promise<Known>;

/** Parts of the document that tests read. */
export interface Known {
  scene: {
    performers: { id: number; name: string }[];
    pieces: { id: number; name: string; position: number[]; wild?: number[] }[];
    length_s: number;
  };
  history: { undo: { label: string } | null };
  setups: {
    id: number;
    letter: string;
    runs: number | null;
    positions: { number: number }[];
    rig: {
      kind: string;
      base_x_m?: number;
      points?: { position: number[] }[];
      closed?: boolean;
      track?: { pieces: unknown[] };
    };
  }[];
  takes: { id: number; number: number; camera: Record<string, number> }[];
  moves: {
    id: number;
    name: string;
    chosen: boolean;
    binned: boolean;
    variant_of: number | null;
    source: { kind: string; take?: number };
    curves: Record<string, { time_s: number; value: number }[]>;
    treatments: unknown[];
    camera: Record<string, number> | null;
  }[];
}

/** The times at which the move that the first setup runs has keys. */
export async function keyTimes(page: Page): Promise<number[]> {
  const { setups, moves } = await documentOf(page);
  const keys = Object.values(moves.find((m) => m.id === setups[0]!.runs)?.curves ?? {}).flat();
  return [...new Set(keys.map((k) => k.time_s))].sort((a, b) => a - b);
}

/** Puts another machine under the camera of the setup on the floor. */
export async function choose(page: Page, kind: string) {
  await panel(page, "Machine");
  await page.getByRole("combobox", { name: "Kind of machine" }).click();
  await page.getByRole("option", { name: new RegExp(`^${kind}`) }).click();
  await expect(page.getByRole("region", { name: "Deck" })).toContainText(kind, { ignoreCase: true });
}

/** One of the words of a list. */
export async function pick(page: Page, label: string, word: string | RegExp) {
  await page.getByRole("combobox", { name: label, exact: true }).click();
  await page.getByRole("option", { name: word }).click();
}

/** A gamepad that a test moves; to be called before the page is opened anew. */
export async function injectPad(page: Page) {
  await onLoad(page, () => {
    const pad = {
      id: "stand-in pad",
      index: 0,
      connected: true,
      mapping: "standard",
      timestamp: 0,
      axes: [0, 0, 0, 0],
      buttons: Array.from({ length: 17 }, () => ({ value: 0, pressed: false, touched: false })),
    };
    Object.assign(window, { pad });
    navigator.getGamepads = () => [pad as unknown as Gamepad, null, null, null];
  });
}

/** Pushes a stick of the gamepad. */
export const stick = (page: Page, axis: number, value: number) =>
  page.evaluate(
    ([axis, value]) => (window as unknown as { pad: { axes: number[] } }).pad.axes.splice(axis!, 1, value!),
    [axis, value] as const,
  );

/** Presses a button. */
export const press = (page: Page, button: number, value: number) =>
  page.evaluate(
    ([button, value]) => {
      (window as unknown as { pad: { buttons: { value: number }[] } }).pad.buttons[button!]!.value = value!;
    },
    [button, value] as const,
  );

/** Place on the screen of a place of the stage, on a paper of Operate. */
export async function onPaper(page: Page, paper: string, [x, y]: readonly [number, number]) {
  return page
    .getByTestId(paper)
    .first()
    .evaluate(
      (svg, [x, y]) => {
        const p = new DOMPoint(x, y).matrixTransform((svg as unknown as SVGSVGElement).getScreenCTM()!);
        return [p.x, p.y] as [number, number];
      },
      [x, y] as [number, number],
    );
}

/** A tracked camera, and a stand-in of a device that is heard. */
export async function startStandIn(page: Page) {
  await choose(page, "tracked camera");
  await hearStandIn(page);
}

/** Has the simulated device heard, whatever the machine is. */
export async function hearStandIn(page: Page) {
  await panel(page, "Devices");
  // Another run of these tests may have the usual port.
  await page.getByLabel("Port for OpenTrackIO").fill("0");
  await page.getByLabel("Port for OpenTrackIO").press("Enter");
  await page.getByRole("button", { name: "OpenTrackIO", exact: true }).click();
  await expect(page.getByTestId("source-opentrackio 1")).toContainText("heard");
}

/** Types a value into an axis' strip: while time stands the axis is put there. */
export async function put(page: Page, name: string, value: number) {
  await page.locator(`[data-value="${name}"]`).click();
  const field = page.getByTestId(`strip-${name}`).getByRole("textbox");
  await field.fill(String(value));
  await field.press("Enter");
}
