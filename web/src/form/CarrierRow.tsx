import type { Carrier } from "../generated/types";
import { carrierKey, type Carriers } from "../state/carriers";
import { Choice, Row } from "./rows";

/** What carries something: nothing, or one of those that may. */
export function CarrierRow(props: {
  value: Carrier | null | undefined;
  choices: Carriers;
  /** What there is under what nothing carries. */
  none: string;
  onChange: (carrier: Carrier | null) => void;
}) {
  const now = carrierKey(props.value);
  const options = [["nothing", props.none], ...props.choices.map(([c, word]) => [carrierKey(c), word])] as [
    string,
    string,
  ][];
  const known = options.some(([key]) => key === now);
  return (
    <Row label="carried by">
      <Choice
        label="Carried by"
        value={now}
        options={known ? options : [...options, [now, "something that is gone"]]}
        onChange={(key) => props.onChange(props.choices.find(([c]) => carrierKey(c) === key)?.[0] ?? null)}
      />
    </Row>
  );
}
