import { ask } from './client.ts';

export type PageParts = Readonly<Record<string, string | readonly string[] | null | undefined>>;

/** One stretch of a list, where the next begins, and how many there are in all where that was asked. */
export interface Page<Row> {
  rows: Row[];
  next: string | null;
  total: number | null;
}

/** The query of an address; what is null or empty is left out. */
export function queryOf(parts: PageParts): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(parts))
    for (const each of typeof value === 'string' ? [value] : (value ?? []))
      if (each !== '') query.append(name, each);
  return query.toString();
}

/** Reads one stretch of a list (the Link header of RFC 8288 says where the next is). Throws ApiProblem. */
export async function readPage<Row>(
  path: string,
  parts: PageParts,
  signal?: AbortSignal,
): Promise<Page<Row>> {
  const request = fetch(`${path}?${queryOf(parts)}`, signal === undefined ? {} : { signal });
  let next: string | null = null;
  let total: number | null = null;
  const rows = await ask<Row[]>(
    request.then(async (response) => {
      const answer: unknown = await response.json().catch(() => null);
      const link = /^<([^>]+)>; rel="next"$/.exec(response.headers.get('link') ?? '')?.[1];
      if (link !== undefined) next = new URL(link, 'http://here').searchParams.get('after');
      const count = response.headers.get('total-count');
      if (count !== null) total = Number(count);
      return response.ok ? { data: answer as Row[], response } : { error: answer, response };
    }),
  );
  return { rows, next, total };
}
