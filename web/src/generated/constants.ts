// Generated from core's constants by crates/server/tests/routes/types.rs. Do not edit.

/** A key nearer than this to a time is the key of that time, seconds. */
export const SAME_KEY_S = 0.004166666666666667;

/** What is nearer to a machine than this is near, metres. */
export const NEAR_M = 0.5;
