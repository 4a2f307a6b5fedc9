import { Button, LinearProgress } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { useState } from "react";
import { useBeginJob, useKeepJob, useStopJob } from "../api";
import { ParamForm } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { JobKind, JobRequest, JobView, MoveId } from "../generated/types";
import { lookAt } from "../state/view";
import { ink } from "../theme";
import { isOpen } from "./jobs";

/** A kind of job about a move: its parameters, how far it is, and what it made, to be kept or forgotten. */
export function JobForm({ kind, move, job }: { kind: JobKind; move: MoveId; job: JobView | undefined }) {
  const [chosen, setChosen] = useState<Fields | null>(null);
  const begin = useBeginJob();
  const stop = useStopJob();
  const keep = useKeepJob();
  const fields = chosen ?? (kind.usual as Fields);
  const done = job?.state === "done" && job.kind === kind.name ? job : null;
  return (
    <div
      role="group"
      aria-label={kind.word}
      style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 10, paddingTop: 6 }}
    >
      <span className="label">{kind.word}</span>
      <ParamForm params={kind.params} value={fields} onChange={setChosen} />
      {job && isOpen(job) ? (
        <div style={{ display: "flex", alignItems: "center", gap: 8 }}>
          <LinearProgress
            aria-label={`How far it is: ${job.label}`}
            variant={job.state === "running" ? "determinate" : "indeterminate"}
            value={job.state === "running" ? 100 * job.share : 0}
            sx={{
              flex: 1,
              backgroundColor: ink.slate3,
              "& .MuiLinearProgress-bar": { background: ink.pick },
            }}
          />
          <Button onClick={() => stop.mutate(job.id)}>Stop</Button>
        </div>
      ) : (
        <Button
          title={kind.hint}
          onClick={() => begin.mutate({ ...fields, kind: kind.name, move_id: move } as unknown as JobRequest)}
        >
          {kind.begin}
        </Button>
      )}
      {done && (
        <div role="status" style={{ marginTop: 4 }}>
          <div style={{ fontSize: 12.5 }}>
            {done.words}.{" "}
            {done.lanes && <span style={{ color: ink.chalkDim }}>The lanes show it over the move.</span>}
          </div>
          <Button
            color="primary"
            onClick={() =>
              keep.mutate(done.id, {
                onSuccess: ({ move_id, words }) => {
                  if (move_id !== null) lookAt(move_id);
                  enqueueSnackbar(words);
                },
              })
            }
          >
            {kind.keep}
          </Button>
          <Button onClick={() => stop.mutate(done.id)}>Forget</Button>
        </div>
      )}
      {job?.state === "failed" && (
        <p role="alert" style={{ color: ink.beyond, fontSize: 12.5, margin: "4px 0" }}>
          {job.sentence}
        </p>
      )}
    </div>
  );
}
