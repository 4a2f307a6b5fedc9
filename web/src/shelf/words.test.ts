import { expect, it } from "vitest";
import { lastUse } from "./words";

it("says when a production was used last as one says it", () => {
  const now = new Date(2026, 10, 27, 9, 5);
  const at = (day: number, hour: number) => new Date(2026, 10, day, hour, 30).toISOString();
  expect(lastUse(null, now)).toBe("never opened");
  expect(lastUse(at(27, 8), now)).toBe("used today at 08:30");
  // Less than a day ago and yet another day.
  expect(lastUse(at(26, 23), now)).toBe("used yesterday at 23:30");
  expect(lastUse(at(3, 12), now)).toBe("used on 3 November 2026");
});
