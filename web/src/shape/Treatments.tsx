import { Button, Checkbox } from "@mui/material";
import { memo, useRef, useState } from "react";
import { useJobKinds, useKinds } from "../api";
import { change, edit } from "../document/edit";
import { newId, token } from "../document/patch";
import { Long, Now, type Changed } from "../form/contexts";
import { ParamForm } from "../form/ParamForm";
import { happening, summaryOf, type Fields } from "../form/params";
import type {
  Described,
  Document,
  JobView,
  MachineView,
  Move,
  MoveId,
  Question,
  Treatment,
} from "../generated/types";
import { Toggle } from "../form/rows";
import type { Looked } from "../state/looked";
import { endPreview, triedOf, turnAlone, useAlone, tryTreatments, useTriedOf } from "../state/preview";
import { clock } from "../state/view";
import { ink } from "../theme";
import { BadSeconds } from "./BadSeconds";
import { ByHand } from "./ByHand";
import { KeptTreatments } from "./KeptTreatments";
import { MakeFlat } from "./MakeFlat";
import { JobForm } from "../move/JobForm";
import { bands, inOrder, placeOf } from "./bands";
import { InToOut } from "./InToOut";
import { TreatmentQuestion } from "./Questions";
import { ScopeRows } from "./ScopeRows";
import { Variants } from "./Variants";

type Listed = Move["treatments"][number];
/** Change of a treatment; null removes it. */
type Change = (treatment: Listed) => Listed | null;

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
  const jobs = useJobKinds().data;
  const { move, take, title } = looked;
  // The one that was opened, or the one that was added last; none where it was closed.
  const [open, setOpen] = useState<number | null>(null);
  const latest = Math.max(0, ...move.treatments.map((t) => t.id));
  const shown = open ?? latest;
  const sent = useRef(0);
  const place = `/moves/${move.id}/treatments`;
  const word = (kind: string) => kinds.find((k) => k.name === kind)?.label.toLowerCase() ?? kind;
  const label = (list: Treatment[]) => {
    const [first] = list;
    if (!first) return `remove the treatments of ${title}`;
    return `${list.every((t) => t.kind === first.kind) ? word(first.kind) : "treat"} ${title}`;
  };
  const put = (id: number, next: Change, how: Changed) => {
    const shown = triedOf(move.id) ?? move.treatments;
    const list = shown.flatMap((t) => (t.id === id ? (next(t) ?? []) : t));
    if (how.tried) return tryTreatments(move.id, list);
    const mine = ++sent.current;
    // Until the server has it, what was tried stays on the screen.
    void change(label(list), place, move.treatments, list, how.gesture).finally(
      () => mine === sent.current && endPreview(),
    );
  };
  const add = ({ usual }: Described) => {
    setOpen(null);
    const before = placeOf(usual.kind, move.treatments, kinds);
    void edit(label([...move.treatments, usual]), [
      { op: "add", path: `${place}/${token(newId())}`, value: happening(usual, clock.time), before },
    ]);
  };
  const mend = (remedies: Treatment[]) => {
    const ops = inOrder(remedies, kinds).map((value) => ({
      op: "add" as const,
      path: `${place}/${token(newId())}`,
      value,
      before: placeOf(value.kind, move.treatments, kinds),
    }));
    setOpen(0);
    void edit(`mend ${title}`, ops);
  };
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
      {bands.map(([level, word]) => (
        <div key={level} role="group" aria-label={`Treatments of ${word}`}>
          <div
            style={{
              display: "flex",
              flexWrap: "wrap",
              justifyContent: "flex-end",
              alignItems: "baseline",
              columnGap: 10,
              margin: "6px 0 4px",
            }}
          >
            <span className="label" style={{ flex: 1 }}>
              {word}
            </span>
            {kinds
              .filter((k) => k.level === level && machine.treatments.includes(k.name))
              .map((k) => (
                <button
                  key={k.name}
                  className="plain"
                  title={k.hint}
                  aria-label={`Add ${k.label.toLowerCase()}`}
                  onClick={() => add(k)}
                  style={{ color: ink.pick }}
                >
                  + {k.label.toLowerCase()}
                </button>
              ))}
          </div>
          {move.treatments
            .filter((t) => kinds.find((k) => k.name === t.kind)?.level === level)
            .map((treatment) => (
              <Card
                key={treatment.id}
                looked={looked}
                kept={treatment}
                kind={kinds.find((k) => k.name === treatment.kind)}
                machine={machine}
                open={treatment.id === shown}
                onOpen={() => setOpen(treatment.id === shown ? 0 : treatment.id)}
                onChange={(next, how) => put(treatment.id, next, how)}
              />
            ))}
        </div>
      ))}
      {move.treatments.length === 0 && (
        <p style={{ color: ink.chalkDim, margin: "4px 0 10px" }}>
          {take
            ? "The take is as it was rolled. Smoothing takes the shake out of the hands; the start and the end stay where they are."
            : "The move goes as its keys say."}
        </p>
      )}
      <BadSeconds key={move.id} looked={looked} word={word} onMend={mend} />
      <KeptTreatments looked={looked} machine={machine} kinds={kinds} />
      {jobs?.map((kind) => (
        <JobForm key={kind.name} kind={kind} move={looked.move.id} job={job} />
      ))}
      <MakeFlat looked={looked} />
    </section>
  );
}

