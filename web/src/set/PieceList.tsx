import type { Document } from "../generated/types";
import { Icon } from "../form/icons";
import { ink } from "../theme";
import { withGroups, type Edits } from "./edits";
import { wordOf } from "./kinds";
import { pick, useSetState } from "../state/set";

/** Everything on the stage, by name; the way to what is locked or hidden. */
export function PieceList({ document, edits }: { document: Document; edits: Edits }) {
  const { pieces } = document.scene;
  const picked = useSetState((s) => s.picked);
  const choose = (id: number, more: boolean) =>
    pick(
      more
        ? picked.includes(id)
          ? picked.filter((p) => p !== id)
          : [...picked, id]
        : withGroups(pieces, [id]),
    );
  if (pieces.length === 0)
    return <p style={{ padding: "0 12px", color: ink.chalkDim }}>Nothing stands on the stage yet.</p>;
  return (
    <ul aria-label="Pieces" style={{ listStyle: "none", margin: 0, padding: "4px 8px", fontSize: 13 }}>
      {pieces.map((p) => (
        <li
          key={p.id}
          style={{
            display: "flex",
            alignItems: "center",
            borderRadius: 3,
            ...(picked.includes(p.id) ? { background: ink.slate2, color: ink.pick } : {}),
          }}
        >
          <button
            className="plain"
            aria-pressed={picked.includes(p.id)}
            onClick={(e) => choose(p.id, e.shiftKey || e.ctrlKey)}
            style={{ flex: 1, padding: "2px 4px", opacity: p.hidden ? 0.5 : 1, minWidth: 0 }}
          >
            {p.name}{" "}
            {p.name !== wordOf(p.form.kind) && (
              <span style={{ color: ink.chalkDim }}>{wordOf(p.form.kind)}</span>
            )}
            {p.group > 0 && <span style={{ color: ink.chalkDim }}> · group {p.group}</span>}
          </button>
          {(["locked", "hidden"] as const).map((key) => (
            <button
              key={key}
              className="plain"
              aria-pressed={p[key]}
              aria-label={`${key === "locked" ? "Lock" : "Hide"} ${p.name}`}
              title={key === "locked" ? (p.locked ? "Unlock" : "Lock") : p.hidden ? "Show" : "Hide"}
              onClick={() => edits.flag([p.id], key)}
              style={{ padding: "0 3px", display: "grid", color: p[key] ? ink.chalk : ink.chalkFaint }}
            >
              <Icon name={key === "locked" ? "lock" : p.hidden ? "unseen" : "look"} size={15} />
            </button>
          ))}
        </li>
      ))}
    </ul>
  );
}
