import { describe, expect, it } from "vitest";
import { nextNumber, numberLike } from "./numbers";

const scene = (number: string, binned = false) => ({ number, binned });

describe("numbers of scenes", () => {
  it("go on from the highest, letters aside", () => {
    expect(nextNumber([])).toBe("1");
    expect(nextNumber([scene("12"), scene("12A"), scene("3")])).toBe("13");
    expect(nextNumber([scene("teaser")])).toBe("1");
  });

  it("of a scene like another have the first letter that is free; binned ones are free again", () => {
    expect(numberLike([scene("12")], "12")).toBe("12A");
    expect(numberLike([scene("12"), scene("12A"), scene("12B", true)], "12")).toBe("12B");
  });
});
