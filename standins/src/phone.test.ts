import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, expect, test } from 'vitest';
import { digestSecret } from '@night-bell/core/sip/digest';
import { readSip, sipHeader, type SipRequest, writeSip } from '@night-bell/core/sip/message';
import { answerRegister } from '@night-bell/core/sip/registrar';
import { seededRandom } from '@night-bell/core/random/random';
import { StandInPhone } from './phone.ts';
import { Store } from './store.ts';
import { inventedCaller } from './traffic.ts';

let phone: StandInPhone | null = null;
afterEach(() => phone?.stop());

/** A phone wired to the registrar of core; gives what the phone sent. */
function wired(secret: string): SipRequest[] {
  const sent: SipRequest[] = [];
  const context = {
    realm: 'night-bell',
    accountOf: (account: string) =>
      account === 's2001'
        ? {
            secret: digestSecret('s2001', 'night-bell', 'right'),
            transport: 'tls' as const,
            behindRouter: false,
          }
        : null,
    source: '192.0.2.9',
    freshNonce: () => 'nonce',
    nonceState: () => 'fresh' as const,
    tag: 'tag',
  };
  phone = new StandInPhone(
    { account: 's2001', domain: 'night-bell', secret, name: 'Ann' },
    (_device, text) => {
      const request = readSip(text) as SipRequest;
      sent.push(request);
      phone!.hear(writeSip(answerRegister(request, context).response));
    },
  );
  phone.register();
  return sent;
}

test('a stand-in phone answers the challenge once and is registered', () => {
  const sent = wired('right');
  expect(sent.map((request) => sipHeader(request, 'Authorization') !== undefined)).toEqual([false, true]);
  expect(sent.map((request) => sipHeader(request, 'CSeq'))).toEqual(['1 REGISTER', '2 REGISTER']);
  expect(phone!.registered).toBe(true);
});

test('with a wrong secret it gives up after one refusal', () => {
  expect(wired('wrong')).toHaveLength(2);
  expect(phone!.registered).toBe(false);
});

test('what a phone keeps is readable to its owner only, and survives', () => {
  const folder = mkdtempSync(join(tmpdir(), 'night-bell-'));
  try {
    const file = join(folder, 'store.json');
    const store = new Store(file);
    store.value.phones.push({ account: 's2001', domain: 'd', secret: 's', name: 'Ann' });
    store.save();
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(new Store(file).value.phones).toMatchObject([{ account: 's2001' }]);
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test('invented callers have made-up numbers', () => {
  const random = seededRandom(1);
  for (let i = 0; i < 500; i++) expect(inventedCaller(random)).toMatch(/^\+1[2-9]\d\d55501\d\d$/);
});
