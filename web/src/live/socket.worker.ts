/** The socket to the floor, off the page's own thread. */

/** `say` is sent at once; `hold` is said again while the page is short of breath. */
export type ToWorker = { open: string } | { say: string; hold?: string };

/** A state frame, a message of the floor, or the state of the line. */
export type FromWorker = ArrayBuffer | string | { connected: boolean };

/** How often the hands are said again, and how long without a word from the page. */
const AGAIN_MS = 60;
const BREATH_MS = 500;

const page = self as unknown as { postMessage(message: FromWorker, transfer?: Transferable[]): void };
let socket: WebSocket | null = null;
let wait = 250;
let held = "";
let heard = 0;

function connect(url: string) {
  socket = new WebSocket(url);
  socket.binaryType = "arraybuffer";
  socket.onopen = () => {
    wait = 250;
    page.postMessage({ connected: true });
  };
  socket.onmessage = ({ data }: MessageEvent<ArrayBuffer | string>) => {
    if (typeof data === "string") page.postMessage(data);
    else page.postMessage(data, [data]);
  };
  socket.onclose = () => {
    held = "";
    page.postMessage({ connected: false });
    setTimeout(() => connect(url), wait);
    wait = Math.min(wait * 2, 4000);
  };
}

function say(text: string) {
  if (socket?.readyState === WebSocket.OPEN) socket.send(text);
}

setInterval(() => {
  const since = performance.now() - heard;
  if (held && since > AGAIN_MS && since < BREATH_MS) say(held);
}, AGAIN_MS);

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if ("open" in data) return connect(data.open);
  say(data.say);
  if (data.hold) {
    held = data.hold;
    heard = performance.now();
  }
};
