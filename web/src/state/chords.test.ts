import { expect, test } from "vitest";
import { chordsOf } from "./chords";

const pressed = (code: string, key: string, held: string[] = []) =>
  chordsOf({
    code,
    key,
    ctrlKey: held.includes("ctrl"),
    metaKey: false,
    altKey: held.includes("alt"),
    shiftKey: held.includes("shift"),
  } as KeyboardEvent);

test("a chord has the names of its keys, by their places", () => {
  expect(pressed("KeyB", "b")).toContain("B");
  expect(pressed("KeyB", "∫", ["alt"])).toEqual(["Alt+B"]);
  expect(pressed("KeyZ", "z", ["ctrl"])).toEqual(["Ctrl+Z"]);
  expect(pressed("NumpadAdd", "+", ["alt"])).toEqual(["Alt+="]);
});

test("with Shift the closer chord comes first, and what counts without it counts as well", () => {
  expect(pressed("KeyG", "G", ["alt", "shift"])).toEqual(["Alt+Shift+G", "Alt+G"]);
  expect(pressed("ArrowLeft", "ArrowLeft", ["shift"])[1]).toBe("ArrowLeft");
  // A question mark is written differently on every keyboard.
  expect(pressed("Slash", "?", ["shift"])).toContain("?");
});

test("a digit with Shift is not the digit", () => {
  expect(pressed("Digit3", "#", ["shift"])).toEqual(["Shift+3", "#"]);
  expect(pressed("Digit3", "#", ["shift", "ctrl"])).toEqual(["Ctrl+Shift+3"]);
});
