import { Button, LinearProgress, Popover } from "@mui/material";
import { useRef, useState } from "react";
import { useStopJob } from "../api";
import type { JobView } from "../generated/types";
import { useFloor } from "../live/link";
import { lookAt, setView } from "../state/view";
import { ink } from "../theme";
import { isOpen, jobWords, jobsInShort } from "./jobs";

/** Long work: how far the first of it is, and a list of all of it. Nothing while there is none. */
export function JobsList() {
  const jobs = useFloor((s) => s.jobs);
  const [open, setOpen] = useState(false);
  const here = useRef<HTMLButtonElement>(null);
  if (jobs.length === 0) return null;
  return (
    <>
      <Button ref={here} onClick={() => setOpen(true)} aria-label="Jobs" sx={{ whiteSpace: "nowrap" }}>
        {jobsInShort(jobs)}
      </Button>
      <Popover
        open={open}
        anchorEl={() => here.current}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
        slotProps={{ paper: { sx: { p: 1.5, width: 380, border: `1px solid ${ink.slate3}` } } }}
      >
        <div className="label" style={{ marginBottom: 6 }}>
          Jobs
        </div>
        {jobs.map((job) => (
          <JobRow key={job.id} job={job} onLook={() => setOpen(false)} />
        ))}
      </Popover>
    </>
  );
}

function JobRow({ job, onLook }: { job: JobView; onLook: () => void }) {
  const stop = useStopJob();
  return (
    <div style={{ borderTop: `1px solid ${ink.slate3}`, padding: "6px 0" }}>
      <div style={{ display: "flex", gap: 8, alignItems: "baseline" }}>
        <span style={{ flex: 1 }}>{jobWords(job)}</span>
        {job.state === "done" && job.lanes && (
          <Button
            onClick={() => {
              if (job.move_id !== null) lookAt(job.move_id);
              setView({ station: "shape" });
              onLook();
            }}
          >
            Look
          </Button>
        )}
        <Button onClick={() => stop.mutate(job.id)}>{isOpen(job) ? "Stop" : "Forget"}</Button>
      </div>
      {job.state === "running" && (
        <LinearProgress
          variant="determinate"
          value={100 * job.share}
          sx={{ mt: 0.5, backgroundColor: ink.slate3, "& .MuiLinearProgress-bar": { background: ink.pick } }}
        />
      )}
      {job.state === "failed" && <div style={{ color: ink.beyond, fontSize: 12.5 }}>{job.sentence}</div>}
    </div>
  );
}
