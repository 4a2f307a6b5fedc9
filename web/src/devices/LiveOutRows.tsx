import { useMutation, useQuery } from "@tanstack/react-query";
import { enqueueSnackbar } from "notistack";
import { queryClient, useDocument } from "../api";
import type { LiveOutView, LiveOutRequest } from "../generated/types";
import { NumberField, TextField } from "../form/fields";
import { Choice, Row, Toggle } from "../form/rows";
import { json, send } from "../server";
import { lookable } from "../state/looked";
import { ink } from "../theme";
import { protocolWord } from "./words";

const KEY = ["devices", "out"];

/** Telling the camera to other software: what, to whom, how often. */
export function LiveOutRows() {
  const document = useDocument();
  const view = useQuery({
    queryKey: KEY,
    queryFn: () => json<LiveOutView>("devices/out"),
    staleTime: 0,
    refetchInterval: (query) => (query.state.data?.on ? 1000 : false),
  }).data;
  const tell = useMutation({
    mutationFn: (wanted: LiveOutRequest) => json<LiveOutView>("devices/out", send("PUT", wanted)),
    onSuccess: (now) => queryClient.setQueryData(KEY, now),
    onError: (error) => enqueueSnackbar(error.message, { variant: "error" }),
  });
  if (!view || !document) return null;
  const { sent, dropped, error, ...wanted } = view;
  const change = (part: Partial<LiveOutRequest>) => tell.mutate({ ...wanted, ...part });
  return (
    <>
      <Row label="live out">
        <Choice
          label="What is told live"
          value={wanted.move_id ?? 0}
          options={[
            [0, "the floor"],
            ...lookable(document).map(
              (l) => [l.move.id, `${l.title}${l.name ? `, ${l.name}` : ""}, over and over`] as const,
            ),
          ]}
          onChange={(id) => change({ move_id: id || null })}
        />
        <Toggle
          on={wanted.on}
          label={wanted.on ? "tells" : "tell"}
          title="Sends the camera over UDP, so that other software is driven by it"
          onClick={() => change({ on: !wanted.on })}
        />
      </Row>
      <Row label="to">
        <TextField
          label="Address that is told"
          width={82}
          value={wanted.address}
          onKeep={(address) => change({ address })}
        />
        <NumberField
          label="Port that is told"
          unit=""
          digits={0}
          step={1}
          min={1}
          max={65535}
          value={wanted.port}
          onChange={(port) => change({ port })}
        />
      </Row>
      <Row label="as">
        <Choice
          label="Protocol of live out"
          value={wanted.protocol}
          options={(["opentrackio", "freed"] as const).map((p) => [p, protocolWord[p]] as const)}
          onChange={(protocol) => change({ protocol })}
        />
        <NumberField
          label="Camera number of live out"
          unit=""
          digits={0}
          step={1}
          min={0}
          max={255}
          value={wanted.number}
          onChange={(number) => change({ number })}
        />
        <NumberField
          label="Rate of live out"
          unit="Hz"
          digits={0}
          step={1}
          min={1}
          max={240}
          value={wanted.rate_hz}
          onChange={(rate_hz) => change({ rate_hz })}
        />
      </Row>
      {wanted.on && (
        <p className="num" data-testid="told" style={{ ...words, color: ink.chalkDim }}>
          {sent} sent{dropped > 0 ? ` · ${dropped} left out` : ""}
        </p>
      )}
      {error && <p style={{ ...words, color: ink.beyond }}>▲ {error}</p>}
    </>
  );
}

const words = { margin: "2px 0 4px", fontSize: 12.5 } as const;
