import { useState } from "react";
import type { Document, Piece } from "../generated/types";
import { Icon } from "../form/icons";
import { cutOff } from "../form/cutOff";
import { ink } from "../theme";
import { withGroups, type Edits } from "./edits";
import { byKind } from "./listed";
import { wordOf } from "./kinds";
import { pick, useSetState } from "../state/set";

/** Everything on the stage by kind, folded and searched; the way to what is locked or hidden. */
export function PieceList({ document, edits }: { document: Document; edits: Edits }) {
  const { pieces } = document.scene;
  const picked = useSetState((s) => s.picked);
  const [sought, setSought] = useState("");
  const [open, setOpen] = useState<readonly string[]>([]);
  if (pieces.length === 0)
    return <p style={{ padding: "0 12px", color: ink.chalkDim }}>Nothing stands on the stage yet.</p>;
  const kinds = byKind(pieces, sought);
  const choose = (id: number, more: boolean) =>
    pick(
      more
        ? picked.includes(id)
          ? picked.filter((p) => p !== id)
          : [...picked, id]
        : withGroups(pieces, [id]),
    );
  return (
    <div style={{ padding: "6px 8px", fontSize: 13 }}>
      <input
        className="inplace"
        type="search"
        aria-label="Search the pieces"
        placeholder={`search ${pieces.length} pieces`}
        value={sought}
        onChange={(e) => setSought(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Escape") setSought("");
          e.stopPropagation();
        }}
        style={{ padding: "2px 4px", borderBottomColor: ink.slate3, marginBottom: 4 }}
      />
      {kinds.length === 0 && <p style={{ margin: 4, color: ink.chalkDim }}>No piece is called that.</p>}
      {kinds.map(({ kind, list }) => {
        // What is sought, or picked, is shown.
        const shown = sought !== "" || open.includes(kind) || list.some((p) => picked.includes(p.id));
        return (
          <section key={kind} aria-label={wordOf(kind)}>
            <button
              className="plain"
              aria-expanded={shown}
              onClick={() => setOpen(open.includes(kind) ? open.filter((k) => k !== kind) : [...open, kind])}
              style={{ display: "flex", width: "100%", padding: "2px 4px", color: ink.chalkDim }}
            >
              <span aria-hidden style={{ width: 16 }}>
                {shown ? "▾" : "▸"}
              </span>
              <span style={{ flex: 1 }}>{wordOf(kind)}</span>
              <span className="num" style={{ fontSize: 12 }}>
                {list.length}
              </span>
            </button>
            {shown && (
              <ul aria-label={`Pieces: ${wordOf(kind)}`} style={{ listStyle: "none", margin: 0, padding: 0 }}>
                {list.map((p) => (
                  <Line key={p.id} piece={p} on={picked.includes(p.id)} choose={choose} edits={edits} />
                ))}
              </ul>
            )}
          </section>
        );
      })}
    </div>
  );
}

function Line(props: {
  piece: Piece;
  on: boolean;
  choose: (id: number, more: boolean) => void;
  edits: Edits;
}) {
  const { piece: p, on, choose, edits } = props;
  return (
    <li
      data-testid={`listed-${p.id}`}
      style={{
        display: "flex",
        alignItems: "center",
        borderRadius: 3,
        ...(on ? { background: ink.slate2, color: ink.pick } : {}),
      }}
    >
      <button
        className="plain"
        aria-pressed={on}
        title={p.name}
        onClick={(e) => choose(p.id, e.shiftKey || e.ctrlKey)}
        style={{
          flex: 1,
          padding: "2px 4px 2px 20px",
          opacity: p.hidden ? 0.5 : 1,
          ...cutOff,
        }}
      >
        {p.name}
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
  );
}
