import { useEffect } from "react";

/** What is pressed, not typed into; what steps by the arrows itself keeps them. */
const PRESSED = "button, [role=button], [role=combobox], [role=switch], [role=checkbox], [role=tab]";
const CHECKED = "input[type=checkbox], input[type=radio]";
const STEPS = "[data-steps], [role=slider]";
/** Within these the focus leads on: a menu, a dialog. */
const LEADS = "[role=menu], [role=listbox], [role=dialog], [role=presentation]";

/** The focus that a press brings comes at once, or as soon as a list has closed, milliseconds. */
const SOON_MS = 500;

/**
 * After a press of the mouse the keys belong to the stage again: what was pressed does not keep them, and
 * space plays. Who comes by Tab keeps the focus where it is.
 */
export function useFocus() {
  useEffect(() => {
    let pressed = -Infinity;
    const pointer = () => (pressed = performance.now());
    const key = () => (pressed = -Infinity);
    const release = () => {
      const at = document.activeElement;
      if (performance.now() - pressed > SOON_MS || !(at instanceof HTMLElement)) return;
      if (at.matches(`${PRESSED}, ${CHECKED}`) && !at.matches(STEPS) && !at.closest(LEADS)) at.blur();
    };
    // A list gives its focus back to what opened it, some time after the press.
    const focused = () => queueMicrotask(release);
    window.addEventListener("pointerdown", pointer, true);
    window.addEventListener("pointerup", pointer, true);
    window.addEventListener("keydown", key, true);
    window.addEventListener("click", release);
    window.addEventListener("focusin", focused);
    return () => {
      window.removeEventListener("pointerdown", pointer, true);
      window.removeEventListener("pointerup", pointer, true);
      window.removeEventListener("keydown", key, true);
      window.removeEventListener("click", release);
      window.removeEventListener("focusin", focused);
    };
  }, []);
}
