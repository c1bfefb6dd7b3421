/** Types of postgres.mjs, for the tests. */
export interface Cluster {
  url(database: string): string;
  readonly dataFolder: string;
  readonly programs: string;
  pid(): number;
  alive(): boolean;
  create(database: string): string;
  stop(): unknown;
}
export function startCluster(folder: string): Promise<Cluster>;
export function freePort(): Promise<number>;
export function isFree(port: number): Promise<boolean>;
