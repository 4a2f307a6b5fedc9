import { expect, test } from "vitest";
import { jobOf, jobWords, jobsInShort } from "./jobs";

const job = { id: 3, label: "keys of take 1", move_id: 7 };

test("a job says what it does and how far it is", () => {
  expect(jobWords({ ...job, state: "waiting" })).toBe("keys of take 1: waiting");
  expect(jobWords({ ...job, state: "running", share: 0.456 })).toBe("keys of take 1: 46 %");
  const words = "63 keys, at most 1.81 cm and 0.27° off";
  expect(jobWords({ ...job, state: "done", kind: "keys", words, lanes: true })).toBe(
    `keys of take 1: ${words}`,
  );
  expect(jobWords({ ...job, state: "failed", sentence: "no" })).toBe("keys of take 1: not done");
  expect(jobWords({ ...job, state: "stopped" })).toBe("keys of take 1: stopped");
});

test("the newest job about a move is the one that counts", () => {
  const jobs = [1, 2].map((id) => ({ ...job, id, state: "stopped" as const }));
  expect([jobOf(jobs, 7)?.id, jobOf(jobs, 8)]).toEqual([2, undefined]);
});

test("all jobs fit into the slate", () => {
  const running = { ...job, state: "running" as const, share: 0.5 };
  const over = { ...job, id: 4, state: "stopped" as const };
  expect(jobsInShort([over, running])).toBe("2 jobs · 50 %");
  expect(jobsInShort([over])).toBe("1 job · done");
  expect(jobsInShort([{ ...job, state: "waiting" }])).toBe("1 job · waiting");
});
