import type { FromGateway } from './protocol.ts';
import { type Cleaned, messageSchemas } from './protocol.schema.ts';

/** Bytes of one message, as UTF-8. A fax of 20 MB comes in parts. */
export const longestMessage = 1024 * 1024;

/** A message of a gateway, with what had to be cleaned in it; or why it cannot be taken, in a sentence. */
export type Read = { message: FromGateway; cleaned: string[] } | { of: string; fault: string };

/**
 * Reads a message as a gateway sent it. Nothing of another kind, length or type than the protocol says gets further:
 * what is odd but usable (control characters in a name, a name too long) is cleaned, and said so.
 */
export function readFromGateway(text: string): Read {
  let sent: unknown;
  try {
    sent = JSON.parse(text);
  } catch {
    return { of: 'message', fault: 'This is not JSON.' };
  }
  const of = kindOf(sent);
  const schema = messageSchemas.get(of);
  if (schema === undefined) return { of, fault: 'There is no message of this kind.' };
  const cleaned: Cleaned = { fields: new Set() };
  const { error, value } = schema.validate(sent, { context: { cleaned }, convert: false });
  if (error !== undefined) return { of, fault: `${error.message}.` };
  return {
    message: value,
    cleaned: [...cleaned.fields].map((field) => `${field} held what cannot be kept; it was cleaned`),
  };
}

function kindOf(sent: unknown): string {
  const kind = (sent as { kind?: unknown } | null)?.kind;
  return typeof kind === 'string' ? kind.slice(0, 40) : 'message';
}
