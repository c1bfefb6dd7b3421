import type { Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import type { Config } from './config.ts';
import { sweepIncoming } from './incoming.ts';
import { purge } from './store/keeping.ts';

/** Purges now and then in the background. Gives how to stop: what is being purged is finished. */
export function purgeNowAndThen(
  sequelize: Sequelize,
  config: Config,
  logger: Logger,
): () => Promise<void> {
  const { keepRemovedDays, purgeEveryMs } = config;
  let running: Promise<void> = Promise.resolve();
  let busy = false;
  const run = async (): Promise<void> => {
    try {
      await sweepIncoming(config, Date.now());
      const songs = await purge(sequelize, keepRemovedDays, new Date());
      if (songs > 0) logger.info({ songs }, 'removed songs were purged');
    } catch (error) {
      // It is tried again the next time; nothing waits for it.
      logger.warn({ err: error }, 'purging failed');
    } finally {
      busy = false;
    }
  };
  const begin = (): void => {
    if (busy) return;
    busy = true;
    running = run();
  };
  begin();
  const timer = setInterval(begin, Math.max(100, purgeEveryMs));
  timer.unref();
  return () => {
    clearInterval(timer);
    return running;
  };
}
