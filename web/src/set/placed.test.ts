import { expect, test } from "vitest";
import { placed, unplaced } from "./placed";

const at = (position: [number, number, number], turn_deg: number) => ({ position, turn_deg });

test("a quarter turn to the right takes the right hand side towards the viewer", () => {
  const [x, z] = placed([1, 0], at([10, 0, 20], 90));
  expect(x).toBeCloseTo(10, 12);
  expect(z).toBeCloseTo(21, 12);
});

test.each([0, 17, 90, -135, 359])("what is placed at %i° is found again in the piece's own frame", (turn) => {
  const where = at([3, 0, -4], turn);
  const [x, z] = unplaced(placed([0.7, -1.3], where), where);
  expect(x).toBeCloseTo(0.7, 12);
  expect(z).toBeCloseTo(-1.3, 12);
});
