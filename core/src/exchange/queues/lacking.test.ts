import { expect, test } from 'vitest';
import type { QueueItem } from '../../model/configuration.ts';
import { Bench, configuration, person, queue } from '../exchange.testing.ts';
import { lackingSkills } from './lacking.ts';

const french = { skillId: 'french', name: 'French', minimum: 3 };
const german = { skillId: 'german', name: 'German', minimum: 2 };

function lacking(change: Partial<QueueItem>, members = ['a', 'b']): string[] {
  const people = [person('a', { skills: { french: 4 } }), person('b', { skills: { german: 5, french: 1 } })];
  const day = new Bench(configuration(people, [queue('q', members, change)]));
  return lackingSkills(day.exchange.view().queues.get('q')!);
}

test('a skill nobody has is named; one that gives way far enough is not', () => {
  expect(lacking({ skills: [] })).toEqual([]);
  expect(lacking({ skills: [french] })).toEqual([]);
  expect(lacking({ skills: [{ ...french, minimum: 5 }] })).toEqual(['French']);
  const later = [{ afterSeconds: 20, minimum: 4 }];
  expect(lacking({ skills: [{ ...french, minimum: 5, relaxes: later }] })).toEqual([]);
});

test('skills that nobody has together are all named; nobody at all lacks nothing', () => {
  expect(lacking({ skills: [french, german] })).toEqual(['French', 'German']);
  expect(lacking({ skills: [{ ...german, minimum: 6 }, french] })).toEqual(['German']);
  expect(lacking({ skills: [french] }, [])).toEqual([]);
});
