import type { JobView, MoveId } from "../generated/types";

/** A job in a few words: what, and how it goes. */
export function jobWords(job: JobView): string {
  switch (job.state) {
    case "waiting":
      return `${job.label}: waiting`;
    case "running":
      return `${job.label}: ${Math.round(100 * job.share)} %`;
    case "done":
      return `${job.label}: ${job.words}`;
    case "failed":
      return `${job.label}: not done`;
    case "stopped":
      return `${job.label}: stopped`;
  }
}

/** The newest job about a move. */
export const jobOf = (jobs: JobView[], move: MoveId) => jobs.findLast((j) => j.move_id === move);

/** True while a job waits or runs. */
export const isOpen = (job: JobView | undefined) => job?.state === "running" || job?.state === "waiting";

/** All of them in two words: how many, and how far the one that runs is. */
export function jobsInShort(jobs: JobView[]): string {
  const many = `${jobs.length} job${jobs.length === 1 ? "" : "s"}`;
  const running = jobs.find((j) => j.state === "running");
  if (running?.state === "running") return `${many} · ${Math.round(100 * running.share)} %`;
  return jobs.some((j) => j.state === "waiting") ? `${many} · waiting` : `${many} · done`;
}
