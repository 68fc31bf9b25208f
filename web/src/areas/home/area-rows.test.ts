import { expect, test } from 'vitest';
import type { HomeView } from '../../api/client.ts';
import { areaRows } from './area-rows.ts';

const noCounts = new Proxy({} as HomeView['counts'], { get: () => 0 });
const finding = (area: string, severity: string) =>
  ({
    code: 'x',
    area,
    severity,
    itemId: null,
    itemName: '',
    detail: '',
  }) as unknown as HomeView['findings'][number];

test('what an area needs names the row of the other, whose order is that of the work', () => {
  const rows = areaRows({ counts: noCounts, findings: [] });
  const numberOf = (area: string) => rows.find((row) => row.area === area)!.number;
  expect(rows.map(({ number }) => number)).toEqual(rows.map((_, index) => index + 1));
  expect(rows.find(({ area }) => area === 'numbers')!.needs).toBe(`needs ${numberOf('queues')}`);
  expect(rows.find(({ area }) => area === 'campaigns')!.needs).toBe(
    `needs ${numberOf('trunks')}, ${numberOf('queues')}`,
  );
  for (const area of ['sources', 'calls'])
    expect(rows.find((row) => row.area === area)!.needs).toBe(`needs ${numberOf('numbers')}`);
});

test('an area with a fault says so, one without anything has nothing yet, one with a gap is part done', () => {
  const counts = new Proxy({} as HomeView['counts'], { get: (_, name) => (name === 'queues' ? 0 : 2) });
  const rows = areaRows({ counts, findings: [finding('people', 'fault'), finding('numbers', 'missing')] });
  const word = (area: string) => rows.find((row) => row.area === area)!.state.word;
  expect(['people', 'numbers', 'queues', 'trunks'].map(word)).toEqual([
    'Fault',
    'Part done',
    'Nothing yet',
    'Done',
  ]);
});

test('what is wrong with a prompt stands with how callers are answered', () => {
  const rows = areaRows({
    counts: noCounts,
    findings: [finding('prompts', 'missing'), finding('answering', 'fault')],
  });
  expect(rows.find(({ area }) => area === 'answering')!.findings).toHaveLength(2);
});
