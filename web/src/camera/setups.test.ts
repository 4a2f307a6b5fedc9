import { expect, test } from "vitest";
import { nameWith } from "./setups";

test("a setup's name follows its machine until it is typed", () => {
  expect(nameWith("free camera", "free camera", "tripod")).toBe("tripod");
  expect(nameWith("free camera again", "free camera", "rail")).toBe("rail again");
  expect(nameWith("free camera by the door", "free camera", "rail")).toBe("free camera by the door");
  expect(nameWith("crane beside the pit", "telescopic crane", "rail")).toBe("crane beside the pit");
});
