import { onMounted, readonly, ref, type Ref } from 'vue';

const taskOver = () =>
  new Promise<void>((over) => {
    setTimeout(over);
  });
let last: Promise<void> = Promise.resolve();

/**
 * Parts of a page are put up one after another, each in a task of its own, so that none holds up a key for long. What one
 * came for, the list, waits for no turn; nothing does where nobody looks.
 */
export async function turn(): Promise<void> {
  if (document.hidden) return;
  last = last.then(taskOver);
  await last;
}

/** False until it is this part's turn, from when it is on the page. */
export function useTurn(): Readonly<Ref<boolean>> {
  const come = ref(document.hidden);
  onMounted(() => void turn().then(() => (come.value = true)));
  return readonly(come);
}
