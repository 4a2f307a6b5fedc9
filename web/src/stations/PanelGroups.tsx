import { Toggle } from "../form/rows";
import { groupOf, groups, showGroup, showPanel } from "../state/panels";
import { useView } from "../state/view";
import { ink } from "../theme";
import { ViewsMenu } from "./ViewsMenu";

/** What stands below the plan: a group for each task, and the panels of the one that is open. */
export function PanelGroups() {
  const side = useView((s) => s.side);
  const large = useView((s) => s.shown.includes("around"));
  const open = groupOf(side);
  return (
    <div className="grows" style={{ display: "grid", gap: 5 }}>
      <div role="group" aria-label="Tasks" style={{ display: "flex" }}>
        {groups.map((group) => {
          const on = group === open;
          return (
            <button
              key={group.name}
              className="plain"
              aria-pressed={on}
              title={`${group.panels.map(([, word]) => word).join(", ")} (${group.key})`}
              onClick={() => (on ? undefined : showGroup(group))}
              style={{
                flex: "1 1 auto",
                textAlign: "center",
                whiteSpace: "nowrap",
                padding: "1px 2px 2px",
                fontSize: 14,
                lineHeight: "17px",
                border: `1px solid ${on ? ink.chalk : ink.slate3}`,
                marginLeft: -1,
                ...(on ? { background: ink.chalk, color: ink.slate0 } : { color: ink.chalk }),
              }}
            >
              {group.name}{" "}
              <span style={{ fontSize: 10.5, color: on ? ink.slate2 : ink.chalkDim }}>{group.key}</span>
            </button>
          );
        })}
      </div>
      <div role="group" aria-label={`Panels of ${open.name}`} style={{ display: "flex", gap: 4 }}>
        {open.panels.map(([panel, word]) => (
          <Toggle
            key={panel}
            on={panel === side}
            label={word}
            off={panel === "around" && large}
            onClick={() => showPanel(panel)}
          />
        ))}
        <span style={{ marginLeft: "auto" }}>
          <ViewsMenu />
        </span>
      </div>
    </div>
  );
}
