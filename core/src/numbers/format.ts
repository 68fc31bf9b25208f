/**
 * A public number in groups, for reading. The North American plan as 3-3-4; other countries keep their
 * digits together, because grouping differs within them. Anything that is not E.164 comes back as it is.
 *
 * @example formatNumber('+13605550117') // '+1 360 555 0117'
 */
export function formatNumber(number: string): string {
  const parts = /^\+1(\d{3})(\d{3})(\d{4})$/.exec(number);
  return parts === null ? number : `+1 ${parts[1]} ${parts[2]} ${parts[3]}`;
}
