import { onBeforeRouteLeave } from 'vue-router';

/**
 * Whether whoever looks at this page has not begun to leave it. What comes back late from the server must not fetch them
 * from where they are going.
 */
export function useStaying(): () => boolean {
  let staying = true;
  onBeforeRouteLeave(() => {
    staying = false;
  });
  return () => staying;
}
