import { expect, it } from "vitest";
import type { Clearance } from "../live/wire";
import { pushText, roomText } from "./roomText";

const room = (metres: number, of: Clearance["of"] = "lens") =>
  roomText({ metres, of, kind: "piece", id: 4 }, (kind, id) => `${kind} ${id}`);

it("near and hit are told apart, and what is nearly nothing is no hit", () => {
  expect(room(1.234)).toEqual({ text: "lens 1.23 m from piece 4", tone: "far" });
  expect(room(0.42, "machine")).toEqual({ text: "▲ machine 0.42 m from piece 4", tone: "near" });
  expect(room(0.001)).toEqual({ text: "▲ lens 0.01 m from piece 4", tone: "near" });
  expect(room(0)).toEqual({ text: "✕ lens hits piece 4", tone: "hit" });
  expect(roomText(null, () => "nobody").text).toBe("");
});

it("a base is told beside what a crew can push, and not while it stands", () => {
  expect(pushText(0.01, 2).text).toBe("");
  expect(pushText(1.2, null).text).toBe("");
  expect(pushText(1.2, 2)).toEqual({ text: "base 1.2 of 2.0 m/s", tone: "far" });
  expect(pushText(1.7, 2).tone).toBe("near");
  expect(pushText(2.1, 2)).toEqual({ text: "✕ base 2.1 of 2.0 m/s", tone: "hit" });
});
