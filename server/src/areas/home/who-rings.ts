import { peopleOfGroup } from '@night-bell/core/exchange/groups/members';
import type { RingGroup } from '@night-bell/core/exchange/groups/ring-group';
import type { State } from '@night-bell/core/exchange/kernel/state';
import type { QueueState } from '@night-bell/core/exchange/queues/queue';

/** The skills for which nobody in a queue is ever rung, however long a caller waits. */
export function lackingIn(queue: QueueState | undefined): string {
  if (queue === undefined || queue.members.some(({ fitsFrom }) => Number.isFinite(fitsFrom))) return '';
  const missing = queue.item.skills.filter((skill, place) => {
    const least = Math.min(skill.minimum, ...(skill.relaxes ?? []).map(({ minimum }) => minimum));
    return queue.members.every(({ levels }) => (levels[place] ?? 0) < least);
  });
  const named = (skills: readonly { name: string }[]) => skills.map(({ name }) => name).join(', ');
  return missing.length > 0 ? named(missing) : `${named(queue.item.skills)} together`;
}

/** A ring group as readiness looks at it. */
export function groupForReadiness(state: Readonly<State>, group: RingGroup) {
  const { id, name, targets } = group.item;
  const people = peopleOfGroup(state, group);
  const outside = targets.filter((each) => each.kind === 'outside' && state.outsideNumbers.has(each.id));
  return {
    ...{ id, name },
    phones: people.filter(({ phone }) => phone.state !== 'none').length + outside.length,
    allSitOut: outside.length === 0 && people.every(({ person }) => group.sitOut.includes(person.id)),
  };
}
