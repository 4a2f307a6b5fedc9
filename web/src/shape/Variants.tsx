import { Button } from "@mui/material";
import { addVariant, chooseMove, nameMove, playAgainst, removeMove } from "../move/edits";
import type { Document } from "../generated/types";
import { TextField } from "../form/fields";
import { Icon } from "../form/icons";
import { Choice } from "../form/rows";
import { siblings, type Looked } from "../state/looked";
import { lookAtVariant } from "../state/view";
import { ink } from "../theme";

/** The variants of a move as tabs: the one that is looked at is the one that is shown elsewhere. */
export function Variants({ document, looked }: { document: Document; looked: Looked }) {
  const all = siblings(document, looked.move);
  const { move, title } = looked;
  const word = (i: number, name: string) => name || (i === 0 ? "first" : `variant ${i + 1}`);
  const next = `variant ${all.length + 1}`;
  return (
    <div style={{ marginBottom: 8 }}>
      <div style={{ display: "flex", flexWrap: "wrap", gap: 3 }}>
        <div role="tablist" aria-label="Variants" style={{ display: "contents" }}>
          {all.map((m, i) => (
            <button
              key={m.id}
              role="tab"
              aria-selected={m.id === move.id}
              className="plain"
              onClick={() => {
                lookAtVariant(m.id);
                if (!m.chosen) chooseMove(title, m);
              }}
              style={{
                padding: "1px 8px",
                borderRadius: "4px 4px 0 0",
                borderBottom: `2px solid ${m.id === move.id ? ink.pick : ink.slate3}`,
                color: m.id === move.id ? ink.chalk : ink.chalkDim,
              }}
            >
              {word(i, looked.take || m.name ? m.name : "")}
            </button>
          ))}
        </div>
        <Button
          sx={{ p: "0 6px", minWidth: 0 }}
          title="A copy of this move, to be shaped in another way"
          onClick={() => void addVariant(looked, next).then((id) => id && lookAtVariant(id))}
        >
          + variant
        </Button>
      </div>
      {(all.length > 1 || !looked.take) && (
        <div style={{ display: "flex", alignItems: "center", gap: 6, marginTop: 3 }}>
          <TextField
            label="Name of this move"
            placeholder="name"
            width="100%"
            value={move.name}
            onKeep={(name) => nameMove(title, move, name)}
          />
          <button
            className="plain"
            aria-label="Remove this move"
            onClick={() => {
              const other = all.find((m) => m.id !== move.id);
              void removeMove(looked.take ? `a variant of ${title}` : title, move).then(
                () => other && lookAtVariant(other.id),
              );
            }}
          >
            <Icon name="bin" size={14} />
          </button>
        </div>
      )}
      <PlaysAgainst document={document} looked={looked} />
    </div>
  );
}

/** The performance that a move plays against, where there are several. */
function PlaysAgainst({ document, looked }: { document: Document; looked: Looked }) {
  const { performances, performance } = document.scene;
  const { take, move } = looked;
  if (performances.length < 2) return null;
  const rolled = performances.find((p) => p.id === take?.rolled.performance);
  const followed = move.source.kind === "follow";
  const alone = followed
    ? "as the move that it follows"
    : rolled
      ? `as rolled: ${rolled.name}`
      : `as the scene: ${performances.find((p) => p.id === performance)?.name}`;
  return (
    <label style={{ display: "flex", alignItems: "baseline", gap: 6, marginTop: 3 }}>
      <span style={{ color: ink.chalkDim, flex: "none" }}>plays against</span>
      <Choice
        label="Performance that this move plays against"
        value={move.performance ?? 0}
        options={[[0, alone] as const, ...performances.map((p) => [p.id, p.name] as const)]}
        onChange={(id) => playAgainst(looked, id || null)}
      />
    </label>
  );
}
