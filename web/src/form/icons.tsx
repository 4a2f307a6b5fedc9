/** Our own line drawings, 20 × 20, one stroke width. */
const paths = {
  operate: "M3 15H17M5 15L9 9M7 12L15 5M15 5V8.5M12.8 8.5H17.2V12H12.8Z",
  shape: "M2.5 15C7 15 6.5 6 10 6S13 11 17.5 11M10 6m-1.4 0a1.4 1.4 0 1 0 2.8 0a1.4 1.4 0 1 0-2.8 0",
  start: "M5 4V16M15 5L8 10L15 15Z",
  end: "M15 4V16M5 5L12 10L5 15Z",
  play: "M6 4.5L15 10L6 15.5Z",
  back: "M14 4.5L5 10L14 15.5Z",
  pause: "M7 5V15M13 5V15",
  bin: "M4 6H16M8 6V4H12V6M6 6L7 16H13L14 6",
  restore: "M5 8H12A4 4 0 0 1 12 16H8M5 8L8 5M5 8L8 11",
  note: "M5 4H15V16H5ZM8 8H12M8 11H12",
  set: "M3 16V6L10 3L17 6V16M3 16H17M7 16V10.5H11V16",
  loop: "M5 8A5.5 5.5 0 0 1 15.2 8M15 12A5.5 5.5 0 0 1 4.8 12M15.6 4.5V8.2H12M4.4 15.5V11.8H8",
  once: "M3 10H14M10.5 6.5L14 10L10.5 13.5M16.5 5V15",
  earlier: "M12.5 4.5L6 10L12.5 15.5",
  later: "M7.5 4.5L14 10L7.5 15.5",
  up: "M10 15V5M5.5 9.5L10 5L14.5 9.5",
  down: "M10 5V15M5.5 10.5L10 15L14.5 10.5",
  copy: "M7 7H16V16H7ZM4 13V4H13",
  full: "M3 7V3H8M12 3H17V7M17 13V17H12M8 17H3V13",
  window: "M3 5H13V12H3ZM6.5 8.5H17V16H6.5Z",
  stills: "M3 6H13V14H3ZM6 3.5H16.5V11.5M5 12L7.5 9L9.5 11L11 9.5L13 12",
  lock: "M5.5 9H14.5V16H5.5ZM7.5 9V6.5A2.5 2.5 0 0 1 12.5 6.5V9",
  unseen:
    "M3 3.5L17 16.5M5 7.5C3.4 8.8 2.5 10 2.5 10S5.5 15 10 15C11 15 12 14.8 12.8 14.4M8 5.2C8.6 5.1 9.3 5 10 5C14.5 5 17.5 10 17.5 10S16.9 11 15.8 12.2",
  look: "M2.5 10S5.5 5 10 5S17.5 10 17.5 10S14.5 15 10 15S2.5 10 2.5 10ZM10 8A2 2 0 1 0 10 12A2 2 0 1 0 10 8",
} as const;

export function Icon({ name, size = 20 }: { name: keyof typeof paths; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 20 20"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.4}
      strokeLinejoin="round"
      strokeLinecap="round"
      aria-hidden
    >
      <path d={paths[name]} />
    </svg>
  );
}
