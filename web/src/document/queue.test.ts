import { expect, test } from "vitest";
import type { Changed, Document } from "../generated/types";
import { apply, at } from "./patch";
import { Queue, Refused, type Answer, type Conflict, type Edit, type Known } from "./queue";

const start = () =>
  ({
    production: "Last Tram",
    scene: {
      id: 1,
      pieces: [{ id: 1, name: "wall", position: [0, 0, 0] }],
      performers: [],
      performances: [],
    },
    setups: [{ id: 1, name: "crane", keys: [] }],
    takes: [],
    history: { undo: null, redo: null },
  }) as unknown as Document;

const versions = {
  performances: {},
  sets: { 1: "lit" },
  machines: {},
  plays: {},
  setups: {},
  moves: {},
  takes: {},
  pictures: {},
};

/** A server with a document of its own; each request waits until it is answered. */
function server() {
  const state = { document: start(), revision: 10, requests: [] as Edit[][], shown: 0, silent: 0 };
  const refusals: { edit: Edit; why: Refused }[] = [];
  let answer: ((how: "do" | "lose" | Refused) => void) | null = null;
  const changed = (since: number): Changed => ({
    since,
    revision: state.revision,
    versions: { ...versions, moves: { 7: `${state.revision}` } },
    history: state.document.history,
    pieces: { changed: state.document.scene.pieces, order: state.document.scene.pieces.map((p) => p.id) },
    setups: { changed: state.document.setups, order: state.document.setups.map((s) => s.id) },
  });
  const write = (edits: Edit[]) => {
    state.document = edits.flatMap((e) => e.ops).reduce(apply, state.document);
    state.revision += edits.length;
  };
  const queue: Queue = new Queue({
    send: (edits) => {
      state.requests.push(edits);
      const since = state.revision;
      return new Promise<Answer>((resolve, reject) => {
        answer = (how) => {
          if (how === "lose") return reject(new Error("no network"));
          if (how instanceof Refused) {
            write(edits.slice(0, how.done));
            return reject(how);
          }
          write(edits);
          resolve({ made: {}, changed: changed(since) });
        };
      });
    },
    read: async (): Promise<Known> => ({
      document: state.document,
      revision: state.revision,
      versions,
      onShelf: "depot",
    }),
    step: async (_, entry) => {
      // The one that was named must be the next one, as on the server.
      if (state.document.history.undo?.id !== entry) throw new Error("that is not the last edit any more");
      const since = state.revision++;
      const undo = entry > 1 ? { ...state.document.history.undo, id: entry - 1 } : null;
      state.document = { ...state.document, history: { undo, redo: null } };
      return changed(since);
    },
    show: () => void state.shown++,
    refused: (edit, why) => void refusals.push({ edit, why }),
    silent: async () => void state.silent++,
  });
  /** Answers the request that is on its way, and lets what follows from it happen. */
  const settle = async (how: "do" | "lose" | Refused = "do") => {
    const now = answer!;
    answer = null;
    now(how);
    for (let i = 0; i < 8; i++) await Promise.resolve();
  };
  return { queue, state, refusals, settle, write, changed };
}

const x = (value: number, gesture?: string): Edit => ({
  label: "move wall",
  ops: [{ op: "replace", path: "/pieces/1/position/0", value }],
  ...(gesture ? { gesture } : {}),
});
const z = (value: number): Edit => ({
  label: "move wall",
  ops: [{ op: "replace", path: "/pieces/1/position/2", value }],
});
const place = (document: Document | null) => at(document!, "/pieces/1/position");

test("what is typed is shown at once, sent in order, and waits together", async () => {
  const { queue, state, settle } = server();
  await queue.readAnew();
  void queue.push(x(1));
  void queue.push(z(2));
  void queue.push({ label: "name it", ops: [{ op: "replace", path: "/setups/1/name", value: "arm" }] });
  expect(place(queue.shown())).toEqual([1, 0, 2]);
  expect(state.requests.map((r) => r.length)).toEqual([1]);
  await settle();
  expect(state.requests.map((r) => r.length)).toEqual([1, 2]);
  expect([place(queue.known!.document), place(queue.shown())]).toEqual([
    [1, 0, 0],
    [1, 0, 2],
  ]);
  await settle();
  await queue.settled();
  expect(queue.known!.document).toEqual(state.document);
  expect(at(state.document, "/setups/1/name")).toBe("arm");
});

test("a drag that outruns the answers is one edit", async () => {
  const { queue, state, settle } = server();
  await queue.readAnew();
  for (let i = 1; i <= 30; i++) void queue.push(x(i, "drag"));
  await settle();
  expect(state.requests.map((r) => r.map((e) => e.ops.length))).toEqual([[1], [1]]);
  await settle();
  expect(place(state.document)).toEqual([30, 0, 0]);
});

test("what another page does meanwhile is kept beside what is on its way", async () => {
  const { queue, state, settle, write, changed } = server();
  await queue.readAnew();
  void queue.push(x(1));
  write([z(5)]);
  await queue.told(changed(10));
  expect(place(queue.shown())).toEqual([1, 0, 5]);
  expect(queue.known?.versions).toEqual({ ...versions, moves: { 7: "11" } });
  await settle();
  expect(place(state.document)).toEqual([1, 0, 5]);
  expect(place(queue.shown())).toEqual([1, 0, 5]);
});