interface CardProps {
  looked: Looked;
  /** Treatment of the document; while a change of it is tried, that change is shown. */
  kept: Listed;
  /** Description of the kind; undefined until it is read. */
  kind: Described | undefined;
  machine: MachineView;
  /** Only what is open shows what can be set. */
  open: boolean;
  onOpen: () => void;
  onChange: (next: Change, how: Changed) => void;
}

const done: Changed = { tried: false };
const playhead = () => clock.time;

/** A treatment: on or off, what can be set of it, where and how much it works, and away with it. */
function Card({ looked, kept, kind, machine, open, onOpen, onChange }: CardProps) {
  const move = looked.move.id;
  const treatment = useTriedOf(move, kept.id) ?? kept;
  const word = kind?.label ?? treatment.kind;
  const questions = (which: (question: Question) => boolean) =>
    open &&
    kind?.questions
      .filter(which)
      .map((question) => (
        <TreatmentQuestion
          key={`${kept.id} ${question.label}`}
          looked={looked}
          treatment={kept.id}
          question={question}
          onAnswer={onChange}
        />
      ));
  return (
    <div
      style={{
        border: `1px solid ${open ? ink.pick : ink.slate3}`,
        borderRadius: 4,
        background: ink.slate2,
        padding: open ? "3px 8px 8px" : "3px 8px",
        marginBottom: 6,
      }}
    >
      <Head
        word={word}
        hint={kind?.hint}
        summary={open || !kind ? "" : summaryOf(kind.params, treatment as unknown as Fields)}
        on={treatment.on}
        move={move}
        id={kept.id}
        open={open}
        onOpen={onOpen}
        onChange={onChange}
      />
      {questions((q) => q.asked !== "always")}
      {open && kept.kind === "trim" && (
        <InToOut
          looked={looked}
          trim={kept}
          onTrim={({ start_s, end_s }) =>
            onChange((t) => (t.kind === "trim" ? { ...t, start_s, end_s } : t), done)
          }
        />
      )}
      {open && treatment.kind === "correction" && (
        <ByHand
          keys={treatment.keys}
          onKeys={(keys, how) => onChange((t) => (t.kind === "correction" ? { ...t, keys } : t), how)}
        />
      )}
      {open && kind && (
        <Long value={looked.length_s}>
          <Now value={playhead}>
            <ParamForm
              params={kind.params}
              value={treatment as unknown as Fields}
              onChange={(next, how) => onChange(() => next as unknown as Listed, how)}
            />
          </Now>
        </Long>
      )}
      {/* Below the form: lists come later, and nothing moves from under a hand. */}
      {questions((q) => q.asked === "always")}
      {open && kind && kind.level !== "time" && (
        <ScopeRows
          treatment={treatment}
          machine={machine}
          length_s={looked.length_s}
          ofAxes={kind.level !== "camera"}
          onChange={(next, how) => onChange(() => next, how)}
        />
      )}
    </div>
  );
}

interface HeadProps {
  word: string;
  hint: string | undefined;
  /** Summary of the settings of a folded card. */
  summary: string;
  on: boolean;
  move: MoveId;
  id: number;
  open: boolean;
  onOpen: () => void;
  onChange: CardProps["onChange"];
}

/** The name of a treatment, its switch, and away with it; not rendered anew while a slider is dragged. */
const Head = memo(function Head(props: HeadProps) {
  const { word, hint, summary, on, move, id, open, onOpen, onChange } = props;
  const alone = useAlone((s) => s.move === move && s.treatment === id);
  return (
    <div style={{ display: "flex", alignItems: "center", gap: 4 }}>
      <Checkbox
        size="small"
        checked={on}
        onChange={(e) => onChange((t) => ({ ...t, on: e.target.checked }), done)}
        slotProps={{ input: { "aria-label": `${word} on` } }}
        sx={{ p: "4px", ml: "-4px", color: ink.chalkDim, "&.Mui-checked": { color: ink.chalk } }}
      />
      <button
        className="plain"
        aria-expanded={open}
        aria-label={`${word}, what can be set`}
        title={hint}
        onClick={onOpen}
        style={{ flex: 1, minWidth: 0, display: "flex", gap: 8, alignItems: "baseline" }}
      >
        <span style={{ fontWeight: 500 }}>{word}</span>
        <span
          className="num"
          style={{
            marginLeft: "auto",
            fontSize: 12,
            color: ink.chalkDim,
            overflow: "hidden",
            textOverflow: "ellipsis",
          }}
        >
          {summary}
        </span>
      </button>
      {open && (
        <>
          <Toggle
            on={alone}
            label="alone"
            name={`${word} alone`}
            title="See this treatment alone, as if the others were off; nothing of it is kept"
            onClick={() => turnAlone(move, id)}
          />
          <Button onClick={() => onChange(() => null, done)} aria-label={`Remove ${word.toLowerCase()}`}>
            Remove
          </Button>
        </>
      )}
    </div>
  );
});
