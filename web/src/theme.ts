import { createTheme } from "@mui/material/styles";

/** Slate and chalk; paper for plans. The only place where colours stand. */
export const ink = {
  slate0: "#12181A",
  slate1: "#192123",
  slate2: "#222C2F",
  slate3: "#2E3A3D",
  chalk: "#EEEBE0",
  chalkDim: "#AEB5B0",
  chalkFaint: "#75807E",
  paper: "#F3EEDF",
  paperLine: "#DDD6C2",
  paperFill: "#E4DAC3",
  paperShade: "#A9A08A",
  ink: "#22302F",
  /** On paper: people, what is wanted and cannot be reached, a shadow. */
  paperPeople: "#6B6B5E",
  paperBeyond: "#A8401F",
  shade: "#000000",
  blueprint: "#2B6E8F",
  rec: "#E5484D",
  within: "#6CC59A",
  near: "#E3B94F",
  beyond: "#E37A52",
  pick: "#9AD7E0",
} as const;

/** Of the room in the picture: what is far away, the light from above and below, the lamp, a blank card. */
export const room = {
  night: "#0B1114",
  sky: "#CFE0E6",
  floor: "#3A4246",
  lamp: "#FFE7C4",
  card: "#CFC9B8",
  plain: "#FFFFFF",
} as const;

const axisInks: Record<string, string> = {
  swing: "#D9A05B",
  boom: "#7FC29B",
  reach: "#C08AD1",
  travel: "#6FB0DE",
  height: "#B9C767",
  pan: "#E58A78",
  tilt: "#92A0E6",
  roll: "#D3A6B4",
  zoom: "#C9C2A3",
  focus: "#58C4C4",
  iris: "#A58F78",
};

/** The ink of an axis: its curves and meters have it everywhere. */
export const axisInk = (name: string) => axisInks[name] ?? ink.chalk;

export const font = {
  text: "Barlow, sans-serif",
  label: '"Barlow Condensed", Barlow, sans-serif',
  number: '"Spline Sans Mono", monospace',
};

export const theme = createTheme({
  palette: {
    mode: "dark",
    background: { default: ink.slate0, paper: ink.slate1 },
    text: { primary: ink.chalk, secondary: ink.chalkDim, disabled: ink.chalkFaint },
    primary: { main: ink.pick, contrastText: ink.slate0 },
    error: { main: ink.beyond },
    warning: { main: ink.near },
    success: { main: ink.within },
    divider: ink.slate3,
  },
  shape: { borderRadius: 4 },
  spacing: 4,
  typography: { fontFamily: font.text, fontSize: 13, button: { textTransform: "none", fontWeight: 500 } },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { size: "small", variant: "outlined", color: "inherit", disableElevation: true },
      styleOverrides: {
        // A state is there at once: half way between two of them its word could not be read.
        root: {
          borderColor: ink.slate3,
          minWidth: 0,
          padding: "3px 10px",
          lineHeight: 1.5,
          transition: "none",
        },
      },
    },
    MuiIconButton: { defaultProps: { size: "small" }, styleOverrides: { root: { borderRadius: 4 } } },
    MuiTooltip: { defaultProps: { enterDelay: 500, arrow: false } },
    MuiSlider: { defaultProps: { size: "small" } },
    // What is chosen is gone at once: a menu that fades lies over the page, and swallows what a quick hand
    // does next.
    MuiMenu: { defaultProps: { transitionDuration: 0 } },
    MuiPopover: {
      defaultProps: { transitionDuration: 0 },
      styleOverrides: {
        root: ({ ownerState }: { ownerState: { open?: boolean } }) =>
          ownerState.open ? {} : { pointerEvents: "none" },
      },
    },
    MuiDialog: { defaultProps: { transitionDuration: 0 } },
    MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
  },
});
