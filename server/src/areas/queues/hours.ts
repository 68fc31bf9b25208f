import type { HourAsked, HoursPlayed } from '@night-bell/core/contracts/queue-hours';
import { Problem } from '../../http/problems.ts';
import type { Services } from '../../services.ts';

/** Plays hours of a queue as it is set up now, beside the live loop. */
export async function playHours(
  { live, beside }: Services,
  queueId: string,
  asked: HourAsked,
  goalSeconds: number,
): Promise<HoursPlayed> {
  if (!live.ready) throw new Problem('exchangeAway', 'The exchange is being rebuilt. Try again in a moment.');
  const played = await beside.hours({ seq: live.exchange.seq, queueId, asked, goalSeconds });
  if (played === null)
    throw new Problem('notNow', 'The exchange does not know this queue yet. Try again in a moment.');
  if (played.people.length === 0)
    throw new Problem(
      'notNow',
      asked.people === 'here'
        ? 'None of its members is signed in. Compare with all members.'
        : 'This queue has no members: nobody would take a call.',
    );
  return played;
}
