import "@fontsource/barlow-condensed/latin-600.css";
import "@fontsource/barlow/latin-400.css";
import "@fontsource/barlow/latin-500.css";
import "@fontsource/spline-sans-mono/latin-400.css";
import "@fontsource/spline-sans-mono/latin-500.css";
import "./styles.css";
import { CssBaseline, GlobalStyles, ThemeProvider, styled } from "@mui/material";
import { QueryClientProvider } from "@tanstack/react-query";
import { MaterialDesignContent, SnackbarProvider } from "notistack";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { queryClient } from "./api";
import { openDocument } from "./document/edit";
import { link } from "./live/link";
import { watchPointer } from "./machine/bring";
import { followFloor } from "./shelf/follow";
import { openAddress } from "./shell/useAddress";
import { font, ink, theme } from "./theme";

openAddress();
link.start();
watchPointer();
followFloor();
void openDocument();

/** A notice on slate, with a mark and an edge in its ink. */
const notice = (edge: string) => ({
  background: ink.slate2,
  color: ink.chalk,
  border: `1px solid ${edge}`,
  borderRadius: 4,
  boxShadow: "none",
  fontFamily: font.text,
  maxWidth: 640,
});

/** Red is for recording: what went wrong or falls short has the inks of limits. */
const Notice = styled(MaterialDesignContent)({
  "&.notistack-MuiContent-error": notice(ink.beyond),
  "&.notistack-MuiContent-warning": notice(ink.near),
});

const tokens = Object.fromEntries(Object.entries(ink).map(([name, value]) => [`--${name}`, value]));

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <GlobalStyles styles={{ ":root": tokens }} />
      <QueryClientProvider client={queryClient}>
        <SnackbarProvider
          Components={{ error: Notice, warning: Notice }}
          maxSnack={3}
          autoHideDuration={6000}
          anchorOrigin={{ vertical: "bottom", horizontal: "center" }}
        >
          <App />
        </SnackbarProvider>
      </QueryClientProvider>
    </ThemeProvider>
  </StrictMode>,
);
