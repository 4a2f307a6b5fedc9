import { expect, test } from "vitest";
import { groupOf, groups, panelOf, showPanel, sides } from "./panels";
import { useView } from "./view";

test("each panel belongs to one group, and each group has a key of its own", () => {
  expect(new Set(sides).size).toBe(10);
  expect(new Set(groups.map((g) => g.key)).size).toBe(groups.length);
});

test("a group opens where it was left, and again shows its next panel", () => {
  const machine = groupOf("positions");
  expect(panelOf(machine, "profile")).toBe("machine");
  showPanel("positions");
  expect(useView.getState().side).toBe("positions");
  expect(panelOf(machine, "takes")).toBe("positions");
  expect(panelOf(machine, "positions")).toBe("inputs");
  expect(panelOf(machine, "inputs")).toBe("machine");
  expect(panelOf(groupOf("takes"), "takes")).toBe("takes");
});
