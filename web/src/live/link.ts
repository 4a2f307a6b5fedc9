import { create } from "zustand";
import { hearChanges } from "../document/edit";
import type { Command, JobView, Status, Tell, Wheel } from "../generated/types";
import type { FromWorker, ToWorker } from "./socket.worker";
import { decodeState, type StateFrame } from "./wire";

/** State that the floor tells when it changes. Its state 60 times a second is `link.frame`. */
interface FloorState {
  connected: boolean;
  page: number;
  status: Status | null;
  /** Long work, as it goes. */
  jobs: JobView[];
  /** Receiver of live out, as one line; empty for none. */
  liveOut: string;
  /** A sentence about what just went wrong, until it is read. */
  refusal: string | null;
}

export const useFloor = create<FloorState>(() => ({
  connected: false,
  page: 0,
  status: null,
  jobs: [],
  liveOut: "",
  refusal: null,
}));

/** True if hands took any axis from its keys. */
export const hasPending = (s: FloorState) => s.status?.pending.some(Boolean) ?? false;

/** True if this page has the wheels: it rolls, cuts and sends. */
export const holdsWheels = (s: FloorState) => s.connected && s.status?.holder === s.page;

/** The wheels, in the order of the floor's `hands`; each may be lent to a page by itself. */
export const wheels: Wheel[] = ["machine", "head", "lens", "performer"];

/** True if the hands of this page are on a wheel. */
export const hasWheel = (wheel: Wheel) => (s: FloorState) =>
  s.connected && s.status?.hands[wheels.indexOf(wheel)] === s.page;

/** True if the hands of this page are on any wheel. */
export const hasAnyWheel = (s: FloorState) => s.connected && !!s.status?.hands.includes(s.page);

const HEARTBEAT_MS = 60;

/**
 * The line to the floor, and the hands of this page. The socket lives in a worker, so that a
 * picture that takes long to draw does not look like hands off the wheels.
 */
class Link {
  /** The newest state; read by drawing loops, never React state. */
  frame: StateFrame | null = null;
  private readonly worker = new Worker(new URL("./socket.worker.ts", import.meta.url), { type: "module" });
  /** Fine gear: everything at a fifth of its speed. */
  fine = false;
  /** Hands on who is driven, while somebody is. */
  walk = { ahead: 0, turn: 0, run: false, sit: false };
  private rates: number[] = [];
  private nudges: number[] = [];

  start() {
    this.worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if (data instanceof ArrayBuffer) this.frame = decodeState(data);
      else if (typeof data === "string") hear(JSON.parse(data) as Tell);
      else useFloor.setState(data.connected ? { connected: true } : { connected: false, status: null });
    };
    this.post({ open: `${location.protocol === "https:" ? "wss" : "ws"}://${location.host}/api/live` });
    setInterval(() => {
      if (hasAnyWheel(useFloor.getState())) this.sendHands();
    }, HEARTBEAT_MS);
  }

  send(command: Command) {
    this.post({ say: this.text(command) });
  }

  /** A command, with the setup it means: what was meant for one never drives another's machine. */
  private text(command: Command): string {
    const setup = this.frame?.setup ?? useFloor.getState().status?.setup_id;
    return JSON.stringify({ setup, ...command });
  }

  /** Holds an axis at a share of its top speed. */
  hold(axis: number, rate: number) {
    if ((this.rates[axis] ?? 0) === rate) return;
    this.rates[axis] = rate;
    this.sendHands();
  }

  /** Adds a distance, in the axis' shown unit. */
  nudge(axis: number, by: number) {
    this.nudges[axis] = (this.nudges[axis] ?? 0) + by;
  }

  /** Hands on who is driven. */
  setWalk(part: Partial<Link["walk"]>) {
    const next = { ...this.walk, ...part };
    if ((Object.keys(next) as (keyof typeof next)[]).every((k) => next[k] === this.walk[k])) return;
    this.walk = next;
    this.sendHands();
  }

  setFine(fine: boolean) {
    if (this.fine === fine) return;
    this.fine = fine;
    this.sendHands();
  }

  letGo() {
    this.fine = false;
    this.walk = { ...this.walk, ahead: 0, turn: 0, run: false };
    this.rates = [];
    this.nudges = [];
    this.sendHands();
  }

  private sendHands() {
    const count = this.frame?.axes.length ?? 0;
    const all = (list: number[]) => Array.from({ length: count }, (_, i) => list[i] ?? 0);
    const drive = (nudges: number[]) =>
      this.text({ do: "drive", rates: all(this.rates), nudges, fine: this.fine });
    this.post({ say: drive(all(this.nudges)), hold: drive([]) });
    if (useFloor.getState().status?.acting) this.send({ do: "walk", ...this.walk });
    this.nudges = [];
  }

  private post(message: ToWorker) {
    this.worker.postMessage(message);
  }
}

const NAME = "rovnek.name";

/** Name that the person at this page gave; kept in this browser. */
export const pageName = () => localStorage.getItem(NAME) ?? "";

/** Tells the floor who sits here; with a name, from now on. */
export function signPage(name = pageName()) {
  localStorage.setItem(NAME, name);
  link.send({ do: "sign", name });
}

function hear(tell: Tell) {
  if (tell.tell === "you") {
    useFloor.setState({ page: tell.page });
    signPage();
  } else if (tell.tell === "status") useFloor.setState({ status: tell.status });
  else if (tell.tell === "changed") hearChanges(tell.changed);
  else if (tell.tell === "live_out") useFloor.setState({ liveOut: tell.line });
  else if (tell.tell === "jobs") useFloor.setState({ jobs: tell.jobs });
  else useFloor.setState({ refusal: tell.sentence });
}

export const link = new Link();
