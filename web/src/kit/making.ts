/** Things that are being made right inside a form: a team, a source, a queue. */
const underWay = new Set<Promise<unknown>>();

export function making<Made>(work: Promise<Made>): Promise<Made> {
  underWay.add(work);
  void work.catch(() => undefined).finally(() => underWay.delete(work));
  return work;
}

/** Whoever saves a form waits for what is being made in it, so that a quick hand loses nothing. */
export async function allMade(): Promise<void> {
  await Promise.allSettled([...underWay]);
}
