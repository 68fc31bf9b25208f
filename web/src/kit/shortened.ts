/** At most so many characters, cut between words where it can be, with a mark that there was more. */
export function shortened(text: string, most: number): string {
  if (text.length <= most) return text;
  const part = text.slice(0, most - 1);
  const space = part.lastIndexOf(' ');
  return `${(space > 0 ? part.slice(0, space) : part).trimEnd()}…`;
}
