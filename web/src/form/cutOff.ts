/** One line that ends in an ellipsis where there is no more room. */
export const cutOff = {
  minWidth: 0,
  overflow: "hidden",
  textOverflow: "ellipsis",
  whiteSpace: "nowrap",
} as const;
