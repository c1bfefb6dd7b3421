import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { makeApp } from './app.ts';
import { configFrom } from './config.ts';
import { connect, isConnectionLoss } from './db/connect.ts';
import { DatabaseWatch } from './db/watch.ts';
import { draining } from './draining.ts';
import { quietError } from './quiet-log.ts';
import { BlobStore } from './store/blob-store.ts';
import { purgeNowAndThen } from './purging.ts';
import { BankStore } from './store/bank-store.ts';
import { InstrumentStore } from './store/instrument-store.ts';
import { LinkStore } from './store/link-store.ts';
import { PreferenceStore } from './store/preference-store.ts';
import { ReceiverStore } from './store/receiver-store.ts';
import { RecipeStore } from './store/recipe-store.ts';
import { HandoffStore } from './store/handoff-store.ts';
import { FactStore } from './store/fact-store.ts';
import { ShelfStore } from './store/shelf-store.ts';
import { SongStore } from './store/song-store.ts';
import { SourceStore } from './store/source-store.ts';
import { SongViews } from './store/song-views.ts';
import { WorkPool } from './threads/pool.ts';

const config = configFrom(process.env);
const logger = pino({ level: config.logLevel, serializers: { err: quietError } });
const sequelize = await connect(config.databaseUrl);
const blobs = new BlobStore();
const workerFile = fileURLToPath(new URL('./worker.cjs', import.meta.url));
const pool = new WorkPool(workerFile, config.readTimeoutMs);
const songs = new SongStore(sequelize, blobs);
// The very code that works facts out names them: any change of it, and they are worked out anew.
const code = createHash('sha256').update(readFileSync(workerFile)).digest('hex').slice(0, 16);
const facts = new FactStore(sequelize, code, (error) =>
  logger.warn({ err: error }, 'facts not kept'),
);
const app = makeApp(
  {
    config,
    songs,
    facts,
    views: new SongViews(songs, facts, pool),
    sources: new SourceStore(sequelize, blobs, facts),
    handoffs: new HandoffStore(sequelize, blobs),
    preferences: new PreferenceStore(),
    receivers: new ReceiverStore(),
    links: new LinkStore(),
    recipes: new RecipeStore(),
    instruments: new InstrumentStore(),
    banks: new BankStore(config.dataFolder),
    shelf: new ShelfStore(sequelize),
    pool,
    watch: new DatabaseWatch(config.databaseUrl),
  },
  logger,
);
const server = createServer(app);
// Longer than clients keep a connection for the next request: else one may be closed just as it is used again.
server.keepAliveTimeout = 65_000;
server.headersTimeout = 66_000;

server.listen(config.port, config.host, () => {
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : config.port;
  // The start command waits for this line.
  console.log(`amber-satchel listening on http://${config.host}:${port}`);
});

// A connection that breaks while nobody waits on it is told here. The pool makes new ones; anything else is a defect.
process.on('uncaughtException', (error) => {
  logger.error({ err: error }, 'uncaught');
  if (!isConnectionLoss(error)) void close(1);
});

const stopPurging = purgeNowAndThen(sequelize, config, logger);
const drain = draining(server);
let closing = false;
/** What was taken is finished and answered; then everything is closed. */
async function close(code = 0): Promise<void> {
  if (closing) return;
  closing = true;
  await drain();
  await stopPurging();
  await pool.close();
  await facts.settled();
  await sequelize.close();
  process.exit(code);
}
// The start command holds the other end: when it is gone, however it went, so are we.
process.on('disconnect', () => void close());
process.on('SIGTERM', () => void close());
process.on('SIGINT', () => void close());