test("of what was missed the whole is read again", async () => {
  const { queue, state, write, changed } = server();
  await queue.readAnew();
  write([z(5), z(6)]);
  await queue.told({ ...changed(11), pieces: { changed: [], order: [1] } });
  expect(queue.known).toEqual({ document: state.document, revision: 12, versions, onShelf: "depot" });
});

test("a server that does not answer loses nothing", async () => {
  const { queue, state, settle } = server();
  await queue.readAnew();
  void queue.push(x(1));
  void queue.push(z(2));
  await settle("lose");
  expect([state.silent, place(queue.shown())]).toEqual([1, [1, 0, 2]]);
  await settle();
  expect(place(state.document)).toEqual([1, 0, 2]);
});

test("a refused edit is told, those before and behind it are done", async () => {
  const { queue, state, refusals, settle } = server();
  await queue.readAnew();
  void queue.push({ label: "hold", ops: [{ op: "replace", path: "/production/name", value: "Tram" }] });
  void queue.push(x(1));
  void queue.push(x(999));
  void queue.push(z(3));
  await settle();
  await settle(new Refused("too far", 1, {}, null, false));
  expect(refusals.map((r) => r.why.message)).toEqual(["too far"]);
  await settle();
  await queue.settled();
  expect([place(state.document), place(queue.shown())]).toEqual([
    [1, 0, 3],
    [1, 0, 3],
  ]);
});

test("a conflict shows both values, and mine may still be had", async () => {
  const { queue, state, refusals, settle, write } = server();
  await queue.readAnew();
  void queue.push(x(1));
  write([x(7)]);
  const both: Conflict = { path: "/pieces/1/position/0", mine: 1, theirs: 7 };
  await settle(new Refused("another page", 0, {}, both, false));
  expect(refusals[0]!.why.conflict).toEqual(both);
  expect(place(queue.shown())).toEqual([7, 0, 0]);
  void queue.push({ ...refusals[0]!.edit, base: queue.known!.revision });
  await settle();
  expect(place(state.document)).toEqual([1, 0, 0]);
});

test("an edit from a document that is too old is done where its place is as it was, and shown where not", async () => {
  for (const theirs of [z(4), x(4)]) {
    const { queue, state, refusals, settle, write } = server();
    await queue.readAnew();
    void queue.push(x(1));
    write([theirs]);
    await settle(new Refused("too old", 0, {}, null, true));
    if (theirs.ops[0]!.path.endsWith("2")) {
      await settle();
      expect([place(state.document), refusals.length]).toEqual([[1, 0, 4], 0]);
    } else {
      expect(refusals[0]!.why.conflict).toEqual({ path: "/pieces/1/position/0", mine: 1, theirs: 4 });
    }
  }
});

test("two quick undos take back two edits, and a third has nothing to do", async () => {
  const { queue, state } = server();
  state.document = {
    ...start(),
    history: { undo: { id: 2, label: "move wall" } as Document["history"]["undo"], redo: null },
  };
  await queue.readAnew();
  await Promise.all([queue.step("undo"), queue.step("undo"), queue.step("undo")]);
  expect(state.revision).toBe(12);
  expect(queue.known!.document.history.undo).toBe(null);
});

test("an undo waits for what was typed before it, and one that fails leaves the next one free", async () => {
  const { queue, state, settle } = server();
  const entry = (id: number) => ({ id, label: "move wall" }) as Document["history"]["undo"];
  state.document = { ...start(), history: { undo: entry(2), redo: null } };
  await queue.readAnew();
  const typed = queue.push(x(3));
  const undone = queue.step("undo");
  expect(state.revision).toBe(10);
  await settle();
  await typed;
  await undone;
  expect(state.revision).toBe(12);
  // Another page has undone it meanwhile.
  state.document = { ...state.document, history: { undo: entry(9), redo: null } };
  await expect(queue.step("undo")).rejects.toThrow("not the last edit");
  await queue.readAnew();
  await queue.step("undo");
  expect(queue.known!.document.history.undo!.id).toBe(8);
});

test("what is new is never shown twice, though the floor tells of it before the answer comes", async () => {
  const { queue, state, settle, changed } = server();
  await queue.readAnew();
  const keys = () => (queue.shown()!.setups[0] as unknown as { keys: { id: number }[] }).keys;
  const add: Edit = {
    label: "set a key",
    ops: [{ op: "add", path: "/setups/1/keys/new:7", value: { time_s: 2 } }],
  };
  void queue.push(add);
  expect(keys()).toHaveLength(1);
  const setups = [{ ...state.document.setups[0], name: "jib", keys: [{ id: 5, time_s: 2 }] }] as never[];
  await queue.told({ ...changed(10), revision: 11, setups: { changed: setups, order: [1] } });
  expect(keys()).toHaveLength(1);
  await settle();
  expect(keys()).toHaveLength(1);
  // What another page did meanwhile comes in after the answer.
  void queue.push({ ...add, ops: [{ op: "add", path: "/setups/1/keys/new:8", value: { time_s: 3 } }] });
  await queue.told({ ...changed(11), revision: 20, setups: { changed: setups, order: [1] } });
  expect(queue.shown()!.setups[0]!.name).toBe("crane");
  await settle();
  expect(queue.shown()!.setups[0]!.name).toBe("jib");
});
