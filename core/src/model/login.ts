/** Lower-case ASCII words joined by dots, as people expect a login made from a name. */
export function loginFrom(name: string): string {
  const words = name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/ß/g, 'ss')
    .replace(/[øØ]/g, 'o')
    .replace(/[æÆ]/g, 'ae')
    .replace(/[łŁ]/g, 'l')
    .toLowerCase()
    .match(/[a-z0-9]+(?:-[a-z0-9]+)*/g);
  return (words ?? ['person']).join('.').slice(0, 60);
}

/** The login for a name, with a number behind it when taken. */
export function freeLogin(name: string, taken: ReadonlySet<string>): string {
  const wanted = loginFrom(name);
  if (!taken.has(wanted)) return wanted;
  for (let n = 2; ; n++) if (!taken.has(`${wanted}${n}`)) return `${wanted}${n}`;
}
