import { testCluster } from './server.ts';

/** One cluster for all test files; the test command stops it itself. */
export default async function setup(): Promise<() => void> {
  const cluster = await testCluster();
  return () => {
    if (!process.env.SATCHEL_KEEP_CLUSTER) cluster.stop();
  };
}
