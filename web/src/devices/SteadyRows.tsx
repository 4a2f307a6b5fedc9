import type { Steady } from "../generated/types";
import { Choice, Row } from "../form/rows";
import { NumberField } from "../form/fields";

/** How a carried camera is steadied while it is carried. */
export function SteadyRows(props: {
  steady: Steady;
  onChange: (part: Partial<Steady>, gesture?: string) => void;
}) {
  const { steady, onChange } = props;
  return (
    <>
      <Row label="steadied by">
        <Choice
          label="Steadied by"
          value={steady.by}
          options={[
            ["one_euro", "One Euro: prompt"],
            ["fixed_lag", "fixed lag: always late"],
          ]}
          onChange={(by) => onChange({ by })}
        />
      </Row>
      <Row label="position, rotation">
        {(["position", "rotation"] as const).map((part) => (
          <NumberField
            key={part}
            label={`Steadying of ${part}`}
            unit=""
            digits={2}
            step={0.05}
            min={0}
            max={1}
            value={steady[part]}
            onChange={(v, gesture) => onChange({ [part]: v }, gesture)}
          />
        ))}
      </Row>
    </>
  );
}
