import { useMediaQuery } from "@mui/material";

/** Whether the page is so narrow that what is said beside things makes room for them. */
export const useNarrow = () => useMediaQuery("(max-width: 1150px)");
