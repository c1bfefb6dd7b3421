import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';
import { paperHtml } from '#core/handoff/paper-html.ts';
import type { LinkView } from '#contracts/handoffs.ts';
import type { Handlers } from '../answering.ts';
import type { LinkRecord } from '../db/models.ts';
import { filesZip } from '../handoff-zip.ts';
import { linkPage, noLinkPage } from '../link-page.ts';
import { Refusal } from '../refusal.ts';
import { satchelZip } from '../satchel-zip.ts';
import { sendFile } from '../send-file.ts';
import type { Services } from '../services.ts';
import { filesOf } from '../store/handoff-store.ts';
import { paperOf, zipName } from '../handoff-paper.ts';

type LinkHandlers = Pick<
  Handlers,
  'addLink' | 'listLinks' | 'revokeLink' | 'openLink' | 'getLinkFile'
>;

const view = ({ id, createdAt, expiresAt, revokedAt, downloads }: LinkRecord): LinkView => ({
  id,
  at: createdAt.toISOString(),
  expiresAt: expiresAt.toISOString(),
  revoked: revokedAt !== null,
  downloads,
});

const loopback: ReadonlySet<string> = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Nothing of a page behind a link is fetched, run, framed, kept, or told to others. */
function asPage(response: Response, html: string): 'file' {
  response.setHeader(
    'Content-Security-Policy',
    "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'",
  );
  response.setHeader('Referrer-Policy', 'no-referrer');
  response.setHeader('Cache-Control', 'no-store');
  response.setHeader('X-Robots-Tag', 'noindex');
  response.type('text/html').send(html);
  return 'file';
}

/** Links to one handoff each, for somebody without the song. */
export function linkHandlers(services: Services): LinkHandlers {
  const { config, handoffs, links } = services;
  /** The server listens on the loopback interface, and nobody has named another host that leads to it. */
  const local = config.hosts.every((h) => loopback.has(h));

  return {
    async addLink({ params, body: { days } }) {
      const handoff = await handoffs.find(params.id);
      const { link, secret } = await links.add(handoff, days);
      return { ...view(link), path: `/l/${secret}`, local };
    },

    async listLinks({ params }) {
      const { id } = await handoffs.find(params.id);
      return { links: (await links.list(id)).map(view) };
    },

    async revokeLink({ params }) {
      await links.revoke(params.id, params.link);
    },

    async openLink({ params: { secret }, request, response }) {
      const link = await links.open(secret).catch((error: unknown) => {
        // Who opens it in a browser is told so as a page.
        if (!(error instanceof Refusal) || request.accepts(['json', 'html']) !== 'html')
          throw error;
        response.status(404);
        return undefined;
      });
      if (!link) return asPage(response, noLinkPage());
      const handoff = await handoffs.find(link.handoffId);
      return asPage(response, linkPage(handoff, secret, link.expiresAt));
    },

    async getLinkFile({ params: { secret, name }, response }) {
      const link = await links.open(secret);
      const handoff = await handoffs.find(link.handoffId);
      if (name === 'slip.html') return asPage(response, paperHtml(paperOf(handoff)));
      const files = filesOf(handoff);
      const file = files.find((f) => f.name === name);
      response.setHeader('Referrer-Policy', 'no-referrer');
      if (name !== 'files.zip' && name !== 'satchel.zip' && !file)
        throw new Refusal({ code: 'link-unknown', where: {} });
      await links.countDownload(link);
      if (file) return sendFile(response, name, await handoffs.bytes(file), { kept: 'now' });
      response
        .type('application/zip')
        .attachment(
          name === 'files.zip'
            ? zipName(handoff.slip.song)
            : `${zipName(handoff.slip.song).slice(0, -4)} satchel.zip`,
        );
      await pipeline(
        name === 'files.zip'
          ? filesZip(files, handoff.createdAt, (n) => handoffs.bytes(files[n]!))
          : // Who has only the link gets no history of the song.
            await satchelZip(services, handoff, false),
        response,
      );
      return 'file';
    },
  };
}
