import { Client } from 'pg';

/** Longest that a database which is there takes to say so. */
const probeMs = 800;
/** What was found holds for so long. */
const holdsMs = 500;

/** Asks the database whether it answers, on a connection of its own: those of requests may be stuck. */
export class DatabaseWatch {
  private readonly url: string;
  private probe: Promise<boolean> | undefined;

  constructor(url: string) {
    this.url = url;
  }

  /** Whether the database answers within a second or two. Who asks meanwhile shares the answer. */
  answers(): Promise<boolean> {
    this.probe ??= answersAt(this.url).finally(() => {
      setTimeout(() => (this.probe = undefined), holdsMs).unref();
    });
    return this.probe;
  }
}

async function answersAt(connectionString: string): Promise<boolean> {
  const client = new Client({
    connectionString,
    connectionTimeoutMillis: probeMs,
    query_timeout: probeMs,
  });
  // Told to who waits for the query; else to nobody.
  client.on('error', () => undefined);
  try {
    await client.connect();
    await client.query('SELECT 1');
    return true;
  } catch {
    return false;
  } finally {
    void client.end().catch(() => undefined);
  }
}
