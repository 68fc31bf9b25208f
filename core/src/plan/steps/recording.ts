import type { MayPause } from '../../model/recording.ts';
import { noteQuestion } from '../asking.ts';
import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = {
  does: {
    type: 'choice',
    label: 'Talks are',
    of: [
      { value: 'on', title: 'recorded' },
      { value: 'off', title: 'not recorded' },
    ],
  },
  promptId: {
    type: 'itemOrNone',
    of: 'prompt',
    label: 'Notice',
    otherwise: 'an earlier prompt says that talks are recorded',
  },
  mayPause: {
    type: 'choice',
    label: 'Who may pause',
    of: [
      { value: 'talker', title: 'whoever talks, and supervisors' },
      { value: 'supervisors', title: 'supervisors only' },
      { value: 'nobody', title: 'nobody' },
    ],
  },
} as const;

/**
 * Says whether talks of this call are recorded from here on. Recording begins with the talk, and only for a caller who
 * heard the notice to its end.
 */
export const recording: StepKind<typeof fields, null> = {
  kind: 'recording',
  word: 'Set recording',
  fields,
  exits: () => [{ name: 'next', label: 'go on' }, gone],
  main: 'next',
  fresh: { does: 'on', promptId: '', mayPause: 'talker' },
  destination: () => null,
  enter: (context, { does, promptId, mayPause }) => {
    const on = does === 'on';
    const saysNotice = on && promptId !== '';
    const notice = saysNotice ? context.prompt(promptId) : undefined;
    context.setRecording({ on, mayPause: mayPause as MayPause });
    context.note({ kind: 'recordingSet', on, untold: saysNotice && notice === undefined });
    if (saysNotice && notice === undefined) return { exit: gone.name };
    if (notice !== undefined) {
      noteQuestion(context, promptId);
      return { rest: null, until: context.now + context.say(notice, []) };
    }
    if (on) context.toldOfRecording();
    return { exit: 'next' };
  },
  on: {
    timeout: (context) => {
      context.toldOfRecording();
      return { exit: 'next' };
    },
  },
  // Whoever could not be told goes on, and is not recorded.
  whenOpen: (exit) => (exit === gone.name ? { exit: 'next' } : endWhenOpen(exit)),
  describe: ({ does, promptId }, names) =>
    does === 'off'
      ? 'Do not record talks from here on'
      : `Record talks from here on${promptId === '' ? '' : `, after ${names('prompt', promptId)}`}`,
};
