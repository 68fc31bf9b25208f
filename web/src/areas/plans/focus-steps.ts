/** The steps take the keys: those of the picture, or of the list. False when neither is shown. */
export function focusSteps(): boolean {
  const tree = document.querySelector<HTMLElement>('.split [role=tree]');
  tree?.focus({ preventScroll: true });
  return tree !== null;
}

/** The first field of the chosen step takes the keys. */
export function focusFields(): void {
  document
    .querySelector<HTMLElement>(
      '.step-sheet :is(input, select, textarea, .link):not(:disabled, [type=hidden])',
    )
    ?.focus();
}
