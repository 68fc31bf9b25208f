import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { keyActions, keyFace, type LineKey, longestAlert, type OwnCall, type Watched } from './line-keys.ts';

const key: LineKey = {
  position: 1,
  label: '',
  personId: 'p',
  alertAfter: 10,
  callerSeconds: 5,
  press: { quiet: 'call', ringing: 'take', inCall: 'announce' },
};
const rings = (ringsMs: number): Watched => ({ state: 'ringing', ringsMs, caller: 'Wren Aldous' });
const free: Watched = { state: 'free', ringsMs: 0, caller: null };

describe('what a key shows and does', () => {
  test('the three situations, each with its own press', () => {
    expect(keyFace(key, free, 'none')).toEqual({
      situation: 'quiet',
      light: 'off',
      alerts: false,
      caller: null,
      press: 'call',
    });
    expect(keyFace(key, rings(0), 'none')).toMatchObject({ situation: 'ringing', press: 'take' });
    expect(keyFace(key, rings(0), 'caller')).toMatchObject({ situation: 'inCall', press: 'announce' });
    expect(keyFace(key, rings(0), 'telling')).toMatchObject({ situation: 'inCall', press: 'handOver' });
    expect(keyFace(key, free, 'other')).toMatchObject({ situation: 'inCall', press: 'nothing' });
    expect(keyFace(key, { ...free, state: 'talking' }, 'none')).toMatchObject({
      light: 'steady',
      press: 'call',
    });
  });

  test('it alerts from its second on, and shows the caller up to its own', () => {
    expect(keyFace(key, rings(4_999), 'none')).toMatchObject({ caller: 'Wren Aldous', alerts: false });
    expect(keyFace(key, rings(5_000), 'none')).toMatchObject({ caller: null, alerts: false });
    expect(keyFace(key, rings(9_999), 'none').alerts).toBe(false);
    expect(keyFace(key, rings(10_000), 'none').alerts).toBe(true);
    expect(keyFace({ ...key, alertAfter: null }, rings(60_000), 'none').alerts).toBe(false);
  });

  test('whatever the settings: light only never sounds, never shown is never shown, and a press is one it was given', () => {
    const settings = fc.record({
      alertAfter: fc.option(fc.integer({ min: 0, max: longestAlert })),
      callerSeconds: fc.option(fc.integer({ min: 0, max: longestAlert })),
      press: fc.record({
        quiet: fc.constantFrom(...keyActions.quiet),
        ringing: fc.constantFrom(...keyActions.ringing),
        inCall: fc.constantFrom(...keyActions.inCall),
      }),
      state: fc.constantFrom('ringing', 'talking', 'free', 'unreachable'),
      ringsMs: fc.nat({ max: 90_000 }),
      own: fc.constantFrom('none', 'caller', 'telling', 'other'),
    });
    fc.assert(
      fc.property(settings, ({ state, ringsMs, own, ...change }) => {
        const face = keyFace(
          { ...key, ...change },
          { state, ringsMs, caller: 'C' } as Watched,
          own as OwnCall,
        );
        if (change.alertAfter === null || state !== 'ringing') expect(face.alerts).toBe(false);
        if (change.callerSeconds === 0 || state !== 'ringing') expect(face.caller).toBeNull();
        expect(keyActions[face.situation]).toContain(face.press);
        expect(face.light === 'blinking').toBe(state === 'ringing');
      }),
    );
  });
});
