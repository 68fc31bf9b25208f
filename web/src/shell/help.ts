/** One short page of help for each area, beside its code; read when somebody asks. */
const pages = import.meta.glob<string>('../areas/*/help.md', { query: '?raw', import: 'default' });

/** Areas whose folder is not called as their page is. */
const folders: Readonly<Record<string, string>> = { '': 'home', answering: 'plans' };

export interface HelpPage {
  title: string;
  paragraphs: string[];
}

/** The help of the page at this path; null when there is none. */
export async function helpOf(path: string): Promise<HelpPage | null> {
  const first = path.split('/')[1] ?? '';
  const load = pages[`../areas/${folders[first] ?? first}/help.md`];
  if (load === undefined) return null;
  const [title = '', ...paragraphs] = (await load()).trim().split(/\n\s*\n/);
  return { title: title.replace(/^#\s*/, ''), paragraphs };
}
