import type { JobView } from "../generated/types";

/** A job in a few words: what, and how it goes. */
export function jobWords(job: JobView): string {
  switch (job.state) {
    case "waiting":
      return `${job.label}: waiting`;
    case "running":
      return `${job.label}: ${Math.round(100 * job.share)} %`;
    case "keys":
      return `${job.label}: ${keysFound(job)}`;
    case "failed":
      return `${job.label}: not done`;
    case "stopped":
      return `${job.label}: stopped`;
  }
}

/** How many keys there are, and how far off they leave the camera at the most. */
export const keysFound = (job: Extract<JobView, { state: "keys" }>) =>
  `${job.count} keys, at most ${job.position_cm.toFixed(2)} cm and ${job.rotation_deg.toFixed(2)}° off`;

/** The newest job about a move. */
export const jobOf = (jobs: JobView[], move: number) => jobs.findLast((j) => j.move_id === move);

/** All of them in two words: how many, and how far the one that runs is. */
export function jobsInShort(jobs: JobView[]): string {
  const many = `${jobs.length} job${jobs.length === 1 ? "" : "s"}`;
  const running = jobs.find((j) => j.state === "running");
  if (running?.state === "running") return `${many} · ${Math.round(100 * running.share)} %`;
  return jobs.some((j) => j.state === "waiting") ? `${many} · waiting` : `${many} · done`;
}
