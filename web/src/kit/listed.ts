const sentence = new Intl.ListFormat('en', { type: 'conjunction' });
const most = 4;

/** 'Main line, Night porter, and Freight', each once; beyond a few, how many more. */
export function listed(names: readonly string[]): string {
  const all = [...new Set(names)];
  const more = all.length - most;
  return sentence.format(more > 0 ? [...all.slice(0, most), `${more} more`] : all);
}
