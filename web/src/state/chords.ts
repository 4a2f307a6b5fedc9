/** Place of a key: on every keyboard that is where hands look for it, whatever its layout writes. */
const places: Record<string, string> = {
  Equal: "=",
  Minus: "-",
  NumpadAdd: "=",
  NumpadSubtract: "-",
  BracketLeft: "[",
  BracketRight: "]",
  Enter: "Enter",
};

const nameOf = ({ code, key }: KeyboardEvent) =>
  places[code] ?? /^(?:Key([A-Z])|Digit([0-9]))$/.exec(code)?.slice(1).find(Boolean) ?? key;

/** Names of a chord, the closest first: with Shift, without it, and what the key writes. */
export function chordsOf(event: KeyboardEvent): string[] {
  const control = event.ctrlKey || event.metaKey ? "Ctrl+" : "";
  const alt = event.altKey ? "Alt+" : "";
  const name = nameOf(event);
  const plain = `${control}${alt}${name}`;
  return [
    ...(event.shiftKey ? [`${control}${alt}Shift+${name}`] : []),
    // A digit with Shift is another chord; letters and arrows count with and without.
    ...(event.shiftKey && /^[0-9]$/.test(name) ? [] : [plain]),
    ...(control || alt ? [] : [event.key]),
  ];
}
