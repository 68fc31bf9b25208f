import { useNotices } from '../shell/notices.ts';
import { useSetUp } from '../shell/set-up.ts';

/** Does something at the server, says so in one line or says why not, and reads the set-up again. */
export function useActing() {
  const notices = useNotices();
  const setUp = useSetUp();
  return async function act(work: () => Promise<unknown>, said: string): Promise<boolean> {
    let done = false;
    try {
      await work();
      notices.say(said);
      done = true;
    } catch (error) {
      notices.fail(error);
    }
    await setUp.load().catch(() => undefined);
    return done;
  };
}
