/** Text as it may stand between tags and in quoted attributes. */
export function escapeHtml(text: string): string {
  return text.replace(/[&<>"']/g, (character) => `&#${character.charCodeAt(0)};`);
}

const style =
  'body{font:14px/1.5 sans-serif;margin:2rem auto;max-width:70rem;padding:0 1rem;color:#17232b;background:#f3f6ee}table{border-collapse:collapse;width:100%}td,th{text-align:left;padding:4px 8px;border-bottom:1px solid #d3dccf;vertical-align:top}code{font-size:13px}h2{margin-top:2rem}a{color:#8a5e17}';

/** A page of the server's own: no script, nothing loaded. `body` is HTML. */
export function plainPage(title: string, body: string, nonce: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeHtml(title)}</title><style nonce="${nonce}">${style}</style></head><body>${body}</body></html>`;
}
