import { type Codec, codecWords } from '@night-bell/core/phones/catalogue';
import type { Trunk } from '../../api/client.ts';

export type TrunkDraft = Pick<
  Trunk,
  | 'name'
  | 'host'
  | 'port'
  | 'transport'
  | 'account'
  | 'registers'
  | 'channels'
  | 'codecs'
  | 'behindRouter'
  | 'numberId'
  | 'prices'
> & { secret?: string };

export function draftOf(trunk: Trunk | null): TrunkDraft {
  if (trunk === null)
    return {
      name: '',
      host: 'provider.example',
      port: 5060,
      transport: 'udp',
      account: '',
      registers: false,
      channels: 30,
      codecs: [],
      behindRouter: false,
      numberId: null,
      prices: [],
    };
  const { name, host, port, transport, account, registers, channels } = trunk;
  const { codecs, behindRouter, numberId, prices } = trunk;
  const draft = {
    ...{ name, host, port, transport, account, registers, channels },
    ...{ codecs, behindRouter, numberId, prices },
  };
  return JSON.parse(JSON.stringify(draft)) as TrunkDraft;
}

export const trunkWords: Record<string, string> = {
  name: 'Name',
  host: 'Provider',
  port: 'Port',
  transport: 'Transport',
  account: 'Account',
  registers: 'Registers',
  channels: 'Channels',
  codecs: 'Codecs',
  behindRouter: 'Behind a router',
  numberId: 'Caller ID',
  prices: 'Prices',
};

export function showTrunk(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'codecs') return (value as Codec[]).map((codec) => codecWords[codec]).join(', ') || 'any';
    if (field === 'numberId') return value === null ? 'as the call has it' : nameOf(value as string);
    if (field === 'prices') {
      const prices = value as Trunk['prices'];
      return prices.length === 0
        ? 'none'
        : prices.map(({ prefix, perMinute }) => `${prefix || 'others'} ${perMinute}`).join(', ');
    }
    if (field === 'transport') return String(value).toUpperCase();
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return String(value);
  };
}

export const trunkStateWords = {
  open: 'Open',
  registered: 'Registered',
  unregistered: 'Unregistered',
  refused: 'Refused',
} as const;
