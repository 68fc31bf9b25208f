/**
 * Whether a pointer is down. A sentence that appears while somebody presses a button moves the button from
 * under the pointer, and the press is lost; so what a field has to say waits until the press is over.
 */
let isDown = false;
document.addEventListener('pointerdown', () => (isDown = true), { capture: true });
for (const end of ['pointerup', 'pointercancel'] as const)
  document.addEventListener(end, () => (isDown = false), { capture: true });

/** At once where nothing is pressed; else when the pointer was let go and the press has been answered. */
export async function afterPress(): Promise<void> {
  if (!isDown) return;
  await new Promise<void>((over) => {
    const end = new AbortController();
    const letGo = () => {
      end.abort();
      setTimeout(over);
    };
    document.addEventListener('pointerup', letGo, { signal: end.signal });
    document.addEventListener('pointercancel', letGo, { signal: end.signal });
  });
}
