import { readSmf } from '#core/smf/read.ts';
import { notesOf } from '#core/song/notes.ts';
import { dice } from '#demo/theory.ts';
import { damages, noteText, placedNotes, untouched } from './damage.ts';

/** Of the notes that no damage touched: how many there were, and how many salvage keeps at their place. */
export interface Share {
  notes: number;
  kept: number;
  files: number;
  /** Files that were refused whole. */
  refused: number;
  /** The same, of damage that leaves a trace: a time that is changed into another, say, no reader can see. */
  seen: { notes: number; kept: number };
}

/** Damages every file `times` times in each of ten ways, and counts what salvage keeps. */
export function salvageShare(
  files: readonly Uint8Array[],
  times: number,
  seed: number,
  bad?: (kind: string, file: number, damaged: Uint8Array, lost: number, from: number) => void,
): Record<string, Share> {
  const chance = dice(seed);
  const shares: Record<string, Share> = {};
  for (const [kind, damage] of Object.entries(damages)) {
    const share: Share = { notes: 0, kept: 0, files: 0, refused: 0, seen: { notes: 0, kept: 0 } };
    shares[kind] = share;
    files.forEach((file, n) => {
      const notes = placedNotes(file);
      const asItWas = salvaged(file)?.told;
      for (let time = 0; time < times; time++) {
        const damaged = damage(file, chance);
        const wanted = untouched(notes, damaged);
        const found = salvaged(damaged.bytes);
        share.files++;
        share.notes += wanted.length;
        if (!found) share.refused++;
        const kept = found ? wanted.filter((text) => take(found.notes, text)).length : 0;
        share.kept += kept;
        if (!found || found.told !== asItWas) {
          share.seen.notes += wanted.length;
          share.seen.kept += kept;
        }
        if (kept < wanted.length) bad?.(kind, n, damaged.bytes, wanted.length - kept, damaged.from);
      }
    });
  }
  return shares;
}

/** The notes that are read, and what is told of the file. */
function salvaged(bytes: Uint8Array): { notes: Map<string, number>; told: string } | undefined {
  const reading = readSmf(bytes);
  if (!reading.ok) return undefined;
  const found = new Map<string, number>();
  for (const { events } of reading.value.smf.tracks) {
    const { count, on, off } = notesOf(events);
    for (let n = 0; n < count; n++) {
      if (off[n] === -1) continue;
      const [a, b] = [on[n]!, off[n]!];
      const text = noteText(
        events.status[a]! & 15,
        events.data1[a]!,
        events.atTick[a]!,
        events.atTick[b]!,
        events.data2[a]!,
      );
      found.set(text, (found.get(text) ?? 0) + 1);
    }
  }
  return { notes: found, told: JSON.stringify(reading.value.problems) };
}

function take(found: Map<string, number>, text: string): boolean {
  const left = found.get(text) ?? 0;
  if (left > 0) found.set(text, left - 1);
  return left > 0;
}

export const shareText = ({ notes, kept }: { notes: number; kept: number }): string =>
  `${((100 * kept) / Math.max(1, notes)).toFixed(2)} %`;
