import type { Server, ServerResponse } from 'node:http';

/**
 * How a server stops: it takes nothing new, finishes and answers what it has taken, and keeps no connection for more.
 * Call it before the first request; what it gives, when the time has come.
 */
export function draining(server: Server): () => Promise<void> {
  const answering = new Set<ServerResponse>();
  let closing = false;
  const last = (response: ServerResponse): void => {
    if (!response.headersSent) response.setHeader('Connection', 'close');
  };
  server.on('request', (_request, response) => {
    answering.add(response);
    response.once('close', () => answering.delete(response));
    if (closing) last(response);
  });
  return () => {
    closing = true;
    for (const response of answering) last(response);
    return new Promise((resolve) => {
      // Connections whose last answer had gone out already are idle a moment later.
      const idle = setInterval(() => server.closeIdleConnections(), 100);
      server.close(() => {
        clearInterval(idle);
        resolve();
      });
    });
  };
}
