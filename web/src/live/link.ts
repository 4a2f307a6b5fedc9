import { create } from "zustand";
import type { Command, Status, Tell } from "../generated/types";
import { decodeState, type StateFrame } from "./wire";

/** What the floor tells when it changes. What it says 60 times a second is `link.frame`. */
interface FloorState {
  connected: boolean;
  page: number;
  status: Status | null;
  revision: number;
  /** A sentence about what just went wrong, until it is read. */
  refusal: string | null;
}

export const useFloor = create<FloorState>(() => ({
  connected: false,
  page: 0,
  status: null,
  revision: 0,
  refusal: null,
}));

/** Whether this page may operate. */
export const holdsWheels = (s: FloorState) => s.connected && s.status?.holder === s.page;

const HEARTBEAT_MS = 60;

/** The socket to the floor, and the hands of this page. */
class Link {
  /** The newest state; read by drawing loops, never React state. */
  frame: StateFrame | null = null;
  private socket: WebSocket | null = null;
  private rates: number[] = [];
  private nudges: number[] = [];
  private wait = 250;

  start() {
    this.connect();
    // Hands on the wheels are also the sign that this page is there.
    setInterval(() => {
      if (holdsWheels(useFloor.getState())) this.sendHands();
    }, HEARTBEAT_MS);
  }

  send(command: Command) {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(command));
  }

  /** Holds an axis at a share of its top speed. */
  hold(axis: number, rate: number) {
    if (this.rates[axis] === rate) return;
    this.rates[axis] = rate;
    this.sendHands();
  }

  /** Adds a distance, in the axis' shown unit. */
  nudge(axis: number, by: number) {
    this.nudges[axis] = (this.nudges[axis] ?? 0) + by;
  }

  letGo() {
    this.rates = [];
    this.nudges = [];
    this.sendHands();
  }

  private sendHands() {
    const count = this.frame?.axes.length ?? 0;
    const all = (list: number[]) => Array.from({ length: count }, (_, i) => list[i] ?? 0);
    this.send({ do: "drive", rates: all(this.rates), nudges: all(this.nudges) });
    this.nudges = [];
  }

  private connect() {
    const socket = new WebSocket(
      `${location.protocol === "https:" ? "wss" : "ws"}://${location.host}/api/live`,
    );
    socket.binaryType = "arraybuffer";
    socket.onopen = () => {
      this.wait = 250;
      useFloor.setState({ connected: true });
    };
    socket.onmessage = (event: MessageEvent<ArrayBuffer | string>) => {
      if (typeof event.data === "string") hear(JSON.parse(event.data) as Tell);
      else this.frame = decodeState(event.data);
    };
    socket.onclose = () => {
      useFloor.setState({ connected: false, status: null });
      setTimeout(() => this.connect(), this.wait);
      this.wait = Math.min(this.wait * 2, 4000);
    };
    this.socket = socket;
  }
}

function hear(tell: Tell) {
  if (tell.tell === "you") useFloor.setState({ page: tell.page });
  else if (tell.tell === "status") useFloor.setState({ status: tell.status });
  else if (tell.tell === "revision") useFloor.setState({ revision: tell.revision });
  else useFloor.setState({ refusal: tell.sentence });
}

export const link = new Link();
