import type { Changed, Document, Op, VersionsView } from "../generated/types";
import { LISTS } from "../generated/constants";
import { apply, merged, renamed, same, at } from "./patch";

/** The document as the server last told it. */
export interface Known {
  document: Document;
  revision: number;
  /** Versions of what the server works out of it. */
  versions: VersionsView;
  /** Id of the production on the shelf; empty while none is open. */
  onShelf: string;
}

/** Edit of a person, until the server has it. */
export interface Edit {
  label: string;
  gesture?: string;
  /** The revision it was made from; none to have it done whatever is there. */
  base?: number;
  ops: Op[];
}

/** Why an edit was not done. */
export class Refused extends Error {
  constructor(
    sentence: string,
    /** Number of edits before it that were done, and the names they were given. */
    readonly done: number,
    readonly made: Record<string, number>,
    readonly conflict: Conflict | null,
    readonly tooOld: boolean,
  ) {
    super(sentence);
  }
}

/** Two values for the same place. */
export interface Conflict {
  path: string;
  mine: unknown;
  theirs: unknown;
}

export interface Answer {
  made: Record<string, number>;
  changed: Changed;
}

interface Waiting extends Edit {
  resolve: (made: Map<string, number>) => void;
  /** Values at the paths before the edit. */
  was: unknown[];
}

/** Through the history of what was done. */
export type Way = "undo" | "redo";

/** Surroundings of the queue. */
export interface World {
  send: (edits: Edit[]) => Promise<Answer>;
  read: () => Promise<Known>;
  /** Undoes or redoes the edit that the page believes to be next. */
  step: (way: Way, entry: number) => Promise<Changed>;
  /** The document that is shown has changed. */
  show: () => void;
  /** An edit was refused; with a conflict it may be asked for again. */
  refused: (edit: Edit, why: Refused) => void;
  /** The server does not answer; resolves when it is to be tried again. */
  silent: () => Promise<void>;
}

/**
 * The one queue of edits: what is done is shown at once and sent in order. While a request is on
 * its way the next ones wait together; those of one gesture become one.
 */
export class Queue {
  known: Known | null = null;
  private waiting: Waiting[] = [];
  private flying: Waiting[] = [];
  private readonly names = new Map<string, number>();
  private idle: (() => void)[] = [];
  /** Changes that came while new things were on their way. */
  private held: Changed[] = [];
  private stepping: Promise<void> = Promise.resolve();

  constructor(private readonly world: World) {}

  /** The document as it will be when all that waits has been done. */
  shown(): Document | null {
    if (!this.known) return null;
    return [...this.flying, ...this.waiting].flatMap((e) => e.ops).reduce(apply, this.known.document);
  }

  /** Does an edit; resolves with the numbers of new things when the server has it. */
  push(edit: Edit): Promise<Map<string, number>> {
    const ops = edit.ops.map((op) => renamed(op, this.names));
    const shown = this.shown();
    if (ops.length === 0 || !shown) return Promise.resolve(new Map());
    const last = this.waiting.at(-1);
    const joins =
      last && edit.gesture !== undefined && last.gesture === edit.gesture && last.label === edit.label;
    return new Promise((resolve) => {
      if (joins) {
        last.ops = merged(last.ops, ops);
        const before = last.resolve;
        last.resolve = (made) => (before(made), resolve(made));
      } else {
        const base = "base" in edit ? {} : { base: this.known!.revision };
        this.waiting.push({ ...base, ...edit, ops, resolve, was: ops.map((op) => at(shown, op.path)) });
      }
      this.world.show();
      void this.fly();
    });
  }

  /** Resolves when nothing waits any more. */
  settled(): Promise<void> {
    if (this.waiting.length + this.flying.length === 0) return Promise.resolve();
    return new Promise((resolve) => this.idle.push(resolve));
  }

  /** Undo or redo, after what waits and after the step before: two quick ones are two entries. */
  step(way: Way): Promise<void> {
    const step = this.stepping.then(async () => {
      await this.settled();
      const entry = this.known?.document.history[way];
      if (entry) await this.told(await this.world.step(way, entry.id));
    });
    this.stepping = step.catch(() => undefined);
    return step;
  }

  /** The server says what has changed. */
  async told(changed: Changed): Promise<void> {
    if (!this.known || changed.revision <= this.known.revision) return;
    // New things are shown until the answer says what they are called: told of them before, they would
    // stand there twice.
    if (this.flying.some((e) => e.ops.some((op) => op.path.includes("new:")))) {
      this.held.push(changed);
      return;
    }
    if (changed.since > this.known.revision) return this.readAnew();
    this.take(changed);
    this.world.show();
  }

