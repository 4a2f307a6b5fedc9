import { Button } from "@mui/material";
import { closeSnackbar, enqueueSnackbar } from "notistack";
import type { Conflict } from "./queue";

const words = (value: unknown) => {
  if (value === null || value === undefined) return "nothing";
  const text = typeof value === "string" ? value : JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
};

/** Shows both values of something that two pages changed, and lets a person choose. */
export function askWhich(label: string, { mine, theirs }: Conflict, useMine: () => void) {
  enqueueSnackbar(
    `Another page changed the same meanwhile (${label}): there it is now ${words(theirs)}, here it was to be ${words(mine)}.`,
    {
      variant: "warning",
      persist: true,
      action: (id) => (
        <>
          <Button
            color="inherit"
            onClick={() => {
              useMine();
              closeSnackbar(id);
            }}
          >
            Use mine
          </Button>
          <Button color="inherit" onClick={() => closeSnackbar(id)}>
            Keep theirs
          </Button>
        </>
      ),
    },
  );
}
