import { readFileSync } from 'node:fs';
import ipaddr from 'ipaddr.js';
import Joi from 'joi';

/** What the operator of an installation decides, by the environment of the server (docs/operating.md lists it). */
export interface Settings {
  database: string;
  keyFile: string;
  gatewayKey: string;
  listen: { host: string; port: number };
  tls: { cert: Buffer; key: Buffer } | null;
  /** Addresses of proxies whose word about the caller's address, host and protocol is taken. */
  trustedProxies: string[];
  /** `host:port` of services on this machine or a private network that may be asked. */
  allowedAddresses: string[];
  webFolder: string | null;
  backups: string | null;
  logLevel: string;
  /** What /metrics wants to be shown; without one there are none. */
  metricsKey: string | null;
  demo: {
    folder: string;
    harbourBook: { address: string; key: string };
    sailingBot: { address: string; key: string };
  } | null;
  shop: { address: string; key: string } | null;
  /** Where letters are handed in (smtp://), and whom they come from. */
  mail: { address: string; from: string } | null;
  /** The folder on whose disk recordings are kept, and the megabytes that must stay free there. */
  storage: { folder: string; leastFree: number } | null;
  production: boolean;
}

/** sysexits.h, EX_CONFIG: starting again would not help. */
export const brokenInstallation = 78;

/** The installation is not as it must be; the sentence says what to do. */
export class BrokenInstallation extends Error {}

const networks = Joi.string().custom((value: string, helpers) =>
  value.includes('/')
    ? ipaddr.isValidCIDR(value)
      ? value
      : helpers.error('any.invalid')
    : ipaddr.isValid(value)
      ? value
      : helpers.error('any.invalid'),
);

const environment = Joi.object({
  NIGHT_BELL_DATABASE: Joi.string()
    .uri({ scheme: ['postgres', 'postgresql'] })
    .required(),
  NIGHT_BELL_KEY: Joi.string().required(),
  NIGHT_BELL_GATEWAY_KEY: Joi.string().min(16).required(),
  NIGHT_BELL_HOST: Joi.string().ip().default('127.0.0.1'),
  NIGHT_BELL_PORT: Joi.number().port().default(4380),
  NIGHT_BELL_TLS_CERTIFICATE: Joi.string(),
  NIGHT_BELL_TLS_KEY: Joi.string(),
  NIGHT_BELL_TRUSTED_PROXIES: Joi.array().items(networks).default([]),
  NIGHT_BELL_ALLOWED_ADDRESSES: Joi.array()
    .items(Joi.string().pattern(/^[^\s/]+:\d{1,5}$/))
    .default([]),
  NIGHT_BELL_WEB: Joi.string(),
  NIGHT_BELL_BACKUPS: Joi.string(),
  NIGHT_BELL_LOG: Joi.string()
    .valid('fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent')
    .default('warn'),
  NIGHT_BELL_METRICS_KEY: Joi.string().min(16),
  NIGHT_BELL_DEMO: Joi.string(),
  NIGHT_BELL_HARBOUR_BOOK: Joi.string().uri(),
  NIGHT_BELL_HARBOUR_BOOK_KEY: Joi.string(),
  NIGHT_BELL_SAILING_BOT: Joi.string().uri(),
  NIGHT_BELL_SAILING_BOT_KEY: Joi.string(),
  NIGHT_BELL_NUMBER_SHOP: Joi.string().uri(),
  NIGHT_BELL_NUMBER_SHOP_KEY: Joi.string(),
  NIGHT_BELL_MAIL: Joi.string().uri({ scheme: ['smtp', 'smtps'] }),
  NIGHT_BELL_MAIL_FROM: Joi.string().email({ tlds: false }).default('night-bell@night-bell.example'),
  NIGHT_BELL_STORAGE: Joi.string(),
  NIGHT_BELL_STORAGE_LEAST_FREE: Joi.number().integer().min(0).default(500),
  NODE_ENV: Joi.string(),
})
  .and('NIGHT_BELL_TLS_CERTIFICATE', 'NIGHT_BELL_TLS_KEY')
  .and('NIGHT_BELL_NUMBER_SHOP', 'NIGHT_BELL_NUMBER_SHOP_KEY')
  .and(
    'NIGHT_BELL_DEMO',
    'NIGHT_BELL_HARBOUR_BOOK',
    'NIGHT_BELL_HARBOUR_BOOK_KEY',
    'NIGHT_BELL_SAILING_BOT',
    'NIGHT_BELL_SAILING_BOT_KEY',
  )
  .options({ stripUnknown: true, abortEarly: false, errors: { wrap: { label: false } } });

