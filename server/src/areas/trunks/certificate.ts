import type * as X509 from '@peculiar/x509';
import { createPrivateKey, webcrypto, X509Certificate } from 'node:crypto';
import { Problem } from '../../http/problems.ts';

/** Loaded when the first certificate is made: a server that starts again after a fault has no time for it. */
async function loadX509(): Promise<typeof X509> {
  await import('reflect-metadata');
  const x509 = await import('@peculiar/x509');
  x509.cryptoProvider.set(webcrypto as never);
  return x509;
}

/** What can be told of a certificate, without its key. */
export interface CertificateFacts {
  subject: string;
  issuer: string;
  from: string;
  until: string;
  fingerprint: string;
  /** Made here, by ourselves. */
  selfSigned: boolean;
}

export interface KeyedCertificate {
  certificate: string;
  key: string;
}

const days = 397;
const algorithm = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' };

/** A certificate of our own for this account at this provider, good for 397 days. */
export async function makeCertificate(account: string, company: string): Promise<KeyedCertificate> {
  const x509 = await loadX509();
  const keys = (await webcrypto.subtle.generateKey(algorithm, true, [
    'sign',
    'verify',
  ])) as webcrypto.CryptoKeyPair;
  const now = Date.now();
  const organisation = company.replace(/[",+<>;\\=]/g, ' ').trim();
  const certificate = await x509.X509CertificateGenerator.createSelfSigned({
    serialNumber: Buffer.from(webcrypto.getRandomValues(new Uint8Array(16))).toString('hex'),
    name: `CN=${account}${organisation === '' ? '' : `, O=${organisation}`}`,
    notBefore: new Date(now - 3_600_000),
    notAfter: new Date(now + days * 86_400_000),
    signingAlgorithm: algorithm,
    keys,
    extensions: [
      new x509.BasicConstraintsExtension(false),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature),
      new x509.ExtendedKeyUsageExtension(['1.3.6.1.5.5.7.3.2']),
    ],
  });
  const key = await webcrypto.subtle.exportKey('pkcs8', keys.privateKey);
  return { certificate: certificate.toString('pem'), key: x509.PemConverter.encode(key, 'PRIVATE KEY') };
}

/** A certificate that somebody brought: it must be one, be good now, name the account, and belong to its key. */
export function checkCertificate({ certificate, key }: KeyedCertificate, account: string): void {
  let read: X509Certificate;
  try {
    read = new X509Certificate(certificate);
  } catch {
    throw Problem.field(
      '/certificate',
      'This is no certificate in PEM. It begins with -----BEGIN CERTIFICATE-----.',
    );
  }
  let secret: ReturnType<typeof createPrivateKey>;
  try {
    secret = createPrivateKey(key);
  } catch {
    throw Problem.field('/key', 'This is no private key in PEM, or it is locked by a password.');
  }
  if (!read.checkPrivateKey(secret))
    throw Problem.field(
      '/key',
      'This key does not belong to the certificate. Bring the pair that was made together.',
    );
  const [from, until] = [Date.parse(read.validFrom), Date.parse(read.validTo)];
  if (until < Date.now())
    throw Problem.field(
      '/certificate',
      `It ran out on ${read.validTo}. Ask for a new one, or make one here.`,
    );
  if (from > Date.now()) throw Problem.field('/certificate', `It is good only from ${read.validFrom} on.`);
  const names = `${read.subject}\n${read.subjectAltName ?? ''}`.toLowerCase();
  if (!names.includes(account.toLowerCase()))
    throw Problem.field(
      '/certificate',
      `It is made out to ${read.subject.replace(/\n/g, ', ')}, not to the account ${account}.`,
    );
}

export function certificateFacts(pem: string): CertificateFacts {
  const read = new X509Certificate(pem);
  return {
    subject: read.subject.replace(/\n/g, ', '),
    issuer: read.issuer.replace(/\n/g, ', '),
    from: new Date(read.validFrom).toISOString(),
    until: new Date(read.validTo).toISOString(),
    fingerprint: read.fingerprint256,
    selfSigned: read.subject === read.issuer,
  };
}
