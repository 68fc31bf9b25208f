import ipaddr from 'ipaddr.js';

const words: Record<string, string> = {
  loopback: 'this machine',
  private: 'a private network',
  uniqueLocal: 'a private network',
  linkLocal: 'the local network',
  carrierGradeNat: "a provider's inner network",
  unspecified: 'no machine',
  multicast: 'many machines at once',
  broadcast: 'all machines of a network',
};

/**
 * Why this network address is not asked without an administrator's word: everything but public unicast addresses (IANA
 * special-purpose registries, RFC 6890); an IPv4 address inside an IPv6 one counts as itself. Null for a public one.
 */
export function refusedBecause(address: string): string | null {
  if (!ipaddr.isValid(address)) return 'no address';
  // Also resolves ::ffff:127.0.0.1, an IPv4 address in the clothes of IPv6.
  const range = ipaddr.process(address).range();
  return range === 'unicast' ? null : (words[range] ?? 'a network for special purposes');
}
