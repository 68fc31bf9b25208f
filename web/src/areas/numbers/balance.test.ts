import { expect, test } from 'vitest';
import { balanceFigures } from './balance.ts';

const day = (date: string, balance: string, spent = '0') => ({ day: date, balance, spent, paidIn: '0' });

test('days before money first moved are left out but one; what was spent is added up', () => {
  const figures = balanceFigures(
    [
      day('2026-01-01', '0'),
      day('2026-01-02', '0'),
      day('2026-01-03', '48.5', '1.5'),
      day('2026-01-04', '48', '0.5'),
    ],
    '20',
  )!;
  expect(figures.labels).toEqual(['2 Jan', '3 Jan', '4 Jan']);
  expect(figures.caption).toBe('$2.00 spent; $48.00 at the end.');
  expect(figures.limit).toEqual({ title: 'Low', value: 20 });
});

test('a balance that was used up to nothing is drawn; one that never was is not', () => {
  expect(balanceFigures([day('2026-01-01', '0', '5')], '0')?.labels).toEqual(['1 Jan']);
  expect(balanceFigures([day('2026-01-01', '0')], '0')).toBeNull();
});
