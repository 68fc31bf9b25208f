import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';

/**
 * Seals secrets with the installation's key, a file of mode 0600 that is never in the database: AES-256-GCM for
 * what must be read again, keyed SHA-256 for one-time codes and session tokens.
 */
export class SecretBox {
  private readonly sealing: Buffer;
  private readonly hashing: Buffer;

  constructor(key: Buffer) {
    this.sealing = Buffer.from(hkdfSync('sha256', key, '', 'night-bell sealing', 32));
    this.hashing = Buffer.from(hkdfSync('sha256', key, '', 'night-bell hashing', 32));
  }

  /** Reads the key file, making it on the first start. */
  static fromFile(path: string): SecretBox {
    if (!existsSync(path))
      writeFileSync(path, randomBytes(32).toString('base64'), { mode: 0o600, flag: 'wx' });
    return new SecretBox(Buffer.from(readFileSync(path, 'utf8'), 'base64'));
  }

  seal(text: string): string {
    const nonce = randomBytes(12);
    const cipher = createCipheriv('aes-256-gcm', this.sealing, nonce);
    const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64');
  }

  open(sealed: string): string {
    const bytes = Buffer.from(sealed, 'base64');
    const decipher = createDecipheriv('aes-256-gcm', this.sealing, bytes.subarray(0, 12));
    decipher.setAuthTag(bytes.subarray(12, 28));
    return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8');
  }

  /** A keyed hash, under which codes and tokens are stored. */
  hash(text: string): string {
    return createHmac('sha256', this.hashing).update(text).digest('base64url');
  }
}

/** Letters and digits that cannot be mistaken for each other. */
const codeLetters = 'ABCDEFGHJKMNPQRSTVWXYZ23456789';

/** A one-time code of four groups of five: 98 bits, easy to read out. */
export function oneTimeCode(): string {
  const letters = Array.from(randomBytes(20), (byte) => byte)
    .map((byte) => codeLetters[byte % codeLetters.length])
    .join('');
  return letters.replace(/(.{5})(?=.)/g, '$1-');
}

/** A code as somebody typed it, in the form in which it was made. */
export function tidyCode(typed: string): string {
  const letters = typed.toUpperCase().replace(/[^A-Z0-9]/g, '');
  return letters.replace(/(.{5})(?=.)/g, '$1-');
}

/** A registration secret of 144 bits, for machines only. */
export function registrationSecret(): string {
  return randomBytes(18).toString('base64url');
}
