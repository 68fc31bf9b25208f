import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, test } from 'vitest';
import { type FreshCode, useFreshCodes } from './fresh-codes.ts';

const code = (id: string, signInCode: string, phone: FreshCode['phone'] = null): FreshCode => ({
  ...{ id, name: id, login: id, extension: '2001', signInCode, phone },
});
const phone = { account: 'a' } as FreshCode['phone'];
beforeEach(() => setActivePinia(createPinia()));

test('codes stay until they are hidden, one by one or all', () => {
  const codes = useFreshCodes();
  codes.keep([code('ann', '1111'), code('bo', '2222')]);
  codes.keep([code('cy', '3333')]);
  expect(codes.people.map(({ id }) => id)).toEqual(['ann', 'bo', 'cy']);
  codes.hide('bo');
  expect(codes.byId.has('bo')).toBe(false);
  codes.hideAll();
  expect(codes.people).toEqual([]);
});

test('a new code takes the place of the one before; the secret of the phone stays', () => {
  const codes = useFreshCodes();
  codes.keep([code('ann', '1111', phone)]);
  codes.keep([code('ann', '4444')]);
  expect(codes.people).toEqual([code('ann', '4444', phone)]);
});
