import { useState } from "react";

/**
 * A value that is shown as it changes and can be typed where it stands: a press makes it a field; Enter keeps
 * what is typed, Escape and leaving give back what is shown.
 */
export function Typed(props: {
  label: string;
  /** Sentence about what may be typed. */
  hint: string;
  /** The text to begin with. */
  read: () => string;
  /** Keeps the text; false leaves the field with what was typed. */
  onKeep: (text: string) => boolean | Promise<boolean>;
  /** Nothing can be typed now. */
  off?: boolean;
  /** Width of the field, characters. */
  wide: number;
  children: React.ReactNode;
}) {
  const { label, hint, read, onKeep, off = false, wide, children } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  if (typed === null)
    return (
      <button
        className="plain typed"
        aria-label={label}
        title={off ? undefined : hint}
        disabled={off}
        onClick={() => setTyped(read())}
        style={{ color: "inherit", font: "inherit", letterSpacing: "inherit" }}
      >
        {children}
      </button>
    );
  const keep = async () => {
    if (await onKeep(typed)) setTyped(null);
    else setWrong(true);
  };
  return (
    <>
      <span hidden>{children}</span>
      <input
        className="inplace num"
        aria-label={label}
        aria-invalid={wrong}
        autoFocus
        value={typed}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => (setTyped(e.target.value), setWrong(false))}
        onBlur={() => setTyped(null)}
        onKeyDown={(e) => {
          if (e.key === "Enter") void keep();
          if (e.key === "Escape") {
            setTyped(null);
            e.stopPropagation();
          }
        }}
        style={{ width: `${wide}ch`, borderBottomColor: wrong ? "var(--beyond)" : "var(--pick)" }}
      />
    </>
  );
}
