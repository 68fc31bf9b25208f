import type { Transport } from '../phones/catalogue.ts';
import { type SipMessage, sipHeader } from './message.ts';

/** The transport a request came by, from its topmost Via (RFC 3261, 20.42); null when it is another one. */
export function transportOf(message: SipMessage): Transport | null {
  const via = /^SIP\s*\/\s*2\.0\s*\/\s*(\w+)/i.exec(sipHeader(message, 'Via') ?? '')?.[1]?.toLowerCase();
  return via === 'udp' || via === 'tcp' || via === 'tls' ? via : null;
}

/** The host of a sip: or sips: URI, without user, port and parameters. */
export function sipHost(uri: string): string | null {
  return /sips?:(?:[^@>;]+@)?(\[[^\]]+\]|[^:;>?\s]+)/i.exec(uri)?.[1]?.toLowerCase() ?? null;
}

/** Addresses that nobody outside their own network reaches (RFC 1918, RFC 6598, and link-local of RFC 3927). */
export function isPrivateAddress(host: string): boolean {
  const parts = host.split('.').map(Number);
  if (parts.length !== 4 || parts.some((part) => !Number.isInteger(part) || part < 0 || part > 255))
    return false;
  const [a, b] = parts as [number, number];
  return (
    a === 10 ||
    (a === 172 && b >= 16 && b <= 31) ||
    (a === 192 && b === 168) ||
    (a === 100 && b >= 64 && b <= 127) ||
    (a === 169 && b === 254)
  );
}
