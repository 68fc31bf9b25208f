import type { Knex } from 'knex';
import { type PromptDraft, prompts, type PromptView } from '@night-bell/core/contracts/prompts';
import { spokenSeconds } from '@night-bell/core/plan/spoken';
import { Problem } from '../../http/problems.ts';
import { defineItem, usesOf } from '../../spine/define-item.ts';
import type { Author } from '../../spine/items.ts';
import { publishItem } from '../../spine/publish.ts';

interface Row extends PromptDraft {
  id: string;
  version: number;
  retired: boolean;
  publishedWords: string | null;
  publishedAt: Date | null;
  uses: number;
}

export const promptItem = defineItem<typeof prompts.path, PromptDraft, PromptView, Row>({
  kind: 'prompt',
  contract: prompts,
  word: 'prompt',
  table: 'prompt',
  columns: { kind: { column: 'kind' }, language: { column: 'language' }, words: { column: 'words' } },
  more: { publishedWords: 't.published_words', publishedAt: 't.published_at', uses: usesOf },
  view: ({ publishedAt, ...row }) => ({
    ...row,
    publishedAt: publishedAt?.getTime() ?? null,
    seconds: spokenSeconds(row.publishedWords ?? ''),
  }),
  references: () => [],
});

/** From now on callers hear what is written. */
export async function publishPrompt(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const { words } = await promptItem.get(trx, id);
  if (words.trim() === '')
    throw Problem.field('/words', 'There are no words to be heard yet. Write them first.');
  await publishItem(trx, { kind: 'prompt', id, version, after: { words } }, author);
  await trx('prompt').where({ id }).update({ published_words: words, published_at: trx.fn.now() });
}
