import type { Carrier } from "../generated/types";
import { carrierKey, type Carriers } from "../state/carriers";
import { Choice, Row } from "./rows";

/** Row that chooses a carrier: none, or one of those that may carry. */
export function CarrierRow(props: {
  value: Carrier | null | undefined;
  choices: Carriers;
  /** Word for no carrier. */
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
