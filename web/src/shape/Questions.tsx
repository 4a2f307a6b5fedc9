import { Button } from "@mui/material";
import { useRef, useState } from "react";
import { askTreatment, useAnswer } from "../api";
import type { Changed } from "../form/contexts";
import { ParamForm } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { Answer, FoundStretch, Move, Question, TreatmentKind } from "../generated/types";
import type { Looked } from "../state/looked";
import { endPreview } from "../state/preview";
import { seek } from "../state/transport";
import { ink } from "../theme";

type Listed = Move["treatments"][number];

interface AskProps {
  looked: Looked;
  treatment: number;
  question: Question;
  /** Puts the fields of an answer into the treatment. */
  onAnswer: (next: (treatment: Listed) => Listed, how: Changed) => void;
}

const kept: Changed = { tried: false };

/** A treatment with the fields that an answer sets; one that has become another kind meanwhile stays as it is. */
const answered = (question: Question, to: TreatmentKind) => (treatment: Listed) => {
  if (treatment.kind !== to.kind) return treatment;
  const all = to as unknown as Fields;
  const sets = Object.fromEntries(question.sets.map((field) => [field, all[field]]));
  return { ...treatment, ...sets } as Listed;
};

/** A question about a treatment, drawn from its description: a button, a form, or a list. */
export function TreatmentQuestion(props: AskProps) {
  if (props.question.asked === "pressed") return <AskButton {...props} />;
  if (props.question.asked === "set") return <AskForm {...props} />;
  return <AnswerList {...props} />;
}

function AskButton({ looked, treatment, question, onAnswer }: AskProps) {
  const [asked, setAsked] = useState(false);
  const ask = () => {
    setAsked(true);
    void askTreatment(looked.move.id, treatment, question.usual)
      .then((answer) => answer?.to && onAnswer(answered(question, answer.to), kept))
      .finally(() => setAsked(false));
  };
  return (
    <Button disabled={asked} onClick={ask} title={question.hint} sx={{ my: "4px" }}>
      {question.label}
    </Button>
  );
}

function AskForm({ looked, treatment, question, onAnswer }: AskProps) {
  const [wished, setWished] = useState<Question["usual"] | null>(null);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const asked = useRef<AbortController | null>(null);
  const ask = (wish: Question["usual"], how: Changed) => {
    setWished(wish);
    asked.current?.abort();
    const { signal } = (asked.current = new AbortController());
    void askTreatment(looked.move.id, treatment, wish, signal).then((found) => {
      if (signal.aborted) return;
      // A preview of an earlier wish ends: the treatment is shown as it is kept.
      if (!found) return endPreview();
      setAnswer(found);
      if (found.to) onAnswer(answered(question, found.to), how);
    });
  };
  return (
    <div
      role="group"
      aria-label={question.label}
      title={question.hint}
      style={{ borderBottom: `1px solid ${ink.slate3}`, paddingBottom: 4, marginBottom: 4 }}
    >
      <ParamForm
        // Before a wish is set, there is nothing to bound.
        params={wished ? question.params : question.params.slice(0, 1)}
        value={(wished ?? question.usual) as unknown as Fields}
        onChange={(next, how) => ask(next as unknown as Question["usual"], how)}
      />
      {answer?.short.map((sentence) => (
        <p key={sentence} role="alert" style={{ margin: "2px 0", fontSize: 12.5, color: ink.near }}>
          ▲ {sentence}
        </p>
      ))}
    </div>
  );
}

function AnswerList({ looked, treatment, question, onAnswer }: AskProps) {
  const answer = useAnswer(looked, treatment, question.usual).data;
  if (!answer) return null;
  return (
    <>
      {answer.words && <p style={{ margin: "2px 0", color: ink.chalkDim }}>{answer.words}</p>}
      {answer.found.length > 0 && (
        <ul
          aria-label={question.label}
          title={question.hint}
          style={{ listStyle: "none", margin: "2px 0 6px", padding: 0 }}
        >
          {answer.found.map((found) => (
            <StretchRow
              key={`${found.name} ${found.from_s}`}
              found={found}
              onTurn={() => onAnswer(answered(question, found.turned), kept)}
            />
          ))}
        </ul>
      )}
    </>
  );
}

/** A stretch of time that was found: gone to by a click, and left as it is where the operator wants it so. */
function StretchRow({ found, onTurn }: { found: FoundStretch; onTurn: () => void }) {
  const { name, from_s, to_s, state, fixed, left } = found;
  return (
    <li style={{ display: "flex", gap: 8, fontSize: 12.5 }}>
      <button
        className="plain"
        style={{ flex: 1, textAlign: "left" }}
        title="Go there"
        onClick={() => seek(from_s)}
      >
        {name}{" "}
        <span className="num">
          {from_s.toFixed(1)}–{to_s.toFixed(1)} s
        </span>
      </button>
      {fixed ? (
        <span style={{ color: ink.chalkDim }} title={fixed}>
          {state}
        </span>
      ) : (
        <button
          className="plain"
          aria-pressed={left}
          aria-label={`Leave ${name} at ${from_s.toFixed(1)} s`}
          style={{ color: left ? ink.chalkDim : ink.within }}
          onClick={onTurn}
        >
          {state}
        </button>
      )}
    </li>
  );
}