const lists = ['NIGHT_BELL_TRUSTED_PROXIES', 'NIGHT_BELL_ALLOWED_ADDRESSES'];

/** Reads the environment. Throws BrokenInstallation with a sentence for everything that is not right in it. */
export function readSettings(given: Record<string, string | undefined>): Settings {
  const listed = Object.fromEntries(
    lists.flatMap((name) =>
      given[name] === undefined
        ? []
        : [[name, given[name].split(',').flatMap((each) => (each.trim() === '' ? [] : [each.trim()]))]],
    ),
  );
  const { error, value } = environment.validate({ ...given, ...listed });
  if (error !== undefined)
    throw new BrokenInstallation(
      `The settings of this server are not right. ${error.details.map((each) => `${each.message}.`).join(' ')} npm start and npm run demo set them by themselves; docs/operating.md lists them.`,
    );
  const set = value as Record<string, string | undefined> & Record<(typeof lists)[number], string[]>;
  return {
    database: set.NIGHT_BELL_DATABASE!,
    keyFile: set.NIGHT_BELL_KEY!,
    gatewayKey: set.NIGHT_BELL_GATEWAY_KEY!,
    listen: { host: set.NIGHT_BELL_HOST!, port: Number(set.NIGHT_BELL_PORT) },
    tls:
      set.NIGHT_BELL_TLS_CERTIFICATE === undefined
        ? null
        : { cert: read(set.NIGHT_BELL_TLS_CERTIFICATE), key: read(set.NIGHT_BELL_TLS_KEY!) },
    trustedProxies: set.NIGHT_BELL_TRUSTED_PROXIES as unknown as string[],
    allowedAddresses: set.NIGHT_BELL_ALLOWED_ADDRESSES as unknown as string[],
    webFolder: set.NIGHT_BELL_WEB ?? null,
    backups: set.NIGHT_BELL_BACKUPS ?? null,
    logLevel: set.NIGHT_BELL_LOG!,
    metricsKey: set.NIGHT_BELL_METRICS_KEY ?? null,
    demo:
      set.NIGHT_BELL_DEMO === undefined
        ? null
        : {
            folder: set.NIGHT_BELL_DEMO,
            harbourBook: { address: set.NIGHT_BELL_HARBOUR_BOOK!, key: set.NIGHT_BELL_HARBOUR_BOOK_KEY! },
            sailingBot: { address: set.NIGHT_BELL_SAILING_BOT!, key: set.NIGHT_BELL_SAILING_BOT_KEY! },
          },
    shop:
      set.NIGHT_BELL_NUMBER_SHOP === undefined
        ? null
        : { address: set.NIGHT_BELL_NUMBER_SHOP, key: set.NIGHT_BELL_NUMBER_SHOP_KEY! },
    mail:
      set.NIGHT_BELL_MAIL === undefined
        ? null
        : { address: set.NIGHT_BELL_MAIL, from: set.NIGHT_BELL_MAIL_FROM! },
    storage:
      set.NIGHT_BELL_STORAGE === undefined
        ? null
        : { folder: set.NIGHT_BELL_STORAGE, leastFree: Number(set.NIGHT_BELL_STORAGE_LEAST_FREE) },
    production: set.NODE_ENV === 'production',
  };
}

function read(file: string): Buffer {
  try {
    return readFileSync(file);
  } catch {
    throw new BrokenInstallation(
      `The file ${file} cannot be read. Check that it is there, and who may read it.`,
    );
  }
}
