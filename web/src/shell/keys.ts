import { onBeforeUnmount, onMounted, ref } from 'vue';

/** Whether single letters do anything; can be turned off. */
export const lettersOn = ref(localStorage.getItem('night-bell-letters') !== 'off');

export function setLetters(on: boolean): void {
  lettersOn.value = on;
  localStorage.setItem('night-bell-letters', on ? 'on' : 'off');
}

/** Whether letters typed now belong to a field. Choices among radio buttons and checkboxes take no letters. */
function inField(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement && (target.type === 'radio' || target.type === 'checkbox'))
    return false;
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/**
 * Keys of a page while it is shown. Letters and signs are dead while a field has the focus; Escape always works, and so
 * do those with Control or Command, named like `mod+k`.
 */
export function useKeys(handlers: Record<string, (event: KeyboardEvent) => void>): void {
  function listen(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.altKey) return;
    const modified = event.ctrlKey || event.metaKey;
    const handler = modified
      ? handlers[`mod+${event.key.toLowerCase()}`]
      : (handlers[event.key] ?? handlers[event.key.toLowerCase()]);
    if (handler === undefined) return;
    if (!modified && event.key !== 'Escape' && (inField(event.target) || !lettersOn.value)) return;
    if (event.key !== 'Escape') event.preventDefault();
    handler(event);
  }
  onMounted(() => addEventListener('keydown', listen));
  onBeforeUnmount(() => removeEventListener('keydown', listen));
}
