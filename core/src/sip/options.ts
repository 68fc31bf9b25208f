import { type Codec, codecs as known } from '../phones/catalogue.ts';
import { respond, type SipRequest, type SipResponse } from './message.ts';
import { phoneRequest, type RegisteredPhone } from './phone-request.ts';

/** Payload types that are fixed (RFC 3551, table 4); the others are given by an rtpmap. */
const fixedTypes: Record<string, Codec> = { 0: 'PCMU', 8: 'PCMA', 9: 'G722', 18: 'G729' };
const opusType = 96;

/** Asks a registered phone what it can do (RFC 3261, 11). */
export function optionsRequest(to: RegisteredPhone): SipRequest {
  return phoneRequest('OPTIONS', to, { from: to.domain, more: [['Accept', 'application/sdp']], body: '' });
}

/** The phone's answer: 200 with its codecs as a session description (RFC 3261, 11.2; RFC 8866). */
export function answerOptions(request: SipRequest, offered: readonly Codec[], tag: string): SipResponse {
  const type = (codec: Codec) =>
    Number(Object.entries(fixedTypes).find(([, each]) => each === codec)?.[0] ?? opusType);
  const lines = [
    'v=0',
    'o=- 0 0 IN IP4 192.0.2.1',
    's=-',
    'c=IN IP4 192.0.2.1',
    't=0 0',
    `m=audio 0 RTP/AVP ${offered.map(type).join(' ')}`,
    ...offered.map((codec) => `a=rtpmap:${type(codec)} ${codec}/${codec === 'opus' ? '48000/2' : '8000'}`),
    '',
  ];
  return {
    ...respond(request, 200, 'OK', tag, [
      ['Allow', 'INVITE, ACK, CANCEL, OPTIONS, BYE'],
      ['Content-Type', 'application/sdp'],
    ]),
    body: lines.join('\r\n'),
  };
}

/** The codecs of the audio line of a session description that are known here; null when it has none. */
export function codecsOf(body: string): Codec[] | null {
  const lines = body.split(/\r?\n/);
  const audio = lines.find((line) => line.startsWith('m=audio '));
  if (audio === undefined) return null;
  const named = new Map<string, string>(
    lines.flatMap((line) => {
      const match = /^a=rtpmap:(\d+) ([\w-]+)\//.exec(line);
      return match === null ? [] : [[match[1]!, match[2]!]];
    }),
  );
  return audio
    .split(' ')
    .slice(3)
    .flatMap((type) => {
      const name = (named.get(type) ?? fixedTypes[type] ?? '').toLowerCase();
      return known.filter((codec) => codec.toLowerCase() === name);
    });
}

/** What both may use; nothing allowed by name means anything is. */
export function codecsInCommon(allowed: readonly Codec[], offered: readonly Codec[]): Codec[] {
  return allowed.length === 0 ? [...offered] : offered.filter((codec) => allowed.includes(codec));
}
