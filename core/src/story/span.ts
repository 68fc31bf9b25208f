/** A length: `0:38`, `12:04`, `1:02:09`. */
export function span(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1000));
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const tail = `${String(s).padStart(2, '0')}`;
  return h > 0 ? `${h}:${String(m).padStart(2, '0')}:${tail}` : `${m}:${tail}`;
}
