import { expect, test } from "vitest";
import { addressOf, placeOf } from "./address";

test("an address says where one is, and is read as it was written", () => {
  const there = { station: "shape", setup: 2, moveId: 14, panel: "figures" } as const;
  expect(addressOf(there)).toBe("#/shape/setup-2/move-14/figures");
  for (const place of [there, { ...there, moveId: null }, { ...there, setup: null, panel: "" }])
    expect(placeOf(addressOf(place))).toEqual(place);
});

test("what is not an address of ours leads nowhere", () => {
  for (const other of ["", "#", "#/", "#/elsewhere/setup-1/floor/x", "#/shape/setup-x/floor/figures", "#top"])
    expect(placeOf(other)).toBeNull();
});
