import { Popover } from "@mui/material";
import { useState } from "react";
import { ink } from "../theme";

/** A word that opens something over itself; what is in it may close it. */
export function Above(props: {
  word: string;
  /** What it is called aloud, where its word alone does not say it. */
  name?: string;
  title?: string;
  off?: boolean;
  children: (close: () => void) => React.ReactNode;
}) {
  const [at, setAt] = useState<{ left: number; top: number } | null>(null);
  const close = () => setAt(null);
  return (
    <>
      <button
        className="plain"
        aria-haspopup="dialog"
        aria-label={props.name}
        disabled={props.off}
        title={props.title}
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          setAt({ left: box.left, top: box.top - 4 });
        }}
      >
        {props.word} ▾
      </button>
      <Popover
        open={!!at}
        anchorReference="anchorPosition"
        anchorPosition={at ?? { left: 0, top: 0 }}
        transformOrigin={{ vertical: "bottom", horizontal: "left" }}
        onClose={close}
        slotProps={{ paper: { sx: { p: "10px 14px", width: 350, border: `1px solid ${ink.slate3}` } } }}
      >
        {props.children(close)}
      </Popover>
    </>
  );
}
