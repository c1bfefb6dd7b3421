import { statfs } from 'node:fs/promises';
import type { RequestHandler } from 'express';
import { DatabaseError } from 'sequelize';
import type { Config } from './config.ts';
import { Refusal } from './refusal.ts';

/** Errors of a full disk: the file system's, and PostgreSQL's (SQLSTATE 53100, disk full). */
export function isNoRoom(error: unknown): boolean {
  const cause = error instanceof DatabaseError ? error.parent : error;
  const code = cause instanceof Error && 'code' in cause ? String(cause.code) : '';
  return /^(ENOSPC|EDQUOT|53100)$/.test(code);
}

/**
 * Whether what is kept has room for so many bytes more, with some to spare: a database whose disk is full
 * to the last byte stops.
 */
export async function hasRoom(
  { dataFolder, databaseFolder, leastRoomBytes }: Config,
  bytes = 0,
): Promise<boolean> {
  const free = await Promise.all(
    [...new Set([dataFolder, databaseFolder])].map(async (folder) => {
      try {
        const { bavail, bsize } = await statfs(folder);
        return bavail * bsize;
      } catch {
        return Infinity;
      }
    }),
  );
  return Math.min(...free) >= leastRoomBytes + bytes;
}

/** What arrives is put aside, kept whole and kept as events. */
const timesKept = 3;
/** A sound bank is moved to where it is kept. */
const banks = '/banks';

/** Refuses what would write where there is no room for it, before anything is begun. Reading goes on. */
export function needRoom(config: Config): RequestHandler {
  return async (request, _response, next) => {
    const writes = request.method !== 'GET' && request.method !== 'HEAD';
    const bytes = Number(request.headers['content-length'] ?? 0) || 0;
    if (writes && !(await hasRoom(config, bytes * (request.path === banks ? 1 : timesKept))))
      throw new Refusal({ code: 'no-room', where: {} });
    next();
  };
}
