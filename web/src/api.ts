import { QueryClient, keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { enqueueSnackbar } from "notistack";
import type {
  DevicesView,
  Document,
  Edited,
  FigureView,
  FollowView,
  FollowWanted,
  FiguresView,
  FrameView,
  FrameWanted,
  LayBelow,
  LensSet,
  MachineKind,
  MachineView,
  NewSetupView,
  PhoneView,
  PhoneWanted,
  PatchPerformance,
  PatchProduction,
  PatchScene,
  PatchSetup,
  PatchTake,
  ReachView,
  SceneEdit,
  SetView,
  SetupView,
  ShakeView,
  Socket,
  StandInWanted,
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
/**
 * Parts of the document keep their identity while they do not change, so a number for each
 * identity says cheaply whether what was made of a part still fits.
 */
const numbers = new WeakMap<object, number>();
let counted = 0;
function version(part: object | undefined): number {
  if (!part) return 0;
  const known = numbers.get(part) ?? ++counted;
  numbers.set(part, known);
  return known;
}

/** What was made of a document that is gone is not kept. */
const passing = { gcTime: 5_000, placeholderData: keepPreviousData };

export const useSet = (doc: Document | undefined) =>
  useQuery({
    queryKey: ["set", version(doc?.scene.pieces), version(doc?.scene.stage), doc?.scene.performance],
    queryFn: () => json<SetView>("scene/solids"),
    enabled: !!doc,
    ...passing,
  });

/** Everything that moves depends on these. */
const castKey = (doc: Document | undefined) => [
  version(doc?.scene.pieces),
  version(doc?.scene.performers),
  doc?.scene.performance,
  doc?.scene.length_s,
];
export const useFigureViews = (doc: Document | undefined) =>
  useQuery({
    queryKey: ["figures", ...castKey(doc)],
    queryFn: () => json<FigureView[]>("scene/figures"),
    enabled: !!doc,
    ...passing,
  });
export const usePerformance = (doc: Document | undefined) =>
  useQuery({
    queryKey: ["performance", ...castKey(doc)],
    queryFn: async () => decodePerformance(await bytes("scene/performance")),
    enabled: !!doc,
    ...passing,
  });
export const useSetupViews = (doc: Document | undefined) =>
  useQuery({
    queryKey: ["setup views", version(doc?.setups)],
    queryFn: () => json<SetupView[]>("setups/views"),
    enabled: !!doc,
    ...passing,
  });
export const useLenses = () => useQuery({ queryKey: ["lenses"], queryFn: () => json<LensSet[]>("lenses") });

/** The passes that count in a take, as text. */
function passesOf(id: number): string {
  const over = documentNow()?.takes.filter((t) => t.pass?.take === id && !t.rolling) ?? [];
  return over.map((t) => `${t.id}${t.pass!.muted || t.binned ? "-" : "+"}`).join();
}

/** What a take's pictures depend on. */
const versionOf = (take: Take, rate: string) => [
  take.id,
  take.samples,
  passesOf(take.id),
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
/** An edit of a setup from outside a component. */
export async function editSetup(id: number, patch: PatchSetup): Promise<void> {
  try {
    const document = await json<Document>(`setups/${id}`, send("PATCH", patch));
    queryClient.setQueryData(["document"], document);
  } catch (error) {
    enqueueSnackbar((error as Error).message, { variant: "error" });
  }
}
export const usePatchTake = () =>
  useEdit(({ id, ...patch }: PatchTake & { id: number }) =>
    json<Document>(`takes/${id}`, send("PATCH", patch)),
  );
/** An edit of a take from outside a component. */
export async function editTake(id: number, patch: PatchTake): Promise<void> {
  try {
    const document = await json<Document>(`takes/${id}`, send("PATCH", patch));
    queryClient.setQueryData(["document"], document);
  } catch (error) {
    enqueueSnackbar((error as Error).message, { variant: "error" });
  }
}
/** Lays a take below the next roll, or none. */
export const useLayBelow = () =>
  useEdit((take: number | null) => json<Document>("floor/below", send("POST", { take } satisfies LayBelow)));

/** How much takes shake; asked again when takes come or change. */
export const useShakes = (takes: Take[]) =>
  useQuery({
    queryKey: ["shakes", takes.filter((t) => !t.rolling).map((t) => [t.id, t.pass?.muted, t.binned])],
    queryFn: () => json<ShakeView[]>("takes/shakes"),
    placeholderData: keepPreviousData,
  });

/** Tracked devices, asked twice a second while they are looked at. */
export const useDevices = () =>
  useQuery({
    queryKey: ["devices"],
    queryFn: () => json<DevicesView>("devices"),
    refetchInterval: 500,
    staleTime: 0,
  });
const useDeviceEdit = <Args>(request: (args: Args) => Promise<DevicesView>) =>
  useMutation({
    mutationFn: request,
    onSuccess: (view) => queryClient.setQueryData(["devices"], view),
    onError: (error) => enqueueSnackbar(error.message, { variant: "error" }),
  });
export const useListen = () =>
  useDeviceEdit((sockets: Socket[]) => json<DevicesView>("devices", send("PUT", sockets)));
export const useStandIn = () =>
  useDeviceEdit((wanted: StandInWanted | null) => json<DevicesView>("devices/stand-in", send("PUT", wanted)));

/** The door through which a phone may come in. */
export const usePhone = () =>
  useQuery({ queryKey: ["phone"], queryFn: () => json<PhoneView>("devices/phone"), staleTime: 0 });
export const useOpenPhone = () =>
  useMutation({
    mutationFn: (wanted: PhoneWanted) => json<PhoneView>("devices/phone", send("PUT", wanted)),
    onSuccess: (view) => queryClient.setQueryData(["phone"], view),
    onError: (error) => enqueueSnackbar(error.message, { variant: "error" }),
  });

export const usePutOnFloor = () =>
  useEdit((id: number) => json<Document>(`setups/${id}/floor`, send("POST")));
/** The document as the server last told it. */
export const documentNow = () => queryClient.getQueryData<Document>(["document"]);

/** Changes to the set and the cast; the answer names what is new. */
export const useSceneEdit = () =>
  useMutation({
    mutationFn: ({ scene, ...edit }: SceneEdit & { scene: number }) =>
      json<Edited>(`scenes/${scene}/edit`, send("POST", edit)),
    onSuccess: ({ document }) => queryClient.setQueryData(["document"], document),
    onError: (error) => enqueueSnackbar(error.message, { variant: "error" }),
  });
/** A file that becomes part of the set or the cast. */
export const useBringIn = () =>
  useMutation({
    mutationFn: ({ path, file }: { path: string; file: Blob }) =>
      json<Edited>(`import/${path}`, { method: "POST", body: file }),
    onSuccess: ({ document }) => queryClient.setQueryData(["document"], document),
  });
export const useAddPerformance = () =>
  useEdit(({ scene, name }: { scene: number; name: string }) =>
    json<Document>(`scenes/${scene}/performances`, send("POST", { name })),
  );
export const usePatchPerformance = () =>
  useEdit(({ scene, id, ...patch }: PatchPerformance & { scene: number; id: number }) =>
    json<Document>(`scenes/${scene}/performances/${id}`, send("PATCH", patch)),
  );
export const useBinPerformance = () =>
  useEdit(({ scene, id }: { scene: number; id: number }) =>
    json<Document>(`scenes/${scene}/performances/${id}`, send("DELETE")),
  );
export const useAddSetup = () =>
  useEdit(({ scene, ...setup }: NewSetupView & { scene: number }) =>
    json<Document>(`scenes/${scene}/setups`, send("POST", setup)),
  );
export const useImport = () =>
  useEdit(
    ({ path, file }: { path: string; file: Blob }) =>
      json<Document>(`import/${path}`, { method: "POST", body: file }),
    true,
  );

/** Where the machine would have to stand for the camera to be there. */
export const askReach = (
  setup: number,
  position: [number, number, number],
  near: number[],
  angles: [number, number, number] | null = null,
) => json<ReachView>(`setups/${setup}/reach`, send("POST", { position, near, angles }));

/** The machine follows an earlier move, or none; where it cannot. */
export const askFollow = (setup: number, wanted: FollowWanted) =>
  json<FollowView>(`setups/${setup}/follow`, send("POST", wanted));

export const useMachines = () =>
  useQuery({ queryKey: ["machines"], queryFn: () => json<MachineKind[]>("machines") });

/** The camera that sees a drawn frame. */
export const askFrame = (wanted: FrameWanted) => json<FrameView>("frame", send("POST", wanted));

export const meshBytes = (id: number) => bytes(`assets/${id}/mesh`);
