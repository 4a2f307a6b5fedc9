import { expect, test, vi } from "vitest";

const link: { frame: { setup: number } | null } = { frame: { setup: 1 } };
vi.mock("../live/link", () => ({ link, useFloor: {} }));
vi.mock("../state/now", () => ({ scene: {} }));

const { inTurn, isHandling } = await import("./bring");

test("what is asked is done one after the other, also after something failed", async () => {
  const done: number[] = [];
  const later = (n: number) => inTurn(async () => void (await Promise.resolve(), done.push(n)));
  const fails = inTurn(() => Promise.reject(new Error("no answer")));
  const all = [later(1), later(2)];
  expect(isHandling()).toBe(true);
  await expect(fails).rejects.toThrow("no answer");
  await Promise.all(all);
  expect(done).toEqual([1, 2]);
  expect(isHandling()).toBe(false);
});

test("what was meant for one setup's machine is not done to another one that came onto the floor", async () => {
  const done: string[] = [];
  const first = inTurn(async () => {
    link.frame = { setup: 2 };
    done.push("first");
  });
  const second = inTurn(async () => done.push("second"));
  await Promise.all([first, second]);
  expect(done).toEqual(["first"]);
  await inTurn(async () => done.push("of the other"));
  expect(done).toEqual(["first", "of the other"]);
});
