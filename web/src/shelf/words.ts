/** When something was used last, as one says it; times are UTC. */
export function lastUse(at: string | null, now: Date): string {
  if (!at) return "never opened";
  const then = new Date(at);
  const clock = then.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  const day = (date: Date) => new Date(date.getFullYear(), date.getMonth(), date.getDate()).getTime();
  const days = Math.round((day(now) - day(then)) / 86_400_000);
  if (days <= 0) return `used today at ${clock}`;
  if (days === 1) return `used yesterday at ${clock}`;
  return `used on ${then.toLocaleDateString("en-GB", { day: "numeric", month: "long", year: "numeric" })}`;
}
