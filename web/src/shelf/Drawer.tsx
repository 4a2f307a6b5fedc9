import { Button } from "@mui/material";
import { useEffect, useRef } from "react";
import { setView } from "../state/view";
import { ink } from "../theme";

/** Drawer that drops down from the slate over the station: nothing modal, the floor goes on below. */
export function Drawer(props: {
  title: string;
  /** True where there is nothing below to go back to. */
  stays?: boolean;
  actions?: React.ReactNode;
  children: React.ReactNode;
}) {
  const { title, stays = false, actions, children } = props;
  const self = useRef<HTMLElement>(null);
  useEffect(() => {
    // Hands come to it at once, and back to the floor afterwards.
    const before = document.activeElement;
    // A field of it may have them already.
    if (!self.current?.contains(before)) self.current?.focus();
    return () => {
      if (before instanceof HTMLElement) before.focus();
    };
  }, []);
  const drawer = (
    <section
      ref={self}
      className="scroll grows"
      aria-label={title}
      tabIndex={-1}
      style={{
        position: "absolute",
        zIndex: 20,
        // Below the hatched band and the slate.
        top: stays ? "calc(9px / var(--grow))" : "calc(9px / var(--grow) + 54px)",
        left: stays ? 0 : 68,
        right: 0,
        maxHeight: stays ? undefined : "calc((100vh - 140px) / var(--grow))",
        ...(stays ? { bottom: 0 } : {}),
        background: ink.slate1,
        borderBottom: `1px solid ${ink.slate3}`,
        borderLeft: `1px solid ${ink.slate3}`,
        padding: "10px 14px 14px",
        outline: "none",
      }}
    >
      <div style={{ display: "flex", alignItems: "center", gap: 10, marginBottom: 10 }}>
        {stays ? (
          <h1 style={{ margin: 0, fontSize: 20, fontWeight: 500 }}>{title}</h1>
        ) : (
          <h2 className="label" style={{ margin: 0, fontSize: 13 }}>
            {title}
          </h2>
        )}
        <span style={{ flex: 1 }} />
        {actions}
        {!stays && (
          <Button onClick={() => setView({ drawer: null })} title="Esc">
            Close
          </Button>
        )}
      </div>
      {children}
    </section>
  );
  return stays ? (
    <>
      <div className="hatch" />
      {drawer}
    </>
  ) : (
    drawer
  );
}

/** Cards side by side. */
export function Cards({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <ul
      aria-label={label}
      style={{
        listStyle: "none",
        margin: 0,
        padding: 0,
        display: "grid",
        gridTemplateColumns: "repeat(auto-fill, minmax(228px, 1fr))",
        gap: 12,
      }}
    >
      {children}
    </ul>
  );
}

/** A card of paper: a picture, and what is written below it. */
export function Card(props: {
  name: string;
  here?: boolean;
  faint?: boolean;
  picture: string | null;
  none: string;
  children: React.ReactNode;
}) {
  const { name, here = false, faint = false, picture, none, children } = props;
  return (
    <li
      className="paper onPaper"
      aria-label={name}
      aria-current={here || undefined}
      style={{
        display: "flex",
        flexDirection: "column",
        outline: here ? `2px solid ${ink.pick}` : undefined,
        opacity: faint ? 0.75 : 1,
      }}
    >
      <div
        style={{
          aspectRatio: "16 / 9",
          background: ink.slate0,
          display: "grid",
          placeItems: "center",
          color: ink.chalkDim,
          fontSize: 13,
          overflow: "hidden",
        }}
      >
        {picture ? (
          <img
            src={picture}
            alt={`Picture of ${name}`}
            style={{ width: "100%", height: "100%", objectFit: "contain", display: "block" }}
          />
        ) : (
          none
        )}
      </div>
      <div style={{ padding: "7px 10px 9px", display: "flex", flexDirection: "column", gap: 4, flex: 1 }}>
        {children}
      </div>
    </li>
  );
}
