import { expect, test } from 'vitest';
import { allZones, areaCode, isTollFree, placeOf, zonesOf } from './facts.ts';

test('zones come from the longest prefix that is known', () => {
  expect(zonesOf('+12065550117')).toEqual(['America/Los_Angeles']);
  expect(zonesOf('+12085550117')).toEqual(['America/Boise', 'America/Los_Angeles']);
  expect(zonesOf('+12082010117')).toEqual(['America/Denver']);
  expect(zonesOf('+13105550117')).toEqual(['America/Los_Angeles']);
  expect(zonesOf('+442079460000')).toEqual(['Europe/London']);
});

test('a toll-free number may be anywhere in its plan, but for the far Pacific', () => {
  const zones = zonesOf('+18005550114');
  expect(zones.length).toBeGreaterThan(20);
  expect(zones).toContain('Pacific/Honolulu');
  expect(zones).not.toContain('Pacific/Guam');
  expect(isTollFree('+18005550114')).toBe(true);
  expect(isTollFree('+12065550117')).toBe(false);
});

test('places are told for area codes of the plan', () => {
  expect(placeOf('+12065550117')).toBe('Washington State');
  expect(placeOf('+18005550114')).toBe('toll-free');
  expect([placeOf('+442079460000'), areaCode('+442079460000')]).toEqual([null, null]);
  expect(areaCode('+16045550160')).toBe('604');
});

test('every zone named is one the platform knows', () => {
  for (const zone of allZones())
    expect(() => new Intl.DateTimeFormat('en', { timeZone: zone })).not.toThrow();
});
