// @vitest-environment happy-dom
import { expect, test, vi } from 'vitest';
import { show } from '../../testing.ts';
import OutsidePhone from './OutsidePhone.vue';

const put = vi.hoisted(() => vi.fn());
const trunks = vi.hoisted(() => [
  { id: 'old', name: 'Old', retired: true },
  { id: 'mainland', name: 'Mainland', retired: false },
]);
vi.mock('../../shell/set-up.ts', () => ({ useSetUp: () => ({ trunks, load: () => Promise.resolve() }) }));
vi.mock('../../api/client.ts', async (whole) => ({
  ...(await whole<object>()),
  api: { PUT: put, GET: () => Promise.resolve({ data: [], response: { ok: true } }) },
}));

const person = {
  id: 'ann',
  version: 3,
  name: 'Ann',
  skills: [],
  looksAfter: [],
  noAnswer: [],
  outsideNumber: null,
};

test('the number is kept with the person, over the first trunk in use, by the version one saw', async () => {
  put.mockResolvedValueOnce({ data: {}, response: { ok: true } });
  const page = show(OutsidePhone, { person });
  await page.findComponent({ name: 'NumberField' }).vm.$emit('update:modelValue', '+12505550181');
  await page.get('form').trigger('submit');
  await expect.poll(() => page.emitted('close')).toBeDefined();
  const [path, { params, body }] = put.mock.calls[0] as [
    string,
    { params: { header: object }; body: object },
  ];
  expect([path, params.header]).toEqual(['/api/people/{id}', { 'If-Match': '"3"' }]);
  expect(body).toMatchObject({ name: 'Ann', outsideNumber: { e164: '+12505550181', trunkId: 'mainland' } });
});

test('a wrong number is said at its field, and the form stays', async () => {
  const errors = [{ path: '/outsideNumber/e164', detail: 'This is no number.' }];
  put.mockResolvedValueOnce({
    error: { code: 'invalidInput', detail: 'No.', errors },
    response: { ok: false },
  });
  const page = show(OutsidePhone, { person });
  await page.get('form').trigger('submit');
  await expect.poll(() => page.text()).toContain('This is no number.');
  expect(page.emitted('close')).toBeUndefined();
});
