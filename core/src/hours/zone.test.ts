import { expect, test } from 'vitest';
import { isZone } from './zone.ts';

test.each(['UTC', 'America/St_Johns', 'Australia/Lord_Howe'])('%s is a time zone', (zone) => {
  expect(isZone(zone)).toBe(true);
});

test.each(['', 'Mars/Base', 'America/', '../etc', 'Pacific Standard Time'])('%j is none', (zone) => {
  expect(isZone(zone)).toBe(false);
});