  private async letIn() {
    for (const changed of this.held.splice(0)) await this.told(changed);
  }

  private take(changed: Changed) {
    if (!this.known || changed.revision <= this.known.revision) return;
    this.known = {
      document: withChanges(this.known.document, changed),
      revision: changed.revision,
      versions: withVersions(this.known.versions, changed.versions),
      onShelf: changed.on_shelf ?? this.known.onShelf,
    };
  }

  /** Reads the whole document: at the start, and when something was missed. */
  async readAnew(): Promise<void> {
    const known = await this.world.read();
    if (!this.known || known.revision >= this.known.revision) this.known = known;
    this.world.show();
  }

  private async fly(): Promise<void> {
    if (this.flying.length > 0) return;
    while (this.waiting.length > 0) {
      this.flying = this.waiting.splice(0, 50);
      const edits = this.flying.map(({ label, gesture, base, ops }) => ({
        label,
        ...(gesture === undefined ? {} : { gesture }),
        ...(base === undefined ? {} : { base }),
        ops,
      }));
      try {
        const { made, changed } = await this.world.send(edits);
        if (changed.since > this.known!.revision) await this.readAnew();
        // At once, so that nothing is shown twice: as it was sent, and as the server has it.
        this.take(changed);
        this.landed(this.flying.length, made, []);
      } catch (error) {
        if (error instanceof Refused) await this.turnedBack(error);
        else {
          this.waiting.unshift(...this.flying);
          this.flying = [];
          await this.letIn();
          await this.world.silent();
        }
      }
      await this.letIn();
    }
    this.idle.splice(0).forEach((resolve) => resolve());
  }

  /** The first edits of the request were done. */
  private landed(count: number, made: Record<string, number>, rest: Waiting[]) {
    for (const [name, id] of Object.entries(made)) this.names.set(name, id);
    const done = this.flying.slice(0, count);
    this.flying = [];
    this.waiting = [...rest, ...this.waiting].map((e) => ({
      ...e,
      ops: e.ops.map((op) => renamed(op, this.names)),
    }));
    this.world.show();
    done.forEach((e) => e.resolve(this.names));
  }

  private async turnedBack(why: Refused) {
    const refused = this.flying[why.done]!;
    const rest = this.flying.slice(why.done + 1);
    await this.readAnew();
    this.landed(why.done, why.made, rest);
    const here = this.known!.document;
    const first = refused.ops.findIndex((op, i) => !same(at(here, op.path), refused.was[i]));
    if (why.tooOld && first < 0) {
      // Nothing of it has changed: it is done from what is there now.
      this.waiting.unshift({ ...refused, base: this.known!.revision });
      return;
    }
    const op = refused.ops[Math.max(first, 0)]!;
    const conflict = why.tooOld
      ? { path: op.path, mine: "value" in op ? op.value : null, theirs: at(here, op.path) }
      : why.conflict;
    refused.resolve(new Map());
    this.world.refused(
      { label: refused.label, ops: refused.ops },
      new Refused(why.message, why.done, why.made, conflict, why.tooOld),
    );
  }
}

/** Versions with those that have changed. */
const withVersions = (old: VersionsView, now: VersionsView): VersionsView => {
  const parts = Object.keys(old) as (keyof VersionsView)[];
  return Object.fromEntries(parts.map((part) => [part, { ...old[part], ...now[part] }])) as VersionsView;
};

type Listed = { id: number };

/** A document with what has changed in it. */
export function withChanges(old: Document, c: Changed): Document {
  const changed = (of: "scene" | "document", known: Partial<Record<string, unknown>>) => {
    const lists = Object.entries(LISTS).filter(([, list]) => list.of === of);
    return Object.fromEntries(
      lists.map(([root]) => [root, listed(known[root] as Listed[], c[root as keyof typeof LISTS])]),
    );
  };
  const document: Document = {
    ...old,
    ...changed("document", old),
    history: c.history,
    production: c.production ?? old.production,
    scenes: c.scenes ?? old.scenes,
    lens_sets: c.lens_sets ?? old.lens_sets,
    assets: c.assets ?? old.assets,
    next_take: c.next_take ?? old.next_take,
  };
  const scene = { ...old.scene, ...c.scene, id: c.scene_id ?? old.scene.id, ...changed("scene", old.scene) };
  return { ...document, scene };
}

/** A list after a change of it. */
function listed(known: Listed[], change: { changed: Listed[]; order: number[] } | undefined): Listed[] {
  if (!change) return known;
  const all = new Map([...known, ...change.changed].map((t) => [t.id, t]));
  return change.order.map((id) => all.get(id)).filter((t) => t !== undefined);
}
