/** Whether the mouse or a finger did what was done last: then the focus stays where it is, unless it would be lost. */
let byPointer = false;
addEventListener('pointerdown', () => (byPointer = true), true);
addEventListener('keydown', () => (byPointer = false), true);

const isLost = () => document.activeElement === null || document.activeElement === document.body;

/** To where one works on this page: its list, else its heading. */
export function focusPage(): void {
  const main = document.querySelector('main');
  const place = main?.querySelector<HTMLElement>('[data-list]') ?? main?.querySelector<HTMLElement>('h1');
  place?.focus({ preventScroll: true });
}

/** After a jump to another page, unless something of it has the focus already. */
export function focusAfterJump(): void {
  const within = document.activeElement?.closest('main, [role="dialog"]') ?? null;
  if (within === null) focusPage();
}

/** Into what has just opened: its first field when it is new, else its heading. A press of the mouse leaves the list its focus. */
export function focusOpened(opened: HTMLElement, field: boolean): void {
  if (byPointer && !field && !isLost()) return;
  const first = field
    ? opened.querySelector<HTMLElement>('.body input:not([type="file"]), .body textarea, .body select')
    : null;
  (first ?? opened.querySelector<HTMLElement>('h2'))?.focus({ preventScroll: true });
}

/** Back to where it was before something opened, or to the list when that is gone. */
export function focusBack(before: Element | null): void {
  if (!isLost() && document.activeElement?.isConnected === true) return;
  if (before instanceof HTMLElement && before.isConnected && before !== document.body)
    before.focus({ preventScroll: true });
  else focusPage();
}

/** To the first field that is wrong. */
export function focusFault(within: ParentNode): void {
  within.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
}
