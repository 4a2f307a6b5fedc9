import type { Status } from "../generated/types";

/** What whoever sits at a page calls themselves, or which page it is. */
export const nameOfPage = (status: Status, page: number) => status.names[page] ?? `page ${page}`;
