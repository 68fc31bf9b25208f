import { expect, test } from 'vitest';
import { Bench, callerNumber, configuration, mainNumber, person, queue } from '../exchange.testing.ts';

const day = () => {
  const bench = new Bench(configuration([person('a')], [queue('q', ['a'], { wrapUpSeconds: 30 })]));
  const measured = () => bench.exchange.view().queues.get('q')!.measured;
  return { bench, measured };
};
const agentLeg = (bench: Bench, id: string) =>
  bench.exchange
    .view()
    .calls.get(id)!
    .legs.find(({ party }) => party === 'agent')!.id;

test('who is answered counts with their wait, their talk and the wrap-up that is set; who gives up with their wait', () => {
  const { bench, measured } = day();
  bench.register(0, 'a');
  const first = bench.call(10);
  bench.at(15, { kind: 'legAnswered', leg: agentLeg(bench, first) });
  const second = bench.call(20);
  bench.at(50, { kind: 'callerHungUp', callId: second });
  expect(measured()).toMatchObject({ waited: 1, waitedMs: 30_000, abandoned: 1, handled: 0 });
  bench.at(75, { kind: 'callerHungUp', callId: first });
  expect(measured()).toEqual({
    ...{ waited: 2, waitedMs: 35_000, abandoned: 1, handled: 1, handledMs: 90_000 },
  });
});

test('who comes back to a queue after a talk and gives up there was not answered there', () => {
  const { bench, measured } = day();
  bench.register(0, 'a');
  bench.at(1, { kind: 'callArrived', callId: 'c', to: mainNumber, from: callerNumber, priority: 0 });
  bench.at(5, { kind: 'legAnswered', leg: agentLeg(bench, 'c') });
  bench.at(65, { kind: 'callTransferred', leg: agentLeg(bench, 'c'), to: { kind: 'queue', id: 'q' } });
  bench.at(75, { kind: 'callerHungUp', callId: 'c' });
  expect(measured()).toEqual({
    ...{ waited: 1, waitedMs: 10_000, abandoned: 1, handled: 0, handledMs: 0 },
  });
});
