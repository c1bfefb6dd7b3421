import { createHash } from 'node:crypto';
import type { Ports } from '#core/work/ports.ts';

/** Ports for work in tests: everything that was decoded is kept. */
export const testPorts = (): Ports => ({
  sha256: (bytes) => createHash('sha256').update(bytes).digest('hex'),
  decoded: new Map(),
  looks: new Map(),
  opened: new Map(),
});
