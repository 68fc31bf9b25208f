import { type Codec, codecWords } from '@night-bell/core/phones/catalogue';
import type { TrunkDraft, TrunkView } from '@night-bell/core/contracts/trunks';
import { trunksApi } from '../../api/lists.ts';
import type { ItemArea } from '../../kit/item-area.ts';

export const trunkWords: ItemArea<TrunkDraft, TrunkView>['words'] = {
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
  secret: 'Secret',
};

function showTrunk(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'codecs') return (value as Codec[]).map((codec) => codecWords[codec]).join(', ') || 'any';
    if (field === 'numberId') return value === null ? 'as the call has it' : nameOf(value as string);
    if (field === 'prices') {
      const prices = value as TrunkDraft['prices'];
      return prices.length === 0
        ? 'none'
        : prices.map(({ prefix, perMinute }) => `${prefix || 'others'} ${perMinute}`).join(', ');
    }
    if (field === 'transport') return String(value).toUpperCase();
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return String(value);
  };
}

export const usualPort = { udp: 5060, tcp: 5060, tls: 5061 } as const;

/** Lines to providers; `nameOf` names the number that is shown. */
export const trunkArea = (nameOf: (id: string) => string): ItemArea<TrunkDraft, TrunkView> => ({
  api: trunksApi,
  page: '/trunks',
  savedAs: 'trunks',
  title: 'Trunks',
  one: 'trunk',
  second: 'A line to a provider, chosen by name',
  fresh: () => ({
    ...{ name: '', host: 'provider.example', port: usualPort.udp, transport: 'udp', account: '' },
    ...{ registers: false, channels: 30, codecs: [], behindRouter: false, numberId: null, prices: [] },
  }),
  draftOf: ({ name, host, port, transport, account, registers, channels, ...rest }) => ({
    ...{ name, host, port, transport, account, registers, channels },
    ...{ codecs: rest.codecs, behindRouter: rest.behindRouter, numberId: rest.numberId, prices: rest.prices },
  }),
  words: trunkWords,
  show: showTrunk(nameOf),
  first: 'Trunk',
  tabs: [{ key: 'line', title: 'Line and trial' }],
  unused: 'No campaign, rule or outside number goes over this trunk yet.',
  finds: ({ host, account }) => `${host} ${account}`,
});

export const trunkStateWords = {
  open: 'Open',
  registered: 'Registered',
  unregistered: 'Unregistered',
  refused: 'Refused',
} as const;
