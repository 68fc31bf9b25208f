import type {
  ScriptKeyDraft,
  ScriptKeysContract,
  ScriptKeyView,
} from '@night-bell/core/contracts/script-keys';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';
import { roleWords } from '../../kit/words.ts';

export const scriptKeyApi = itemApi<ScriptKeysContract>('scriptKey', '/api/script-keys');

export const scriptKeyArea: ItemArea<ScriptKeyDraft, ScriptKeyView> = {
  api: scriptKeyApi,
  page: '/script-keys',
  savedAs: 'scriptKeys',
  title: 'API keys',
  one: 'key',
  second: 'For scripts that use the API',
  fresh: () => ({ name: '', role: 'auditor', areas: [] }),
  draftOf: ({ name, role, areas }) => ({ name, role, areas }),
  words: { name: 'Name', role: 'May do what', areas: 'Kept to' },
  show: (field, value) => {
    if (field === 'role') return roleWords[value as ScriptKeyDraft['role']];
    if (field === 'areas') return (value as string[]).join(', ') || 'everything';
    return showPlain(value);
  },
  unused: 'Nothing refers to it.',
};
