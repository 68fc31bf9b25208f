import { describe, expect, test } from 'vitest';
import { refusedBecause } from './address.ts';

describe('addresses that are not asked', () => {
  test.each([
    ['127.0.0.1', 'this machine'],
    ['127.8.8.8', 'this machine'],
    ['::1', 'this machine'],
    ['0.0.0.0', 'no machine'],
    ['::', 'no machine'],
    ['10.1.2.3', 'a private network'],
    ['172.16.0.1', 'a private network'],
    ['172.31.255.255', 'a private network'],
    ['192.168.0.10', 'a private network'],
    ['fd00::1', 'a private network'],
    ['169.254.169.254', 'the local network'],
    ['fe80::1', 'the local network'],
    ['100.64.0.1', "a provider's inner network"],
    ['224.0.0.1', 'many machines at once'],
    ['255.255.255.255', 'all machines of a network'],
    ['192.0.2.1', 'a network for special purposes'],
    ['198.18.0.1', 'a network for special purposes'],
    // In the clothes of IPv6: mapped, translated, tunnelled.
    ['::ffff:127.0.0.1', 'this machine'],
    ['::ffff:10.0.0.1', 'a private network'],
    ['64:ff9b::7f00:1', 'a network for special purposes'],
    ['2002:7f00:1::', 'a network for special purposes'],
    ['2001:db8::1', 'a network for special purposes'],
    ['nonsense', 'no address'],
  ])('%s: %s', (address, why) => expect(refusedBecause(address)).toBe(why));

  test.each(['8.8.8.8', '172.32.0.1', '172.15.255.255', '100.128.0.1', '2600::1', '193.0.0.1'])(
    '%s is public',
    (address) => expect(refusedBecause(address)).toBeNull(),
  );
});
