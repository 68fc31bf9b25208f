import { utf8ToBytes } from '@noble/hashes/utils.js';

/** A SIP message (RFC 3261, section 7). Header names are kept in their long, capitalised form. */
export type SipMessage = SipRequest | SipResponse;

export interface SipRequest {
  method: string;
  uri: string;
  headers: SipHeader[];
  body: string;
}

export interface SipResponse {
  status: number;
  reason: string;
  headers: SipHeader[];
  body: string;
}

export type SipHeader = [name: string, value: string];

/** Compact forms of RFC 3261, section 7.3.3. */
const compactForms: Record<string, string> = {
  c: 'Content-Type',
  f: 'From',
  i: 'Call-ID',
  k: 'Supported',
  l: 'Content-Length',
  m: 'Contact',
  s: 'Subject',
  t: 'To',
  v: 'Via',
};

const longest = 16_384;

/** Reads a message; null when it is not SIP, with nothing guessed. */
export function readSip(text: string): SipMessage | null {
  if (text.length > longest) return null;
  const end = text.indexOf('\r\n\r\n');
  if (end < 0) return null;
  const [start, ...lines] = text
    .slice(0, end)
    .replace(/\r\n[ \t]+/g, ' ')
    .split('\r\n');
  const headers: SipHeader[] = [];
  for (const line of lines) {
    const match = /^([A-Za-z0-9.!%*_+`'~-]+)[ \t]*:[ \t]*(.*)$/.exec(line);
    if (match === null) return null;
    headers.push([longName(match[1]!), match[2]!.trim()]);
  }
  const body = text.slice(end + 4);
  const request = /^([A-Z]+) (\S+) SIP\/2\.0$/.exec(start!);
  if (request !== null) return { method: request[1]!, uri: request[2]!, headers, body };
  const response = /^SIP\/2\.0 ([1-6]\d\d) (.*)$/.exec(start!);
  if (response !== null) return { status: Number(response[1]), reason: response[2]!, headers, body };
  return null;
}

function longName(name: string): string {
  const compact = compactForms[name.toLowerCase()];
  if (compact !== undefined) return compact;
  return name
    .toLowerCase()
    .replace(/(^|-)([a-z])/g, (_match, dash: string, letter: string) => dash + letter.toUpperCase())
    .replace(/^Call-Id$/, 'Call-ID')
    .replace(/^Cseq$/, 'CSeq')
    .replace(/^Www-Authenticate$/, 'WWW-Authenticate');
}

export function writeSip(message: SipMessage): string {
  const start =
    'method' in message
      ? `${message.method} ${message.uri} SIP/2.0`
      : `SIP/2.0 ${message.status} ${message.reason}`;
  const headers = message.headers.filter(([name]) => name !== 'Content-Length');
  const length = String(utf8ToBytes(message.body).length);
  return [
    start,
    ...[...headers, ['Content-Length', length]].map(([name, value]) => `${name}: ${value}`),
    '',
    message.body,
  ].join('\r\n');
}

/** The first value of a header, by its long name. */
export function sipHeader(message: SipMessage, name: string): string | undefined {
  return message.headers.find(([each]) => each === name)?.[1];
}

/** A response that carries what section 8.2.6 asks for: Via, From, To with a tag, Call-ID and CSeq. */
export function respond(
  request: SipRequest,
  status: number,
  reason: string,
  tag: string,
  more: SipHeader[] = [],
): SipResponse {
  const copied = request.headers
    .filter(([name]) => ['Via', 'From', 'To', 'Call-ID', 'CSeq'].includes(name))
    .map(([name, value]): SipHeader => [
      name,
      name === 'To' && !/;tag=/.test(value) ? `${value};tag=${tag}` : value,
    ]);
  return { status, reason, headers: [...copied, ...more], body: '' };
}

/** The user part of a sip: or sips: URI, with or without angle brackets. */
export function sipUser(value: string): string | null {
  return /sips?:([^@>;]+)@/i.exec(value)?.[1] ?? null;
}
