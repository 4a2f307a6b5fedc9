import { Button } from "@mui/material";
import type { DollyTrack } from "../generated/types";
import { newId } from "../document/patch";
import { NumberField } from "../form/fields";
import { Icon } from "../form/icons";
import { Row } from "../form/rows";
import { ink } from "../theme";
import { count, stock } from "./kinds";

/** Track piece by piece: what is laid, what it measures, what has to be brought. */
export function TrackRows({
  track,
  onChange,
}: {
  track: DollyTrack;
  onChange: (track: DollyTrack, gesture?: string) => void;
}) {
  const { pieces } = track;
  const set = (i: number, piece: DollyTrack["pieces"][number], gesture: string) =>
    onChange({ ...track, pieces: pieces.map((p, k) => (k === i ? piece : p)) }, gesture);
  const field = (i: number, key: string, name: string, unit: string, step: number) => (
    <NumberField
      label={`Piece ${i + 1} ${name}`}
      unit={unit}
      step={step}
      digits={unit === "°" ? 0 : 2}
      value={(pieces[i] as unknown as Record<string, number>)[key]!}
      onChange={(v, gesture) => set(i, { ...pieces[i]!, [key]: v }, gesture)}
    />
  );
  return (
    <div style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 4, paddingTop: 4 }}>
      <div style={{ display: "flex", gap: 4, flexWrap: "wrap", alignItems: "baseline" }}>
        <span style={{ color: ink.chalkDim }}>lay</span>
        {stock.map(([name, piece]) => (
          <Button
            key={name}
            aria-label={`Lay ${name}`}
            sx={{ p: "0 5px", fontSize: 12 }}
            onClick={() => onChange({ ...track, pieces: [...pieces, { id: newId(), ...piece }] })}
          >
            {name}
          </Button>
        ))}
      </div>
      <p data-testid="track-count" style={{ margin: "4px 0", color: ink.chalk, fontSize: 12.5 }}>
        {count(pieces)}
      </p>
      {pieces.map((piece, i) => (
        <Row key={piece.id} label={`${i + 1} ${piece.piece}`}>
          {piece.piece === "straight" ? (
            field(i, "length_m", "length", "m", 0.01)
          ) : (
            <>
              {field(i, "turn_deg", "turn", "°", 5)}
              {field(i, "radius_m", "radius", "m", 0.05)}
            </>
          )}
          <span style={{ color: ink.chalkDim }}>↗</span>
          {field(i, "rise_m", "rise", "m", 0.01)}
          <button
            className="plain"
            aria-label={`Remove piece ${i + 1}`}
            disabled={pieces.length < 2}
            onClick={() => onChange({ ...track, pieces: pieces.filter((_, k) => k !== i) })}
          >
            <Icon name="bin" size={14} />
          </button>
        </Row>
      ))}
    </div>
  );
}
