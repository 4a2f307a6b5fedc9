import type { Window } from "./state/window";
import { QueryClient, keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { enqueueSnackbar } from "notistack";
import { useMemo } from "react";
import { hearChanges, useDocuments } from "./document/edit";
import type {
  Answer,
  BaseRequest,
  ClearAt,
  ClipView,
  CurvesOf,
  Described,
  DevicesView,
  Document,
  DragView,
  EaseView,
  ExportKind,
  Fault,
  FiguresView,
  Flatten,
  FollowView,
  FrameRequest,
  FrameView,
  ImportedThings,
  ImportKind,
  Interval,
  JobKind,
  JobRequest,
  JobView,
  KeptView,
  LaneKind,
  LensSet,
  MachineKind,
  MachineView,
  MoveId,
  MoverView,
  Param,
  PerformanceId,
  PhoneRequest,
  PhoneView,
  PresetTreatments,
  PutThere,
  Position,
  ReachView,
  RehearsalView,
  Remedy,
  RigSpec,
  SetByPiece,
  Station,
  SetupId,
  SetupView,
  ShakeView,
  SimulatorRequest,
  Socket,
  Take,
  TakeId,
  TreatmentQuestion,
  VersionsView,
} from "./generated/types";
import { setView } from "./render/setByPiece";
import { bytes, json, send, tell } from "./server";
import { lookedOf, type Looked } from "./state/looked";
import { hereS, scene } from "./state/now";
import { useTried } from "./state/preview";
import { decodeLanes, MoveFrames, type Lanes } from "./moves";
import { Performance, decodeStretch } from "./performance";
import type { Played } from "./render/subject";

export const queryClient = new QueryClient({
  defaultOptions: { queries: { retry: 2, refetchOnWindowFocus: false, staleTime: Infinity } },
});

/** The document with what was done here, also what the server does not have yet. */
export const useDocument = () => useDocuments((s) => s.shown);

/** Versions of what the server works out of the document that it has: keys of queries use nothing else. */
const useVersion = (of: (versions: VersionsView) => string | undefined) =>
  useDocuments((s) => of(s.versions));

/** Milliseconds for which results of a document that is gone are kept. */
const gcTime = 5_000;

const stretchOf = (performance: PerformanceId) => async (from_s: number) =>
  decodeStretch(await bytes(`scene/performance?performance=${performance}&from_s=${from_s}`));

/** Set of a performance; each part of what is drawn of one is asked for anew when its own version changes. */
const setOf = (performance: PerformanceId, versions: VersionsView) => ({
  queryKey: ["set", versions.sets[performance]],
  queryFn: () =>
    setView(performance, (known) =>
      json<SetByPiece>(`scene/solids?performance=${performance}`, send("POST", known)),
    ),
  gcTime,
});

/** Everybody and everything that moves in a performance: their parts, and their poses over time. */
const castOf = (performance: PerformanceId, versions: VersionsView) => ({
  queryKey: ["cast", versions.performances[performance]],
  queryFn: async () => {
    const stretch = stretchOf(performance);
    const [figures, first] = await Promise.all([
      json<MoverView[]>(`scene/figures?performance=${performance}`),
      stretch(0),
    ]);
    return { figures, poses: new Performance(first, stretch) };
  },
  gcTime,
});

/** All machines as they stand in a performance. */
const viewsOf = (performance: PerformanceId, versions: VersionsView) => ({
  queryKey: ["setup views", versions.machines[performance]],
  queryFn: () => json<SetupView[]>(`setups/views?performance=${performance}`),
  gcTime,
});

/** A performance as it is drawn; null until its set and everybody in it have come for the first time. */
export function usePlayed(performance: PerformanceId | undefined): Played | null {
  const versions = useDocuments((s) => s.versions);
  const p = performance ?? 0;
  const enabled = !!versions.sets[p];
  const set = useQuery({ ...setOf(p, versions), enabled, placeholderData: keepPreviousData }).data;
  const cast = useQuery({ ...castOf(p, versions), enabled, placeholderData: keepPreviousData }).data;
  const views = useQuery({ ...viewsOf(p, versions), enabled, placeholderData: keepPreviousData }).data;
  return useMemo(() => (set && cast ? { set, ...cast, views: views ?? [] } : null), [set, cast, views]);
}

/** The same for whoever draws a picture beside the screen. */
export async function playedNow(performance: PerformanceId): Promise<Played> {
  const { versions } = useDocuments.getState();
  const [set, cast, views] = await Promise.all([
    queryClient.fetchQuery(setOf(performance, versions)),
    queryClient.fetchQuery(castOf(performance, versions)),
    queryClient.fetchQuery(viewsOf(performance, versions)),
  ]);
  return { set, ...cast, views };
}

/** The performance that a move plays against; that of the scene without one. */
export const usePlays = (looked: Looked | null | undefined) =>
  useDocuments((s) => (looked && s.versions.plays[looked.move.id]) ?? s.shown?.scene.performance);

export const useLenses = () => useQuery({ queryKey: ["lenses"], queryFn: () => json<LensSet[]>("lenses") });

/** How the frames of a scene are counted, as text. */
const countOf = ({ scene: { rate, start_frame } }: Document) => `${rate.num}/${rate.den} ${start_frame}`;

/** A move as the server has it, and the version of what is worked out of it. */
function useKnown(shown: Looked | undefined) {
  const document = useDocuments((s) => s.known);
  const looked = document && shown ? lookedOf(document, shown.move.id) : null;
  const version = useVersion((v) => looked?.move && v.moves[looked.move.id]);
  if (!looked || looked.take?.samples === 0) return { id: undefined, key: [undefined] };
  return { id: looked.move.id, key: [looked.move.id, version] };
}

export function useSetupMachine(id: number | undefined) {
  const version = useVersion((v) => (id === undefined ? undefined : v.setups[id]));
  return useQuery({
    queryKey: ["machine", id, version],
    queryFn: () => json<MachineView>(`setups/${id}/machine`),
    enabled: !!version,
    placeholderData: keepPreviousData,
  });
}

export function useMoveMachine(shown: Looked | undefined) {
  const { id, key } = useKnown(shown);
  return useQuery({
    queryKey: ["move machine", ...key],
    queryFn: () => json<MachineView>(`moves/${id}/machine`),
    enabled: id !== undefined,
    placeholderData: sameMove(id),
  });
}

/** Only the same move's last picture may stand in while the new one is worked out. */
const sameMove =
  (id: number | undefined) =>
  <T>(data: T | undefined, query: { queryKey: readonly unknown[] } | undefined) =>
    query?.queryKey[1] === id ? data : undefined;

/** Something that the server makes of a move; asked again when what it is made of changes. */
function useOfMove<T>(
  name: string,
  shown: Looked | undefined,
  ask: (id: number, signal: AbortSignal) => Promise<T>,
  more = "",
) {
  const { id, key } = useKnown(shown);
  return useQuery<T>({
    queryKey: [name, ...key, more],
    queryFn: ({ signal }) => ask(id!, signal),
    enabled: id !== undefined,
    placeholderData: sameMove(id),
    gcTime: 30_000,
  });
}

/**
 * The same while treatments of it are tried: what is asked later gives up what was asked before, and
 * what was there stays on the screen until there is something newer.
 */
function useTreated<T>(
  name: "frames" | "lanes" | "figures",
  shown: Looked | undefined,
  read: (ask: (how?: string) => Promise<ArrayBuffer>) => Promise<T>,
  how = "",
) {
  const tried = useTried(shown?.move, name !== "lanes");
  return useOfMove<T>(
    name,
    shown,
    (id, signal) =>
      read((more = how) =>
        tried
          ? bytes(`moves/${id}/preview?part=${name}&${more}`, { ...send("POST", tried), signal })
          : bytes(`moves/${id}/${name}?${more}`, { signal }),
      ),
    `${how} ${tried ? JSON.stringify(tried) : ""}`,
  );
}

/**
 * Frames of a move: the window that the playhead is in, and others as they are shown. Windows of two versions of
 * the move are never put together.
 */
async function framesHere(id: MoveId, ask: (how: string) => Promise<ArrayBuffer>): Promise<MoveFrames> {
  const version = () => useDocuments.getState().versions.moves[id];
  const mine = version();
  const same = () => {
    if (version() !== mine) throw new Error("the move was changed meanwhile");
  };
  const around = (frame: number) => ask(`around=${Math.max(0, frame)}`);
  return new MoveFrames(await around(Math.floor(hereS() * scene.rate)), async (frame) => {
    same();
    const answer = await around(frame);
    same();
    return answer;
  });
}

export const useMove = (shown: Looked | undefined) =>
  useTreated("frames", shown, (ask) => framesHere(shown!.move.id, ask));

/** A move before its treatments, whatever is tried of them. */
export const useRawMove = (shown: Looked | undefined) =>
  useOfMove<MoveFrames>("raw", shown, (id) =>
    framesHere(id as MoveId, (how) => bytes(`moves/${id}/frames?stage=raw&${how}`)),
  );

/** Frames of a move that need not be on show. */
export const framesOf = (id: MoveId) => framesHere(id, (how) => bytes(`moves/${id}/frames?${how}`));

/** Columns that curves are asked for: about the pixels they are drawn on. */
const columns = () => `columns=${window.screen.width > 1600 ? 1024 : 512}`;

export const useLanes = (shown: Looked | undefined, of: CurvesOf, window: Window | null = null) =>
  useTreated<Lanes>(
    "lanes",
    shown,
    async (ask) => decodeLanes(await ask()),
    `of=${of}&${columns()}${window ? `&from_s=${window[0]}&to_s=${window[1]}` : ""}`,
  );

/** Kinds of curves besides those of axes. */
export const useLaneKinds = () =>
  useQuery({ queryKey: ["kinds", "lanes"], queryFn: () => json<[CurvesOf, LaneKind[]][]>("kinds/lanes") });

/** The eases that have names. */
export const useEases = () =>
  useQuery({ queryKey: ["kinds", "eases"], queryFn: () => json<EaseView[]>("kinds/eases") });

export const useFigures = (shown: Looked | undefined) =>
  useTreated(
    "figures",
    shown,
    async (ask) => JSON.parse(new TextDecoder().decode(await ask())) as FiguresView,
  );

/** The kinds of treatments, as they describe themselves. */
export const useExportKinds = () =>
  useQuery({ queryKey: ["kinds", "exports"], queryFn: () => json<ExportKind[]>("kinds/exports") });

/** Treatments that go together, by what they do to the picture. */
export const usePresets = () =>
  useQuery({ queryKey: ["kinds", "presets"], queryFn: () => json<PresetTreatments[]>("kinds/presets") });

export const useKinds = () =>
  useQuery({ queryKey: ["kinds"], queryFn: () => json<Described[]>("kinds/treatments") });

/** The timecodes of times of the scene. */
export const useTimecodes = (times: number[]) => {
  const count = useDocuments((s) => s.known && countOf(s.known));
  return useQuery({
    queryKey: ["timecodes", times, count],
    queryFn: () => json<string[]>("scene/timecodes", send("POST", times)),
    enabled: times.length > 0,
    placeholderData: keepPreviousData,
    gcTime: 30_000,
  });
};

/** Shortfall of a machine that follows, and the speed of its base. */
export const useFollow = (shown: Looked | undefined) =>
  useOfMove("follow", shown?.move.source.kind === "follow" ? shown : undefined, (id) =>
    json<FollowView>(`moves/${id}/follow`),
  );

/** The times of keys that a move has, one every so often; none while that is not asked. */
export const useKeysEvery = (shown: Looked | undefined, every: Interval | undefined) => {
  const [unit, value] = Object.entries(every ?? { seconds: 1 })[0]!;
  return useOfMove(
    "keys every",
    every && shown,
    (id) => json<number[]>(`moves/${id}/keys?${unit}=${value}`),
    `${unit} ${value}`,
  );
};

/** The curves that a job has made, over those of the move they were made of. */
export const useJobLanes = (job: JobView | undefined) =>
  useQuery<Lanes>({
    queryKey: ["job lanes", job?.id],
    queryFn: async () => decodeLanes(await bytes(`jobs/${job!.id}/lanes?${columns()}`)),
    enabled: job?.state === "done" && job.lanes,
    gcTime: 30_000,
  });

/** Something asked of the server that is no edit. */
function useAsk<Args, T>(request: (args: Args) => Promise<T>, quiet = false) {
  return useMutation({
    mutationFn: request,
    onError: (error) => quiet || enqueueSnackbar(error.message, { variant: "error" }),
  });
}

export const useEmptyBin = () => useAsk(() => tell("bin/empty", send("POST")));
/** Lays a take below the next roll, or none. */
export const useSetBase = () =>
  useAsk((take: TakeId | null) => tell("floor/below", send("POST", { take } satisfies BaseRequest)));

/** Shake of takes; asked again when takes come or change. */
export function useShakes(takes: Take[]) {
  const versions = useDocuments((s) => s.versions.takes);
  return useQuery({
    queryKey: ["shakes", takes.filter((t) => !t.rolling && !t.binned).map((t) => [t.id, versions[t.id]])],
    queryFn: () => json<ShakeView[]>("takes/shakes"),
    placeholderData: keepPreviousData,
  });
}

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
  useDeviceEdit((wanted: SimulatorRequest | null) =>
    json<DevicesView>("devices/stand-in", send("PUT", wanted)),
  );

/** The door through which a phone may come in. */
export const usePhone = () =>
  useQuery({ queryKey: ["phone"], queryFn: () => json<PhoneView>("devices/phone"), staleTime: 0 });
export const useOpenPhone = () =>
  useMutation({
    mutationFn: (wanted: PhoneRequest) => json<PhoneView>("devices/phone", send("PUT", wanted)),
    onSuccess: (view) => queryClient.setQueryData(["phone"], view),
    onError: (error) => enqueueSnackbar(error.message, { variant: "error" }),
  });

export const putOnFloor = (id: number) => tell(`setups/${id}/floor`, send("POST"));
export const usePutOnFloor = () => useAsk(putOnFloor);

/** The captured motion that was brought in; `of` changes when there is more. */
export const useClips = (of: number) =>
  useQuery({ queryKey: ["clips", of], queryFn: () => json<ClipView[]>("scene/clips") });

/** The kinds of files that are brought in at a station. */
export const useImportKinds = (station: Station) =>
  useQuery({
    queryKey: ["kinds", "imports"],
    queryFn: () => json<ImportKind[]>("kinds/imports"),
    select: (kinds) => kinds.filter((kind) => kind.station === station),
  });

/** First bytes of a file by which its kind is told. */
const HEAD = 4096;
/** The kind of a file. */
export const kindOfFile = (station: Station, file: File) =>
  json<ImportKind>(`kinds/imports/of?${new URLSearchParams({ station, file: file.name })}`, {
    method: "POST",
    body: file.slice(0, HEAD),
  });

/** A file to be brought in, with a name for what it becomes and the parameters of its kind. */
export interface BroughtFile {
  kind: string;
  name: string;
  file: Blob;
  params?: Record<string, unknown>;
}

/** Brings a file in. A refusal is told by who asks where it is `quiet`. */
export const useBringIn = (quiet = false) =>
  useAsk(async ({ kind, name, file, params = {} }: BroughtFile) => {
    const given = Object.entries(params).map(([path, value]) => [path, String(value)]);
    const query = new URLSearchParams({ name, ...Object.fromEntries(given) });
    const brought = await json<ImportedThings>(`import/${kind}?${query}`, { method: "POST", body: file });
    hearChanges(brought.changed);
    return brought;
  }, quiet);

/** What a file is called without its ending. */
export const titleOf = (file: File) => file.name.replace(/\.[^.]+$/, "").slice(0, 100);

/** Axis values with which the machine would have the camera at a place. */
export const askReach = (
  setup: SetupId,
  position: [number, number, number],
  near: number[],
  angles: [number, number, number] | null = null,
) => json<ReachView>(`setups/${setup}/reach`, send("POST", { position, near, angles }));

/** Axis values with which the machine has a handle where the hand is, or as near as it gets. */
export const askDrag = (
  setup: SetupId,
  handle: string,
  to: readonly [number, number, number],
  near: number[],
) => json<DragView>(`setups/${setup}/drag`, send("POST", { handle, to, near }));

/** Shortest time of a setup's machine through some of its stored positions. */
export function useRehearsal(setup: SetupId, through: Position[]) {
  const version = useVersion((v) => v.setups[setup]);
  const numbers = through.map((position) => position.number);
  return useQuery({
    queryKey: ["rehearsal", setup, version, through],
    queryFn: () => json<RehearsalView>(`setups/${setup}/rehearsal`, send("POST", numbers)),
    enabled: through.length > 1,
    placeholderData: keepPreviousData,
  });
}

/** The kinds of jobs, and what can be set of each. */
export const useJobKinds = () =>
  useQuery({ queryKey: ["kinds", "jobs"], queryFn: () => json<JobKind[]>("kinds/jobs") });
/** Begins a job. */
export const useBeginJob = () => useAsk((wanted: JobRequest) => json<JobView>("jobs", send("POST", wanted)));
/** Stops a job; one that is over is taken off the list. */
export const useStopJob = () => useAsk((id: number) => json<JobView[]>(`jobs/${id}/stop`, send("POST")));
/** Keeps what a job made, as it was shown. */
export const useKeepJob = () =>
  useAsk(async (id: number) => {
    const kept = await json<KeptView>(`jobs/${id}/keep`, send("POST"));
    hearChanges(kept.changed);
    return kept;
  });

export const useFlatKind = () =>
  useQuery({ queryKey: ["kinds", "flat"], queryFn: () => json<[Param[], Flatten]>("kinds/flat") });

/** A move as plain values, kept as a move of its own. */
export const useMakeFlat = () =>
  useAsk(async ({ move, by }: { move: MoveId; by: Flatten }) => {
    const kept = await json<KeptView>(`moves/${move}/flatten`, send("POST", by));
    hearChanges(kept.changed);
    return kept;
  });

export const useMachines = () =>
  useQuery({ queryKey: ["machines"], queryFn: () => json<MachineKind[]>("machines") });

/** Names of the kinds of machines. */
export function useKindWord(): (kind: RigSpec["kind"]) => string {
  const machines = useMachines().data;
  return (kind) => machines?.find((m) => m.rig.kind === kind)?.word ?? "";
}

interface Pose {
  position: readonly [number, number, number];
  angles: readonly [number, number, number];
}

/**
 * A machine of a kind, as it comes, put where its camera is about there, looking the same way; none
 * where the server says no, which is told.
 */
export async function machineThere(
  kind: RigSpec["kind"],
  { position, angles: [pan_deg, tilt_deg, roll_deg] }: Pose,
  clear: ClearAt | null = null,
): Promise<RigSpec | undefined> {
  const wanted: PutThere = { kind, position: [...position], pan_deg, tilt_deg, roll_deg, clear };
  return json<RigSpec>("machines", send("POST", wanted)).catch(
    (error: Error) => void enqueueSnackbar(error.message, { variant: "error" }),
  );
}

/** The camera that sees a drawn frame. */
export const askFrame = (wanted: FrameRequest) => json<FrameView>("frame", send("POST", wanted));

export const meshBytes = (id: number) => bytes(`assets/${id}/mesh`);

/** The answer to a question about a treatment, kept up to date with the move and its treatments. */
export const useAnswer = (shown: Looked, treatment: number, question: TreatmentQuestion) =>
  useOfMove<Answer>(
    "answer",
    shown,
    (id, signal) => answerOf(id, treatment, question, signal),
    `${treatment} ${JSON.stringify(question)}`,
  );

/** A bad second, and what mends it: null where nothing here does, undefined while that is being tried. */
export type Mendable = Fault & { remedy: Remedy | null | undefined };

/**
 * The bad seconds of a move, once they are asked for; what mends them is tried one after the other, for of a
 * long move each may take a second.
 */
export function useFaults(shown: Looked | undefined): Mendable[] | undefined {
  const faults = useOfMove<Fault[]>("faults", shown, (id) => json<Fault[]>(`moves/${id}/faults`));
  const { id, key } = useKnown(shown);
  const found = faults.isPlaceholderData ? undefined : faults.data;
  const queryKey = ["remedies", ...key];
  const tried = useQuery<(Remedy | null)[]>({
    queryKey,
    queryFn: async ({ client, signal }) => {
      const remedies: (Remedy | null)[] = [];
      for (const { kind, from_s } of found ?? []) {
        const asked = { ...send("POST", { kind, from_s }), signal };
        remedies.push(await json<Remedy | null>(`moves/${id}/remedy`, asked));
        client.setQueryData(queryKey, [...remedies]);
      }
      return remedies;
    },
    enabled: found !== undefined,
    gcTime: 30_000,
  });
  return faults.data?.map((fault, i) => ({ ...fault, remedy: found && tried.data?.[i] }));
}

const answerOf = (move: MoveId, treatment: number, question: TreatmentQuestion, signal?: AbortSignal) =>
  json<Answer>(`moves/${move}/treatments/${treatment}/ask`, {
    ...send("POST", question),
    ...(signal && { signal }),
  });

/** The answer to a question about a treatment; null if it failed, which is said, or was given up. */
export const askTreatment = (...args: Parameters<typeof answerOf>) =>
  answerOf(...args).catch((error: Error) => {
    if (!args[3]?.aborted) enqueueSnackbar(error.message, { variant: "error" });
    return null;
  });
