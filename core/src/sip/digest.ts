import { md5 } from '@noble/hashes/legacy.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/** Digest algorithms a registrar offers: MD5 of RFC 2617, SHA-256 of RFC 8760. */
export type DigestAlgorithm = 'MD5' | 'SHA-256';

/** H(user:realm:password) in both algorithms. Enough to check a response; the password cannot be read back. */
export interface DigestSecret {
  md5: string;
  sha256: string;
}

export interface DigestChallenge {
  realm: string;
  nonce: string;
  algorithm: DigestAlgorithm;
  stale?: boolean;
}

/** The parts of an Authorization header. `count` is the eight hex digits of nc. */
export interface DigestAnswer {
  username: string;
  realm: string;
  nonce: string;
  uri: string;
  response: string;
  algorithm: DigestAlgorithm;
  count: string;
  clientNonce: string;
}

function digest(algorithm: DigestAlgorithm, text: string): string {
  const bytes = utf8ToBytes(text);
  return bytesToHex(algorithm === 'MD5' ? md5(bytes) : sha256(bytes));
}

export function digestSecret(username: string, realm: string, password: string): DigestSecret {
  const text = `${username}:${realm}:${password}`;
  return { md5: digest('MD5', text), sha256: digest('SHA-256', text) };
}

/**
 * The response with qop=auth: H(HA1:nonce:nc:cnonce:auth:H(method:uri)) (RFC 7616, 3.4.1).
 */
export function digestResponse(
  secret: DigestSecret,
  method: string,
  parts: Pick<DigestAnswer, 'nonce' | 'uri' | 'algorithm' | 'count' | 'clientNonce'>,
): string {
  const ha1 = parts.algorithm === 'MD5' ? secret.md5 : secret.sha256;
  const ha2 = digest(parts.algorithm, `${method}:${parts.uri}`);
  return digest(parts.algorithm, `${ha1}:${parts.nonce}:${parts.count}:${parts.clientNonce}:auth:${ha2}`);
}

/** True when `answer` proves knowledge of `secret`. Compares in constant time. */
export function digestMatches(secret: DigestSecret, method: string, answer: DigestAnswer): boolean {
  const expected = digestResponse(secret, method, answer);
  let difference = expected.length ^ answer.response.length;
  for (let i = 0; i < expected.length; i++)
    difference |= expected.charCodeAt(i) ^ (answer.response.charCodeAt(i) || 0);
  return difference === 0;
}

export function challengeHeader(challenge: DigestChallenge): string {
  const stale = challenge.stale === true ? ', stale=TRUE' : '';
  return `Digest realm="${challenge.realm}", nonce="${challenge.nonce}", algorithm=${challenge.algorithm}, qop="auth"${stale}`;
}

export function answerHeader(answer: DigestAnswer): string {
  return (
    `Digest username="${answer.username}", realm="${answer.realm}", nonce="${answer.nonce}", uri="${answer.uri}", ` +
    `response="${answer.response}", algorithm=${answer.algorithm}, qop=auth, nc=${answer.count}, cnonce="${answer.clientNonce}"`
  );
}

/** Reads `Digest a="b", c=d`; null when it is not a digest header or a part is missing. */
export function readChallenge(header: string): DigestChallenge | null {
  const parts = digestParts(header);
  const algorithm = algorithmOf(parts?.get('algorithm'));
  const realm = parts?.get('realm');
  const nonce = parts?.get('nonce');
  if (parts === null || realm === undefined || nonce === undefined || algorithm === null) return null;
  return { realm, nonce, algorithm, stale: parts.get('stale')?.toLowerCase() === 'true' };
}

export function readAnswer(header: string): DigestAnswer | null {
  const parts = digestParts(header);
  if (parts === null) return null;
  const [username, realm, nonce, uri, response, count, clientNonce] = [
    'username',
    'realm',
    'nonce',
    'uri',
    'response',
    'nc',
    'cnonce',
  ].map((name) => parts.get(name));
  const algorithm = algorithmOf(parts.get('algorithm'));
  if (username === undefined || realm === undefined || nonce === undefined || uri === undefined) return null;
  if (response === undefined || count === undefined || clientNonce === undefined || algorithm === null)
    return null;
  return { username, realm, nonce, uri, response, algorithm, count, clientNonce };
}

function algorithmOf(text: string | undefined): DigestAlgorithm | null {
  if (text === undefined || text.toUpperCase() === 'MD5') return 'MD5';
  return text.toUpperCase() === 'SHA-256' ? 'SHA-256' : null;
}

function digestParts(header: string): Map<string, string> | null {
  if (!/^digest\s/i.test(header)) return null;
  const parts = new Map<string, string>();
  for (const match of header.slice(7).matchAll(/([a-z]+)\s*=\s*(?:"((?:[^"\\]|\\.)*)"|([^\s,"]+))/gi)) {
    parts.set(match[1]!.toLowerCase(), (match[2] ?? match[3] ?? '').replace(/\\(.)/g, '$1'));
  }
  return parts;
}
