/**
 * The pages of the web client, by path; a part that begins with a colon is an id, with a question mark it may be left
 * out. The server answers these with the client, and every other path outside the API with 404.
 */
export const pagePaths = [
  '/',
  '/people/:id?',
  '/answering/:id?',
  '/regions/:id?',
  '/bots/:id?',
  '/hours/:id?',
  '/prompts/:id?',
  '/queues/:id?',
  '/queues/:id/compare',
  '/ring-groups/:id?',
  '/numbers/:id?',
  '/trunks/:id?',
  '/dialling/:id?',
  '/destinations/:id?',
  '/voicemail/:id?',
  '/records/:id?',
  '/sources/:id?',
  '/campaigns',
  '/campaigns/:id',
  '/opt-outs',
  '/blocked/:id?',
  '/codes/:id?',
  '/script-keys/:id?',
  '/floor',
  '/desk',
  '/calls',
  '/calls/:id',
  '/surveys',
  '/set-aside',
  '/stand-ins',
  '/changes',
  '/enrol',
] as const;

export type PagePath = (typeof pagePaths)[number];

const patterns = pagePaths.map(
  (path) =>
    new RegExp(
      `^${path
        .replace(/^\/$/, '')
        .replace(/\/:\w+\?/g, '(/[^/]+)?')
        .replace(/:\w+/g, '[^/]+')}/?$`,
    ),
);

/** Whether the web client has a page at this path (without query). */
export function isPage(path: string): boolean {
  return patterns.some((pattern) => pattern.test(path));
}
