import { expect, test } from 'vitest';
import { isPage, pagePaths } from './page-paths.ts';

test.each(['/', '/people', '/people/0198', '/calls/0198/', '/campaigns/0198', '/set-aside'])(
  '%s is a page',
  (path) => expect(isPage(path)).toBe(true),
);

test.each(['/peoples', '/people/a/b', '/wp-login', '/.env', '/set-aside/1', '/api/people', '//'])(
  '%s is none',
  (path) => expect(isPage(path)).toBe(false),
);

test('every path stands once', () => expect(new Set(pagePaths).size).toBe(pagePaths.length));
