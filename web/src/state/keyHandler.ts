/** What the station that is open does with a key of the keyboard; whether it meant something. */
export const keyHandler: { current: ((event: KeyboardEvent, key: string) => boolean) | null } = {
  current: null,
};
