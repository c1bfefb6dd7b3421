import { escapedHtml } from '#core/handoff/paper-html.ts';
import type { HandoffRecord } from './db/models.ts';
import { filesOf } from './store/handoff-store.ts';

const size = (bytes: number): string =>
  bytes < 1024
    ? `${bytes} bytes`
    : bytes < 1_048_576
      ? `${(bytes / 1024).toFixed(1)} kB`
      : `${(bytes / 1_048_576).toFixed(1)} MB`;

/** What somebody sees who opens a link: which files there are, how to get them, and until when. */
export function linkPage(handoff: HandoffRecord, secret: string, expires: Date): string {
  const files = filesOf(handoff);
  const to = (name: string): string => `/l/${secret}/${encodeURIComponent(name)}`;
  const title = escapedHtml(handoff.slip.song);
  const rows = files
    .map(
      (f) =>
        `<li><a href="${escapedHtml(to(f.name))}" download>${escapedHtml(f.name)}</a> <span>${size(f.bytes)}</span></li>`,
    )
    .join('\n');
  return page(
    title,
    `<h1>${title}</h1>
<p>${files.length === 1 ? 'One file' : `${files.length} files`}, good until ${expires.toISOString().slice(0, 16).replace('T', ' ')} UTC.</p>
<nav aria-label="All at once">${files.length > 1 ? `<a href="${to('files.zip')}">All files as a zip</a>` : ''}<a href="${to('satchel.zip')}">Satchel: files, map, click, slip</a><a href="${to('slip.html')}">Slip</a></nav>
<ul>
${rows}
</ul>`,
  );
}

/** What somebody sees whose link is no longer good, or never was. */
export const noLinkPage = (): string =>
  page(
    'This link leads nowhere',
    `<h1>This link leads nowhere</h1>
<p>It was revoked, has expired, or is not whole. Ask whoever sent it for a new one.</p>`,
  );

const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title>
<style>
body{font:16px/1.5 system-ui,sans-serif;max-width:44rem;margin:3rem auto;padding:0 1.2rem;color:#2b2620;background:#faf7f0}
h1{font-size:1.5rem;margin:0 0 .2rem}p{margin:.3rem 0;color:#6b6257}ul{list-style:none;padding:0;border-top:1px solid #ddd4c4}
li{display:flex;justify-content:space-between;gap:1rem;padding:.5rem 0;border-bottom:1px solid #ddd4c4;overflow-wrap:anywhere}
a{color:#8a5a00}span{color:#6b6257;white-space:nowrap}nav a{display:inline-block;margin-right:1.2rem}
@media (prefers-color-scheme:dark){body{color:#ece5d8;background:#221e19}p,span{color:#b3a897}a{color:#e8b04a}ul,li{border-color:#453d33}}
</style></head><body><main>
${body}
</main></body></html>`;
