/** Instants at which two clocks are compared: 2026-01-15 and 2026-07-15, noon UTC. */
const winter = 1_768_478_400_000;
const summer = 1_784_116_800_000;
const offsets = new Map<string, string>();

/** What a zone's clock is ahead of UTC, in winter and in summer. */
function offsetsOf(zone: string): string {
  let known = offsets.get(zone);
  if (known === undefined) {
    const format = new Intl.DateTimeFormat('en-US', { timeZone: zone, timeZoneName: 'longOffset' });
    const at = (instant: number) =>
      format.formatToParts(instant).find(({ type }) => type === 'timeZoneName')?.value ?? '';
    known = `${at(winter)} ${at(summer)}`;
    offsets.set(zone, known);
  }
  return known;
}

/** Whether two IANA zones show the same time all year, as zones of neighbours do. An unknown zone is like no other. */
export function sameClock(one: string, other: string): boolean {
  if (one === other) return true;
  try {
    return offsetsOf(one) === offsetsOf(other);
  } catch {
    return false;
  }
}
