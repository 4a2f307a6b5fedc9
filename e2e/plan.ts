import type { Page } from "@playwright/test";
import { expect } from "./server.ts";

export type At = [number, number];

/** A hand on the plan that counts what it does: keys, strokes of the pointer, fields. */
export class Hand {
  done = 0;
  private readonly page: Page;

  constructor(page: Page) {
    this.page = page;
  }

  /** Where a place of the stage is on the screen. */
  async where([x, z]: At): Promise<At> {
    return this.page.getByTestId("set-plan").evaluate(
      (svg, [x, z]) => {
        const p = new DOMPoint(x, z).matrixTransform((svg as unknown as SVGSVGElement).getScreenCTM()!);
        return [p.x, p.y] as [number, number];
      },
      [x, z] as At,
    );
  }

  async key(key: string) {
    this.done++;
    await this.page.keyboard.press(key);
  }

  /** One click; with `more` the tool stays in the hand. */
  async click(at: At, more = false) {
    await this.drag(at, at, more);
  }

  async drag(from: At, to: At, more = false) {
    this.done++;
    const [a, b] = [await this.where(from), await this.where(to)];
    if (more) await this.page.keyboard.down("Shift");
    await this.page.mouse.move(...a);
    await this.page.mouse.down();
    if (from !== to) await this.page.mouse.move(...b, { steps: 4 });
    await this.page.mouse.up();
    if (more) await this.page.keyboard.up("Shift");
  }

  /** Types into a field of the panel. */
  async type(label: string, text: string) {
    this.done++;
    const field = this.page.getByLabel(label, { exact: true });
    await field.fill(text);
    await field.press("Enter");
    await field.blur();
  }

  /** Waits until so many pieces are there. */
  async pieces(count: number) {
    await expect(this.page.locator("g[data-piece]")).toHaveCount(count);
  }
}

/** Adds things to the scene, many at once; their numbers. */
export async function add(page: Page, list: "pieces" | "performers", things: object[]): Promise<number[]> {
  const name = (i: number) => `new:${list}${i}`;
  const ops = things.map((value, i) => ({ op: "add", path: `/${list}/${name(i)}`, value }));
  const data = { page: "test", scene: 1, edits: [{ label: `add ${list}`, ops }] };
  const answer = await page.request.post(`${new URL(page.url()).origin}/api/edits`, { data });
  expect(answer.ok(), await answer.text()).toBe(true);
  const { made } = (await answer.json()) as { made: Record<string, number> };
  return things.map((_, i) => made[name(i)]!);
}

/** The document as the server has it, without what counts and what undo says of itself. */
export async function scene(page: Page) {
  const answer = await page.request.get(`${new URL(page.url()).origin}/api/document`);
  const document = (await answer.json()) as Record<string, unknown>;
  for (const counts of ["history", "revision", "cast"]) delete document[counts];
  return document as {
    scene: {
      pieces: {
        id: number;
        name: string;
        form: Record<string, unknown>;
        position: number[];
        turn_deg: number;
      }[];
      performers: {
        id: number;
        name: string;
        parts: { route?: { waypoints: { position: number[] }[] } }[];
      }[];
      stage: object;
    };
    setups: {
      id: number;
      letter: string;
      name: string;
      camera: Record<string, number>;
      rig: Record<string, unknown>;
    }[];
  };
}
