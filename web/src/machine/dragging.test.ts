import { expect, test, vi } from "vitest";
vi.mock("../live/link", () => ({ link: { frame: null }, useFloor: {}, holdsWheels: () => true }));
const { shortLines, valueLines } = await import("./dragging");

test("the axes that a hand has moved are read in their units, in the machine's order", () => {
  const axis = (name: string, unit: string) => ({ name, unit }) as never;
  const axes = [axis("swing", "°"), axis("boom", "°"), axis("reach", "m"), axis("zoom", "mm")];
  expect(valueLines({ axes }, { reach: 4.2, swing: -12.345, zoom: 35 })).toEqual([
    "swing -12.3°",
    "reach 4.20 m",
    "zoom 35 mm",
  ]);
  expect(valueLines({ axes }, {})).toEqual([]);
});

test("what is out of reach says by how much, and where the machine is stopped", () => {
  expect(shortLines(1.234, ["reach, longest", "boom, at its upper end"])).toEqual([
    "1.23 m short",
    "reach, longest",
    "boom, at its upper end",
  ]);
  expect(shortLines(0.5, [])).toEqual(["0.50 m short"]);
});
