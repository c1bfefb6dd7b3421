import { z } from 'zod';
import { ok, type Result } from '../problems/problems.ts';
import { writeSmf } from '../smf/write.ts';
import { bridgedSong } from '../song/bridged-song.ts';
import { sentSong } from '../song/lanes.ts';
import type { Song } from '../song/song.ts';
import { accountFor, type Account } from './account.ts';
import { layOut } from './layout.ts';
import { gradualNotes, keptMarks, parkedNotes } from './notes.ts';
import { proveFile, type Proof } from './proof.ts';
import { withSentTimecode } from './sent-timecode.ts';

export const handoffSettings = z
  .strictObject({
    format: z
      .union([z.literal('as-received'), z.literal(0), z.literal(1)])
      .default('as-received')
      .meta({ title: 'Format' }),
    runningStatus: z.boolean().default(true).meta({
      title: 'Running status',
      description: 'Leave out repeated status bytes in tracks that are written anew.',
    }),
    chunks: z.boolean().default(true).meta({
      title: 'Other chunks',
      description:
        'Send chunks of other kinds along: last, where a format is asked for; in their places as received.',
    }),
  })
  .meta({ title: 'Handoff' });

export type HandoffSettings = z.infer<typeof handoffSettings>;

export interface Handoff {
  readonly bytes: Uint8Array;
  readonly format: 0 | 1;
  readonly ending: 'mid' | 'rmi';
  readonly account: Account;
  readonly proof: Proof;
  /** What the format cannot say, and how it was written instead. */
  readonly notes: readonly string[];
}

/** The song before anybody touched it. */
export interface Before {
  /** As it came in: what the account holds the song against. Split by channel where that was done at intake. */
  readonly received: Song;
  /** As its file was read: one track where the file had one. */
  readonly asRead: Song;
}

/**
 * Makes the file of a handoff and reads it back.
 * Deterministic: the same song and settings give the same bytes.
 */
export function makeHandoff(
  whole: Song,
  before: Before,
  settings: HandoffSettings,
): Result<Handoff> {
  const { song: sent, notes: timecodeNotes } = withSentTimecode(sentSong(whole));
  const held = bridgedSong(sent);
  if (!held.ok) return held;
  const { song } = held.value;
  const { smf, notes } = layOut(song, before.asRead, settings);
  const bytes = writeSmf(smf, { runningStatus: settings.runningStatus });
  return ok({
    bytes,
    format: smf.format === 0 ? 0 : 1,
    ending: smf.wrapper ? 'rmi' : 'mid',
    account: accountFor(before.received, song),
    proof: proveFile(bytes, smf),
    notes: [
      ...notes,
      ...timecodeNotes,
      ...gradualNotes(song),
      ...parkedNotes(whole),
      ...keptMarks(whole),
    ],
  });
}
