import { CheckMenu } from "../shell/CheckMenu";
import { turnShown, useView, type Shown } from "../state/view";

const views: [Shown, string, string][] = [
  ["lens", "through the lens", "Alt L"],
  ["plan", "plan", "Alt P"],
  ["profile", "profile", "Alt O"],
  ["front", "front", "Alt F"],
  ["around", "three-quarter", "Alt T"],
  ["second", "second camera", "Alt E"],
];

/** Which views are large: one, two or four. */
export function ViewsMenu() {
  const shown = useView((s) => s.shown);
  return (
    <CheckMenu
      word="Views"
      choices={views}
      on={(view) => shown.includes(view)}
      turn={turnShown}
      sx={{ p: "1px 8px", fontSize: 13, alignSelf: "stretch" }}
    />
  );
}
