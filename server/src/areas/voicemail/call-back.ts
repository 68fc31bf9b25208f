import { v7 as uuid } from 'uuid';
import { Problem } from '../../http/problems.ts';
import type { Gateways } from '../../live/gateways.ts';
import type { Live } from '../../live/live.ts';

/**
 * Has a phone of this person dial, the chosen one first, then in ring order. A page that is the phone dials itself; others
 * are asked to. Who is called hears nothing before the person's own phone does.
 */
export async function dialFor(live: Live, gateways: Gateways, personId: string, to: string): Promise<void> {
  const agent = live.ready ? live.exchange.view().agents.get(personId) : undefined;
  if (agent === undefined)
    throw new Problem('notNow', 'You have no phone here. An administrator can give you one.');
  const phones = [...agent.phones].sort(
    (one, other) =>
      Number(other.item.id === agent.chosenPhoneId) - Number(one.item.id === agent.chosenPhoneId),
  );
  for (const { item, registration } of phones) {
    if (registration !== 'registered') continue;
    if (item.kind === 'browser') {
      const callId = uuid();
      await live.command(
        { kind: 'callArrived', callId, to, from: item.account, fromPhoneId: item.id },
        personId,
      );
      return;
    }
    if (gateways.phones.dial(item.id, to)) return;
  }
  throw new Problem(
    'notNow',
    'None of your phones is registered. Choose this page as your phone, or check your own.',
  );
}
