/** The day of a moment as it is called today: "Today", "Yesterday", or its date. */
export function dayOf(moment: string, now = new Date()): string {
  const at = new Date(moment);
  if (Number.isNaN(at.getTime())) return "At some time";
  const midnight = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime();
  const days = Math.round((midnight(now) - midnight(at)) / 86_400_000);
  if (days === 0) return "Today";
  if (days === 1) return "Yesterday";
  const month = at.toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
  return at.getFullYear() === now.getFullYear() ? month : `${month} ${at.getFullYear()}`;
}

/** Hours and minutes of a moment. */
export function timeOf(moment: string): string {
  const at = new Date(moment);
  if (Number.isNaN(at.getTime())) return "";
  return at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}
