/** Refusal of the server, as its sentence, with its other members (RFC 9457). */
export class Problem extends Error {
  constructor(
    sentence: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(sentence);
  }
}

/** Production and scene that this page means: a request is refused when another one is on the floor. */
export const meant = { scene: "" };
/** Paths for all productions and scenes, whichever is on the floor. */
const everywhere = /^(productions|scenes|document)\b/;

async function ask(path: string, init?: RequestInit): Promise<Response> {
  const headers = new Headers(init?.headers);
  if (meant.scene && !everywhere.test(path)) headers.set("rovnek-scene", meant.scene);
  const response = await fetch(`/api/${path}`, { ...init, headers });
  if (response.ok) return response;
  const problem = (await response.json().catch(() => ({}))) as { detail?: string };
  throw new Problem(problem.detail ?? `the server answered ${response.status}`, problem);
}

export const json = async <T>(path: string, init?: RequestInit) =>
  (await (await ask(path, init)).json()) as T;
export const bytes = async (path: string, init?: RequestInit) => (await ask(path, init)).arrayBuffer();
/** Asks for something whose answer says nothing. */
export const tell = async (path: string, init?: RequestInit) => void (await ask(path, init));

export const send = (method: string, body?: unknown): RequestInit => ({
  method,
  headers: { "content-type": "application/json" },
  body: body === undefined ? null : JSON.stringify(body),
});
