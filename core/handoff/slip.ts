import { channelNumber } from '../units/units.ts';
import { divisionText } from '../smf/division.ts';
import type { Song } from '../song/song.ts';
import type { Handoff } from './handoff.ts';
import type { TrackAccount } from './account.ts';

/** The paper that goes with a handoff, as data; `slipText` is the same on paper. */
export interface Slip {
  readonly song: string;
  readonly file: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly format: 0 | 1;
  readonly division: string;
  readonly tracks: Handoff['account']['tracks'];
  readonly removed: Handoff['account']['removed'];
  readonly reordered: boolean;
  readonly notes: readonly string[];
  readonly proof: Handoff['proof'];
  /** The file is byte for byte the one received. */
  readonly sameAsOriginal: boolean;
}

export function makeSlip(
  song: Song,
  handoff: Handoff,
  file: { name: string; sha256: string; sameAsOriginal: boolean },
): Slip {
  return {
    song: song.title,
    file: file.name,
    bytes: handoff.bytes.length,
    sha256: file.sha256,
    format: handoff.format,
    division: divisionText(song.division),
    tracks: handoff.account.tracks,
    removed: handoff.account.removed,
    reordered: handoff.account.reordered,
    notes: handoff.notes,
    proof: handoff.proof,
    sameAsOriginal: file.sameAsOriginal,
  };
}

/** Kinds of event that are called otherwise in a sentence. */
const called: Readonly<Record<string, readonly [one: string, many: string]>> = {
  'system exclusive': ['system exclusive message', 'system exclusive messages'],
  pressure: ['pressure value', 'pressure values'],
  other: ['other event', 'other events'],
};

const kindText = (kind: string, n: number): string =>
  `${n.toLocaleString('en')} ${n === 1 ? (called[kind]?.[0] ?? kind) : (called[kind]?.[1] ?? `${kind}s`)}`;

/** What came and went, kind by kind: as many of a kind as did both were changed. */
function differenceText({ added, removed }: Pick<TrackAccount, 'added' | 'removed'>): string {
  const kinds = [...new Set([...Object.keys(removed), ...Object.keys(added)])];
  const told = kinds.flatMap((kind) => {
    const [came, went] = [added[kind] ?? 0, removed[kind] ?? 0];
    const both = Math.min(came, went);
    return [
      both > 0 && `${kindText(kind, both)} changed`,
      went > both && `${kindText(kind, went - both)} taken out`,
      came > both && `${kindText(kind, came - both)} put in`,
    ].filter(Boolean);
  });
  return told.join(', ') || 'the order on a tick';
}

const count = (n: number, what: string): string =>
  `${n.toLocaleString('en')} ${what}${n === 1 ? '' : 's'}`;

/** What became of a track, in words; in a file that is the received one, nothing did. */
export function stateText(track: TrackAccount, sameAsOriginal = false): string {
  if (sameAsOriginal) return 'as received';
  if (track.state === 'same bytes') return 'the very bytes received';
  if (track.state === 'same events') return 'the same events, written anew';
  if (track.state === 'new') return 'new';
  return `changed: ${differenceText(track)}`;
}

export function slipText(slip: Slip): string {
  const channels = (t: TrackAccount): string =>
    t.channels.length > 0 ? `ch ${t.channels.map(channelNumber).join(', ')}` : 'no channel';
  return [
    `Slip for ${slip.file}`,
    '',
    `Song      ${slip.song}`,
    `File      ${slip.file}, ${slip.bytes.toLocaleString('en')} bytes`,
    `SHA-256   ${slip.sha256}`,
    `Format    ${slip.format}, ${slip.division}`,
    slip.sameAsOriginal ? 'The file is byte for byte the one received.' : '',
    '',
    'Tracks',
    ...slip.tracks.map(
      (t, i) =>
        `  ${String(i + 1).padStart(3)}  ${t.name} (${channels(t)}): ${count(t.notes, 'note')}, ${count(t.events, 'event')}; ${stateText(t, slip.sameAsOriginal)}`,
    ),
    ...(slip.reordered ? ['  The order of the tracks was changed.'] : []),
    '',
    'Left out',
    ...(slip.removed.length === 0
      ? ['  nothing']
      : slip.removed.map((t) => `  ${t.name}, ${t.events} events, removed`)),
    ...slip.notes.map((note) => `  ${note}`),
    '',
    'Proof',
    slip.proof.holds
      ? `  The file was read back: ${slip.proof.tracks} tracks, ${slip.proof.events} events, each the one meant, at its tick and in its order.`
      : `  THE FILE DOES NOT READ BACK AS MEANT: ${slip.proof.differences.join('; ')}`,
    '',
  ].join('\n');
}
