import type { CodeDraft, CodesContract, CodeView } from '@night-bell/core/contracts/codes';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const codeApi = itemApi<CodesContract>('code', '/api/service-codes');

export const doesWords: Record<CodeDraft['does'], string> = {
  storm: 'Storm day: closes sets of hours',
  voicemail: 'Voicemail: opens the box of whoever dials, by its PIN',
  takePart: 'Ring groups: whoever dials sits out, or takes part again',
};

export const codeArea: ItemArea<CodeDraft, CodeView> = {
  api: codeApi,
  page: '/codes',
  savedAs: 'codes',
  title: 'Service codes',
  one: 'code',
  second: 'Dialled on our own phones',
  fresh: () => ({
    name: '',
    digits: '*86',
    does: 'storm',
    hoursIds: [],
    forHours: 6,
    teamIds: [],
    groupIds: [],
  }),
  draftOf: ({ name, digits, does, hoursIds, forHours, teamIds, groupIds }) => ({
    ...{ name, digits, does, hoursIds, forHours, teamIds, groupIds },
  }),
  words: {
    ...{ name: 'Name', digits: 'Code', does: 'Does', hoursIds: 'Closes', forHours: 'For' },
    ...{ teamIds: 'May use it', groupIds: 'Groups' },
  },
  show: (field, value) => {
    if (field === 'forHours') return value === 1 ? '1 hour' : `${String(value)} hours`;
    if (Array.isArray(value)) return value.length === 1 ? '1' : String(value.length);
    return showPlain(value);
  },
  unused: 'Nothing refers to it.',
};
