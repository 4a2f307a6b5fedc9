import { Button } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { useTakenKeys } from "../api";
import { change, documentNow } from "../document/edit";
import { newId } from "../document/patch";
import type { Every, Take } from "../generated/types";
import { Choice, Row } from "../set/rows";
import { NumberField } from "../shell/fields";

/** A key every so often: how often, how many that makes, and the way to keep them as the setup's keys. */
export function KeysRows({
  take,
  every,
  onChange,
}: {
  take: Take;
  every: Every;
  onChange: (every: Every) => void;
}) {
  const { num, den } = take.rate;
  const document = documentNow();
  const rate = document ? document.scene.rate : { num, den };
  const hz = rate.num / rate.den;
  const keys = useTakenKeys(take, every, `${rate.num}/${rate.den}`).data ?? [];
  const frames = "frames" in every;
  const keep = () =>
    void change(
      "set keys from a take",
      `/setups/${take.setup_id}/keys`,
      document?.setups.find((s) => s.id === take.setup_id)?.keys ?? [],
      keys.map((k) => ({ ...k, id: newId() })),
    ).then(() =>
      enqueueSnackbar(`The setup's machine follows ${keys.length} keys now; they are under Positions`),
    );
  return (
    <>
      <Row label="one every">
        <NumberField
          label="A key every"
          unit=""
          digits={frames ? 0 : 2}
          step={frames ? 1 : 0.05}
          min={frames ? 1 : 0.01}
          max={frames ? 2400 : 100}
          value={frames ? every.frames : every.seconds}
          onChange={(v) => onChange(frames ? { frames: Math.round(v) } : { seconds: v })}
        />
        <Choice
          label="Unit of the keys"
          value={frames ? "frames" : "seconds"}
          options={[
            ["frames", "frames"],
            ["seconds", "seconds"],
          ]}
          onChange={(unit) =>
            onChange(
              unit === "frames"
                ? { frames: Math.max(1, Math.round(frames ? every.frames : every.seconds * hz)) }
                : { seconds: frames ? Number((every.frames / hz).toFixed(3)) : every.seconds },
            )
          }
        />
      </Row>
      <Row label={`${keys.length} keys`}>
        <Button
          sx={{ py: 0 }}
          title="The setup's machine follows these from now on; the take stays as it is"
          onClick={keep}
        >
          Make them the setup's keys
        </Button>
      </Row>
    </>
  );
}
