import { type Codec, codecWords, deviceModel } from '@night-bell/core/phones/catalogue';
import type { LineKey } from '@night-bell/core/phones/line-keys';
import type { Misbehaviour } from '@night-bell/core/devices/protocol';
import { addressWords, type EmergencyAddress } from '@night-bell/core/model/emergency-address';
import { formatNumber } from '@night-bell/core/numbers/format';
import type { Phone } from '../../api/client.ts';

/** What a phone is called beside its person. */
export function phoneTitle(phone: Phone): string {
  if (phone.model !== null) return deviceModel(phone.model)!.name;
  return phone.kind === 'outside' ? `Outside number ${formatNumber(phone.e164 ?? '')}` : 'Their own page';
}

export const registrationWords = {
  registered: 'Registered',
  unregistered: 'Unregistered',
  refused: 'Refused',
} as const;

export const misbehaviourWords: Record<Misbehaviour, string> = {
  wrongSecret: 'uses a wrong secret',
  wrongTransport: 'uses another transport',
  wrongServer: 'asks another server',
  unknownAccount: 'gives an unknown account',
  tooBrief: 'registers too briefly',
  silent: 'falls silent',
  oddCodecs: 'offers other codecs',
  behindRouter: 'stands behind a router',
  moving: 'changes its address',
};

export const phoneWords: Record<string, string> = {
  model: 'Model',
  transport: 'Transport',
  codecs: 'Codecs',
  timeZone: 'Time zone',
  numberId: 'Caller ID',
  dialTrunkId: 'Dials out over',
  home: 'Behind a router',
  emergencyAddress: 'Emergency address',
  lineKeys: 'Line keys',
};

export function showPhone(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'codecs') {
      const list = value as Codec[];
      return list.length === 0 ? 'any' : list.map((codec) => codecWords[codec]).join(', ');
    }
    if (field === 'lineKeys') {
      const keys = value as LineKey[] | undefined;
      const named = (keys ?? []).map((key) => `${key.position} ${key.label || nameOf(key.personId)}`);
      return named.length === 0 ? 'none' : named.join(', ');
    }
    if (field === 'dialTrunkId') return value == null ? 'the trunks of the rules' : nameOf(value as string);
    if (value === null || value === undefined) return 'none';
    if (field === 'model') return deviceModel(value as string)?.name ?? '';
    if (field === 'transport') return String(value).toUpperCase();
    if (field === 'numberId') return nameOf(value as string);
    if (field === 'emergencyAddress') return addressWords(value as EmergencyAddress);
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return String(value);
  };
}

/** The set-up as a file for those who type it in: plain words, one a line. */
export function setUpFile(phone: Phone, secret: { account: string; registrationSecret: string }): string {
  return [
    '# Set-up of a phone, for entry by hand. Keep it as you would keep a key, and delete it afterwards.',
    `account: ${secret.account}`,
    'server: night-bell',
    `transport: ${phone.transport}`,
    `secret: ${secret.registrationSecret}`,
    'register every: 600 s',
    `codecs: ${phone.codecs.length === 0 ? 'any' : phone.codecs.join(', ')}`,
    ...(phone.timeZone === null ? [] : [`time zone: ${phone.timeZone}`]),
    ...(phone.home ? ['behind a router: yes, keep the connection open'] : []),
    '',
  ].join('\n');
}
