import { onMounted, readonly, ref, type Ref } from 'vue';

const frameDrawn = () =>
  new Promise<void>((drawn) => {
    requestAnimationFrame(() => setTimeout(drawn));
  });
let last: Promise<void> = Promise.resolve();

/**
 * Parts of a page are put up one after another, each in a task of its own with a frame between, so that none holds up a
 * key for long. What one came for, the list, waits for no turn; nothing does where nobody looks and no frame is drawn.
 */
export async function turn(): Promise<void> {
  if (document.hidden) return;
  last = last.then(frameDrawn);
  await last;
}

/** False until it is this part's turn, from when it is on the page. */
export function useTurn(): Readonly<Ref<boolean>> {
  const come = ref(document.hidden);
  onMounted(() => void turn().then(() => (come.value = true)));
  return readonly(come);
}
