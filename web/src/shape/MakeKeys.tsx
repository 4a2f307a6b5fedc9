import { Button, LinearProgress } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { useState } from "react";
import { useKeepKeys, useMakeKeys, useStopJob } from "../api";
import type { JobView } from "../generated/types";
import { keysFound } from "../move/jobs";
import { Row } from "../form/rows";
import { NumberField } from "../form/fields";
import type { Looked } from "../state/looked";
import { lookAt } from "../state/view";
import { ink } from "../theme";

/** Few keys that keep the camera where it was, within a tolerance: made, looked at, kept as a move. */
export function MakeKeys({ looked, job }: { looked: Looked; job: JobView | undefined }) {
  const [cm, setCm] = useState(1);
  const [deg, setDeg] = useState(0.2);
  const make = useMakeKeys();
  const stop = useStopJob();
  const keep = useKeepKeys();
  const open = job && (job.state === "running" || job.state === "waiting");
  return (
    <div style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 10, paddingTop: 6 }}>
      <span className="label">Make keys of it</span>
      <Row label="within">
        <NumberField
          label="Tolerance of position"
          unit="cm"
          digits={2}
          step={0.1}
          min={0.01}
          max={100}
          value={cm}
          onChange={setCm}
        />
        <NumberField
          label="Tolerance of rotation"
          unit="°"
          digits={2}
          step={0.05}
          min={0.001}
          max={30}
          value={deg}
          onChange={setDeg}
        />
      </Row>
      {open ? (
        <div style={{ display: "flex", alignItems: "center", gap: 8 }}>
          <LinearProgress
            aria-label="How far the keys are"
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
          title="As few keys as keep the camera within that; ordinary keys afterwards"
          onClick={() =>
            make.mutate({ move: looked.move.id, tolerance: { position_cm: cm, rotation_deg: deg } })
          }
        >
          Make keys
        </Button>
      )}
      {job?.state === "keys" && (
        <div role="status" style={{ marginTop: 4 }}>
          <div style={{ fontSize: 12.5 }}>
            {keysFound(job)}. <span style={{ color: ink.chalkDim }}>The lanes show them over the move.</span>
          </div>
          <Button
            color="primary"
            onClick={() =>
              keep.mutate(job.id, {
                onSuccess: ({ move_id, runs }) => {
                  lookAt(move_id);
                  enqueueSnackbar(
                    runs
                      ? "The keys are a move of their own; the setup’s machine runs it."
                      : "The keys are a move of their own, with the machine as it stood for the take.",
                  );
                },
              })
            }
          >
            Keep as a move
          </Button>
          <Button onClick={() => stop.mutate(job.id)}>Forget</Button>
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
