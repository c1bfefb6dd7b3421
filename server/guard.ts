import type { RequestHandler } from 'express';
import { Refusal } from './refusal.ts';

/**
 * Only requests that name this server, from this server's own page: a foreign site open in the same browser
 * cannot reach it, neither directly (Origin) nor by renaming itself (Host).
 */
export function guard(hosts: readonly string[]): RequestHandler {
  const known = new Set(hosts.map((h) => h.toLowerCase()));
  return (request, _response, next) => {
    const host = request.headers.host ?? '';
    if (!known.has(hostName(host)))
      throw new Refusal({
        code: 'host-foreign',
        where: { field: 'Host' },
        found: host.slice(0, 200) || 'none',
      });
    const { origin } = request.headers;
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) {
      throw new Refusal({
        code: 'origin-foreign',
        where: { field: 'Origin' },
        found: origin.slice(0, 200),
      });
    }
    next();
  };
}

const hostName = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');
