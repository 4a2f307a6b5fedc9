import { QueryClient, keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { enqueueSnackbar } from "notistack";
import type {
  Document,
  FigureView,
  FiguresView,
  MachineView,
  PatchProduction,
  PatchScene,
  PatchSetup,
  PatchTake,
  ReachView,
  SetView,
  Take,
} from "./generated/types";
import { decodeLanes, decodeMove, decodePerformance, type Lanes, type MoveFrames } from "./moves";

export const queryClient = new QueryClient({
  defaultOptions: { queries: { retry: 2, refetchOnWindowFocus: false, staleTime: Infinity } },
});

/** What the server said was wrong, as its sentence. */
async function sentence(response: Response): Promise<string> {
  const problem = (await response.json().catch(() => ({}))) as { detail?: string };
  return problem.detail ?? `the server answered ${response.status}`;
}

async function ask(path: string, init?: RequestInit): Promise<Response> {
  const response = await fetch(`/api/${path}`, init);
  if (!response.ok) throw new Error(await sentence(response));
  return response;
}

const json = async <T>(path: string, init?: RequestInit) => (await (await ask(path, init)).json()) as T;
const bytes = async (path: string) => (await ask(path)).arrayBuffer();

const send = (method: string, body?: unknown): RequestInit => ({
  method,
  headers: { "content-type": "application/json" },
  body: body === undefined ? null : JSON.stringify(body),
});

export const useDocument = () =>
  useQuery({ queryKey: ["document"], queryFn: () => json<Document>("document") });
export const useSet = () => useQuery({ queryKey: ["set"], queryFn: () => json<SetView>("scene/solids") });
export const useFigureViews = () =>
  useQuery({ queryKey: ["figures"], queryFn: () => json<FigureView[]>("scene/figures") });
export const usePerformance = () =>
  useQuery({
    queryKey: ["performance"],
    queryFn: async () => decodePerformance(await bytes("scene/performance")),
  });

/** What a take's pictures depend on. */
const versionOf = (take: Take, rate: string) => [
  take.id,
  take.samples,
  JSON.stringify(take.treatments),
  rate,
];

export const useSetupMachine = (setup: { id: number; rig: unknown; camera: unknown } | undefined) =>
  useQuery({
    queryKey: ["machine", setup?.id, JSON.stringify(setup?.rig), JSON.stringify(setup?.camera)],
    queryFn: () => json<MachineView>(`setups/${setup!.id}/machine`),
    enabled: !!setup,
    placeholderData: keepPreviousData,
  });

export const useTakeMachine = (take: Take | undefined) =>
  useQuery({
    queryKey: ["take machine", take?.id],
    queryFn: () => json<MachineView>(`takes/${take!.id}/machine`),
    enabled: !!take,
  });

/** Only the same take's last picture may stand in while the new one is worked out. */
const sameTake =
  (id: number | undefined) =>
  <T>(data: T | undefined, query: { queryKey: readonly unknown[] } | undefined) =>
    query?.queryKey[1] === id ? data : undefined;

export const useMove = (take: Take | undefined, stage: "raw" | "now", rate: string) =>
  useQuery<MoveFrames>({
    queryKey: ["move", ...(take ? versionOf(take, rate) : [undefined]), stage],
    queryFn: async () => decodeMove(await bytes(`takes/${take!.id}/frames?stage=${stage}`)),
    enabled: !!take && take.samples > 0,
    placeholderData: sameTake(take?.id),
    gcTime: 30_000,
  });

export const useLanes = (take: Take | undefined, rate: string) =>
  useQuery<Lanes>({
    queryKey: ["lanes", ...(take ? versionOf(take, rate) : [undefined])],
    queryFn: async () => decodeLanes(await bytes(`takes/${take!.id}/lanes`)),
    enabled: !!take && take.samples > 0,
    placeholderData: sameTake(take?.id),
    gcTime: 30_000,
  });

export const useFigures = (take: Take | undefined, rate: string) =>
  useQuery<FiguresView>({
    queryKey: ["measures", ...(take ? versionOf(take, rate) : [undefined])],
    queryFn: () => json<FiguresView>(`takes/${take!.id}/figures`),
    enabled: !!take && take.samples > 0,
    placeholderData: sameTake(take?.id),
    gcTime: 30_000,
  });

/** An edit: the answer is the document as it then is. A quiet one is told of by who asks. */
function useEdit<Args>(request: (args: Args) => Promise<Document>, quiet = false) {
  return useMutation({
    mutationFn: request,
    onSuccess: (document) => queryClient.setQueryData(["document"], document),
    onError: (error) => quiet || enqueueSnackbar(error.message, { variant: "error" }),
  });
}

export const useUndo = () => useEdit(() => json<Document>("undo", send("POST")));
export const useRedo = () => useEdit(() => json<Document>("redo", send("POST")));
export const useEmptyBin = () => useEdit(() => json<Document>("bin/empty", send("POST")));
export const usePatchProduction = () =>
  useEdit((patch: PatchProduction) => json<Document>("production", send("PATCH", patch)));
export const usePatchScene = () =>
  useEdit(({ id, ...patch }: PatchScene & { id: number }) =>
    json<Document>(`scenes/${id}`, send("PATCH", patch)),
  );
export const usePatchSetup = () =>
  useEdit(({ id, ...patch }: PatchSetup & { id: number }) =>
    json<Document>(`setups/${id}`, send("PATCH", patch)),
  );
export const usePatchTake = () =>
  useEdit(({ id, ...patch }: PatchTake & { id: number }) =>
    json<Document>(`takes/${id}`, send("PATCH", patch)),
  );
export const usePutOnFloor = () =>
  useEdit((id: number) => json<Document>(`setups/${id}/floor`, send("POST")));
export const useImport = () =>
  useEdit(
    ({ path, file }: { path: string; file: Blob }) =>
      json<Document>(`import/${path}`, { method: "POST", body: file }),
    true,
  );

/** Where the machine would have to stand for the camera to be there. */
export const askReach = (setup: number, position: [number, number, number], near: number[]) =>
  json<ReachView>(`setups/${setup}/reach`, send("POST", { position, near }));
