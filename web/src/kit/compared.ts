/** As people expect names and figures: without regard to case, numbers in names by their size. */
export function compared(one: string | number, other: string | number): number {
  if (typeof one === 'string' && typeof other === 'string')
    return one.localeCompare(other, 'en', { numeric: true });
  return Number(one) - Number(other);
}
