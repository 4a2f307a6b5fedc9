// Generated from core's constants by crates/server/tests/routes/types.rs. Do not edit.

/** A key nearer than this to a time is the key of that time, seconds. */
export const SAME_KEY_S = 0.004166666666666667;
