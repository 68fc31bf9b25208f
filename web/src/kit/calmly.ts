/** Does `work` at once, and then at most once in `everyMs` however often it is asked for; the last time is never lost. */
export function calmly(work: () => void, everyMs: number): () => void {
  let last = Number.NEGATIVE_INFINITY;
  let timer: ReturnType<typeof setTimeout> | null = null;
  const now = () => {
    timer = null;
    last = Date.now();
    work();
  };
  return () => {
    if (timer !== null) return;
    const wait = last + everyMs - Date.now();
    if (wait <= 0) now();
    else timer = setTimeout(now, wait);
  };
}
