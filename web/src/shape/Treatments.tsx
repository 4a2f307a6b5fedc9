import { Button, Checkbox } from "@mui/material";
import { useRef } from "react";
import { useKinds } from "../api";
import { change, edit } from "../document/edit";
import { newId, token } from "../document/patch";
import { ParamForm, type Changed } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { Described, Document, JobView, MachineView, Move, Treatment } from "../generated/types";
import type { Looked } from "../state/looked";
import { endPreview, tryTreatments, useTried } from "../state/preview";
import { ink } from "../theme";
import { MakeKeys } from "./MakeKeys";
import { ScopeRows } from "./ScopeRows";
import { Variants } from "./Variants";

type Listed = Move["treatments"][number];

/** The variants of a move, what is done to it, in order, and keys that are made of it. */
export function Treatments({
  document,
  looked,
  machine,
  job,
}: {
  document: Document;
  looked: Looked;
  machine: MachineView;
  job: JobView | undefined;
}) {
  const kinds = useKinds().data ?? [];
  const { move, take, title } = looked;
  const tried = useTried(move.id);
  const shown = tried ?? move.treatments;
  const sent = useRef(0);
  const place = `/moves/${move.id}/treatments`;
  const word = (kind: string) => kinds.find((k) => k.name === kind)?.label.toLowerCase() ?? kind;
  const label = (list: Treatment[]) => {
    const [first] = list;
    if (!first) return `remove the treatments of ${title}`;
    return `${list.every((t) => t.kind === first.kind) ? word(first.kind) : "treat"} ${title}`;
  };
  const put = (i: number, next: Listed | null, how: Changed) => {
    const list = next ? shown.with(i, next) : shown.toSpliced(i, 1);
    if (how.tried) return tryTreatments(move.id, list);
    const mine = ++sent.current;
    // Until the server has it, what was tried stays on the screen.
    void change(label(list), place, move.treatments, list, how.gesture).finally(
      () => mine === sent.current && endPreview(),
    );
  };
  const add = ({ usual }: Described) =>
    void edit(label([...move.treatments, usual]), [
      { op: "add", path: `${place}/${token(newId())}`, value: usual },
    ]);
  return (
    <section className="panel scroll" aria-label="Treatments" style={{ padding: "8px 10px", height: "100%" }}>
      <Variants document={document} looked={looked} />
      <div style={{ display: "flex", gap: 8, alignItems: "baseline", marginBottom: 6 }}>
        <span className="label">Treatments of {title}</span>
        {take?.rating === "good" && (
          <span className="label" style={{ color: ink.within }}>
            good
          </span>
        )}
      </div>
      {shown.map((treatment, i) => (
        <Card
          key={treatment.id}
          treatment={treatment}
          kind={kinds.find((k) => k.name === treatment.kind)}
          machine={machine}
          onChange={(next, how) => put(i, next, how)}
        />
      ))}
      {shown.length === 0 && (
        <p style={{ color: ink.chalkDim, margin: "4px 0 10px" }}>
          {take
            ? "The take is as it was rolled. Smoothing takes the shake out of the hands; the start and the end stay where they are."
            : "The move goes as its keys say."}
        </p>
      )}
      <div style={{ display: "flex", flexWrap: "wrap", gap: 6 }}>
        {kinds
          .filter((k) => machine.treatments.includes(k.name))
          .map((k) => (
            <Button key={k.name} title={k.hint} onClick={() => add(k)}>
              Add {k.label.toLowerCase()}
            </Button>
          ))}
      </div>
      <MakeKeys looked={looked} job={job} />
    </section>
  );
}

interface CardProps {
  treatment: Listed;
  /** What it says of itself; missing while that is not read yet. */
  kind: Described | undefined;
  machine: MachineView;
  onChange: (next: Listed | null, how: Changed) => void;
}

const done: Changed = { tried: false };

/** A treatment: on or off, what can be set of it, where and how much it works, and away with it. */
function Card({ treatment, kind, machine, onChange }: CardProps) {
  const word = kind?.label ?? treatment.kind;
  return (
    <div
      style={{
        border: `1px solid ${ink.slate3}`,
        borderRadius: 4,
        background: ink.slate2,
        padding: "4px 8px 8px",
        marginBottom: 8,
      }}
    >
      <div style={{ display: "flex", alignItems: "center", gap: 4 }}>
        <Checkbox
          size="small"
          checked={treatment.on}
          onChange={(e) => onChange({ ...treatment, on: e.target.checked }, done)}
          slotProps={{ input: { "aria-label": `${word} on` } }}
          sx={{ p: "4px", ml: "-4px", color: ink.chalkDim, "&.Mui-checked": { color: ink.chalk } }}
        />
        <span style={{ fontWeight: 500, flex: 1 }} title={kind?.hint}>
          {word}
        </span>
        <Button onClick={() => onChange(null, done)} aria-label={`Remove ${word.toLowerCase()}`}>
          Remove
        </Button>
      </div>
      {kind && (
        <ParamForm
          params={kind.params}
          value={treatment as unknown as Fields}
          onChange={(next, how) => onChange(next as unknown as Listed, how)}
        />
      )}
      <ScopeRows treatment={treatment} machine={machine} onChange={onChange} />
    </div>
  );
}
