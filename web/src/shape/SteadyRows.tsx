import type { Steady } from "../generated/types";
import { Choice, Row } from "../set/rows";
import { NumberField } from "../shell/fields";

/** How a tracked take is steadied after the fact; nothing has to be late then. */
export function SteadyRows({
  steady,
  onChange,
}: {
  steady: Steady;
  onChange: (part: Partial<Steady>) => void;
}) {
  return (
    <>
      <Row label="by">
        <Choice
          label="Steadied afterwards by"
          value={steady.by}
          options={[
            ["one_euro", "One Euro"],
            ["fixed_lag", "fixed lag"],
          ]}
          onChange={(by) => onChange({ by })}
        />
      </Row>
      {(["position", "rotation"] as const).map((part) => (
        <Row key={part} label={part}>
          <NumberField
            label={`Steadying afterwards of ${part}`}
            unit=""
            digits={2}
            step={0.05}
            min={0}
            max={1}
            value={steady[part]}
            onChange={(v) => onChange({ [part]: v })}
          />
        </Row>
      ))}
    </>
  );
}
