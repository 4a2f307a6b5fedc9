import { QueryClient, keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { enqueueSnackbar } from "notistack";
import { hearChanges, useDocuments } from "./document/edit";
import type {
  Brought,
  DevicesView,
  Document,
  Every,
  FigureView,
  FollowView,
  FollowWanted,
  FiguresView,
  FrameView,
  FrameWanted,
  Key,
  LayBelow,
  LensSet,
  MachineKind,
  MachineView,
  PhoneView,
  PhoneWanted,
  ReachView,
  SetView,
  SetupView,
  ShakeView,
  Socket,
  StandInWanted,
  Take,
} from "./generated/types";
import { bytes, json, send, tell } from "./server";
import { decodeLanes, decodeMove, decodePerformance, type Lanes, type MoveFrames } from "./moves";

export const queryClient = new QueryClient({
  defaultOptions: { queries: { retry: 2, refetchOnWindowFocus: false, staleTime: Infinity } },
});

/** The document with what was done here, also what the server does not have yet. */
export const useDocument = () => useDocuments((s) => s.shown);

/** A thing as the server has it: its answers go by this one, not by what is shown already. */
const knownTake = (id: number | undefined) => (s: { known: Document | null }) =>
  s.known?.takes.find((t) => t.id === id);
const useKnownTake = (take: Take | undefined) => useDocuments(knownTake(take?.id)) ?? take;

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

export function useSet() {
  const doc = useDocuments((s) => s.known);
  return useQuery({
    queryKey: ["set", version(doc?.scene.pieces), version(doc?.scene.stage), doc?.scene.performance],
    queryFn: () => json<SetView>("scene/solids"),
    enabled: !!doc,
    ...passing,
  });
}

/** Who and what moves; asked again when any of them goes otherwise. */
export function useFigureViews() {
  const cast = useDocuments((s) => s.cast);
  return useQuery({
    queryKey: ["figures", cast],
    queryFn: () => json<FigureView[]>("scene/figures"),
    enabled: cast > 0,
    ...passing,
  });
}
export function usePerformance() {
  const cast = useDocuments((s) => s.cast);
  return useQuery({
    queryKey: ["performance", cast],
    queryFn: async () => decodePerformance(await bytes("scene/performance")),
    enabled: cast > 0,
    ...passing,
  });
}
export function useSetupViews() {
  const setups = useDocuments((s) => s.known?.setups);
  return useQuery({
    queryKey: ["setup views", version(setups)],
    queryFn: () => json<SetupView[]>("setups/views"),
    enabled: !!setups,
    ...passing,
  });
}
export const useLenses = () => useQuery({ queryKey: ["lenses"], queryFn: () => json<LensSet[]>("lenses") });

/** The passes that count in a take, as text. */
function passesOf(id: number): string {
  const over = useDocuments.getState().known?.takes.filter((t) => t.pass?.take === id && !t.rolling) ?? [];
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

export function useSetupMachine(id: number | undefined) {
  const setup = useDocuments((s) => s.known?.setups.find((t) => t.id === id));
  return useQuery({
    queryKey: ["machine", id, JSON.stringify(setup?.rig), JSON.stringify(setup?.camera)],
    queryFn: () => json<MachineView>(`setups/${id}/machine`),
    enabled: !!setup,
    placeholderData: keepPreviousData,
  });
}

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

export function useMove(shown: Take | undefined, stage: "raw" | "now", rate: string) {
  const take = useKnownTake(shown);
  return useQuery<MoveFrames>({
    queryKey: ["move", ...(take ? versionOf(take, rate) : [undefined]), stage],
    queryFn: async () => decodeMove(await bytes(`takes/${take!.id}/frames?stage=${stage}`)),
    enabled: !!take && take.samples > 0,
    placeholderData: sameTake(take?.id),
    gcTime: 30_000,
  });
}

export function useLanes(shown: Take | undefined, rate: string) {
  const take = useKnownTake(shown);
  return useQuery<Lanes>({
    queryKey: ["lanes", ...(take ? versionOf(take, rate) : [undefined])],
    queryFn: async () => decodeLanes(await bytes(`takes/${take!.id}/lanes`)),
    enabled: !!take && take.samples > 0,
    placeholderData: sameTake(take?.id),
    gcTime: 30_000,
  });
}

export function useFigures(shown: Take | undefined, rate: string) {
  const take = useKnownTake(shown);
  return useQuery<FiguresView>({
    queryKey: ["measures", ...(take ? versionOf(take, rate) : [undefined])],
    queryFn: () => json<FiguresView>(`takes/${take!.id}/figures`),
    enabled: !!take && take.samples > 0,
    placeholderData: sameTake(take?.id),
    gcTime: 30_000,
  });
}

/** Something asked of the server that is no edit. */
function useAsk<Args, T>(request: (args: Args) => Promise<T>, quiet = false) {
  return useMutation({
    mutationFn: request,
    onError: (error) => quiet || enqueueSnackbar(error.message, { variant: "error" }),
  });
}

export const useEmptyBin = () => useAsk(() => tell("bin/empty", send("POST")));
/** Lays a take below the next roll, or none. */
export const useLayBelow = () =>
  useAsk((take: number | null) => tell("floor/below", send("POST", { take } satisfies LayBelow)));

/** Keys of a take as it now is, every so often; none while that is not asked. */
export function useTakenKeys(shown: Take | undefined, every: Every | undefined, rate: string) {
  const take = useKnownTake(shown);
  return useQuery({
    queryKey: ["taken keys", ...(take ? versionOf(take, rate) : [undefined]), JSON.stringify(every)],
    queryFn: () => {
      const [unit, value] = Object.entries(every!)[0]!;
      return json<Key[]>(`takes/${take!.id}/keys?${unit}=${value}`);
    },
    enabled: !!take && !!every && take.samples > 0,
    placeholderData: keepPreviousData,
    gcTime: 30_000,
  });
}

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

export const usePutOnFloor = () => useAsk((id: number) => tell(`setups/${id}/floor`, send("POST")));

/** A file that becomes a take, or part of the set or the cast; a quiet one is told of by who asks. */
export const useBringIn = (quiet = false) =>
  useAsk(async ({ path, file }: { path: string; file: Blob }) => {
    const brought = await json<Brought>(`import/${path}`, { method: "POST", body: file });
    hearChanges(brought.changed);
    return brought;
  }, quiet);

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
