import { expect, test } from 'vitest';
import type { ConfigurationChanges } from '../model/configuration.ts';
import { Bench, configuration, person, queue, ringGroup } from './exchange.testing.ts';
import { Exchange } from './exchange.ts';

/** Where digits and extensions lead, and who is in which team. */
function routes(exchange: Exchange) {
  const { numberByDigits, extensions, teams } = exchange.view();
  return {
    digits: new Map([...numberByDigits].map(([digits, { id }]) => [digits, id])),
    extensions,
    teams: new Map([...teams].map(([id, people]) => [id, people.map(({ person: { id: of } }) => of)])),
  };
}

const set = configuration(
  [person('a', { extension: '2001', teamId: 't' }), person('b', { extension: '2002', teamId: 't' })],
  [queue('q', ['a'], { extension: '4001' })],
);
const [number] = set.numbers;
const [box] = set.voicemailBoxes;

test.each<[string, ConfigurationChanges]>([
  ['people', { people: [person('a', { extension: '2009', teamId: 'u' })] }],
  ['queues', { queues: [queue('q', ['b'], { extension: '4009' })] }],
  ['numbers', { numbers: [{ ...number!, e164: '+12065550199' }] }],
  ['voicemail boxes', { voicemailBoxes: [{ ...box!, extension: '5001' }] }],
  ['ring groups', { ringGroups: [ringGroup('g', { extension: '4301' })] }],
  [
    'rooms',
    {
      rooms: [
        { id: 'r', name: 'Wheelhouse', extension: '6001', pinHash: null, pinLength: 0, joinTone: false },
      ],
    },
  ],
  ['fax boxes', { faxBoxes: [{ id: 'f', name: 'Fax', extension: '6002' }] }],
  [
    'numbers outside',
    {
      outsideNumbers: [
        {
          ...{ id: 'o', name: 'Porter', extension: '6003' },
          e164: '+14255550123',
          trunkId: null,
          ringSeconds: 30,
        },
      ],
    },
  ],
  ['what is gone', { gone: ['a', 'q', number!.id] }],
  ['nothing that leads anywhere', { prompts: [], hours: [] }],
])('where calls lead is as if it were read anew, after a change of %s', (_kind, changes) => {
  const bench = new Bench(set);
  const before = routes(bench.exchange);
  bench.at(1, { kind: 'configurationChanged', changes });
  const after = routes(bench.exchange);
  expect(after).toEqual(routes(Exchange.restore(JSON.parse(JSON.stringify(bench.exchange.snapshot())))));
  const leadsElsewhere = Object.values(changes).some((items) => items.length > 0);
  if (leadsElsewhere) expect(after).not.toEqual(before);
  else expect(after).toEqual(before);
});
