import { useEffect } from "react";

/** What is pressed, not typed into. */
const PRESSED = "button, [role=button], [role=combobox], [role=switch], [role=checkbox], [role=tab]";
const CHECKED = "input[type=checkbox], input[type=radio]";
/** Within these the focus leads on: a menu, a dialog. */
const LEADS = "[role=menu], [role=listbox], [role=dialog], [role=presentation]";

/**
 * After a press of the mouse the keys belong to the stage again: what was pressed does not keep them, and
 * space plays. Who comes by Tab keeps the focus where it is.
 */
export function useFocus() {
  useEffect(() => {
    let byPointer = false;
    const pointer = () => (byPointer = true);
    const key = (event: KeyboardEvent) => {
      if (["Tab", "Enter"].includes(event.key)) byPointer = false;
    };
    const release = () => {
      const at = document.activeElement;
      if (!byPointer || !(at instanceof HTMLElement)) return;
      if (at.matches(`${PRESSED}, ${CHECKED}`) && !at.closest(LEADS)) at.blur();
    };
    // A list gives its focus back to what opened it, some time after the press.
    const focused = () => queueMicrotask(release);
    window.addEventListener("pointerdown", pointer, true);
    window.addEventListener("keydown", key, true);
    window.addEventListener("click", release);
    window.addEventListener("focusin", focused);
    return () => {
      window.removeEventListener("pointerdown", pointer, true);
      window.removeEventListener("keydown", key, true);
      window.removeEventListener("click", release);
      window.removeEventListener("focusin", focused);
    };
  }, []);
}
