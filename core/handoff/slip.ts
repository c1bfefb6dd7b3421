import { channelNumber } from '../units/units.ts';
import type { Song } from '../song/song.ts';
import type { Extent } from './extent.ts';
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
  /** How long it is; slips of earlier versions do not say. */
  readonly extent?: Extent;
  /** Copyright notices that it holds. */
  readonly copyright?: readonly string[];
  /** Where its originals are from, as somebody typed it; whoever keeps the slip adds them. */
  readonly sources?: readonly string[];
  readonly tracks: Handoff['account']['tracks'];
  readonly removed: Handoff['account']['removed'];
  readonly reordered: boolean;
  readonly notes: readonly string[];
  readonly proof: Handoff['proof'];
  /** The file is byte for byte the one received. */
  readonly sameAsOriginal: boolean;
}

export function makeSlip(
  song: Pick<Song, 'title'>,
  handoff: Handoff,
  file: { name: string; sha256: string; sameAsOriginal: boolean },
): Slip {
  return {
    song: song.title,
    file: file.name,
    bytes: handoff.bytes.length,
    sha256: file.sha256,
    format: handoff.format,
    division: handoff.division,
    extent: handoff.extent,
    ...(handoff.copyright.length > 0 ? { copyright: handoff.copyright } : {}),
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

export const count = (n: number, what: string): string =>
  `${n.toLocaleString('en')} ${what}${n === 1 ? '' : 's'}`;

/** What became of a track, in words; in a file that is the received one, nothing did. */
export function stateText(track: TrackAccount, sameAsOriginal = false): string {
  if (sameAsOriginal) return 'as received';
  if (track.state === 'same bytes') return 'the very bytes received';
  if (track.state === 'same events') return 'the same events, written anew';
  if (track.state === 'new') return 'new';
  if (track.state === 'part') return 'as in the song, as far as it leaves';
  return `changed: ${differenceText(track)}`;
}

/** `m:ss.mmm`. */
export function durationText(seconds: number): string {
  const ms = Math.round(seconds * 1000);
  const rest = String(ms % 60_000).padStart(5, '0');
  return `${Math.floor(ms / 60_000)}:${rest.slice(0, 2)}.${rest.slice(2)}`;
}

/** How long a file is: bars, time, and timecode where one is stated. */
export function extentText({ bars, seconds, timecode }: Extent): string {
  const times = timecode ? `, ${timecode.from} to ${timecode.to}` : '';
  return `${count(bars, 'bar')}, ${durationText(seconds)}${times}`;
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
    ...(slip.extent ? [`Length    ${extentText(slip.extent)}`] : []),
    ...(slip.copyright ?? []).map((notice) => `Copyright ${notice}`),
    ...(slip.sources ?? []).map((said) => `Source    ${said}`),
    slip.sameAsOriginal ? 'The file is byte for byte the one received.' : '',
    '',
    'Tracks',
    ...slip.tracks.map(
      (t, i) =>
        `  ${String(i + 1).padStart(3)}  ${t.name} (${channels(t)}): ${count(t.notes, 'note')}, ${count(t.events, 'event')}; ${stateText(t, slip.sameAsOriginal)}`,
    ),
    ...(slip.reordered ? ['  The order of the tracks was changed.'] : []),
    '',
    'Left out or changed',
    ...leftOutLines(slip),
    '',
    'Proof',
    `  ${proofText(slip)}`,
    ...proofCover.map((line) => `  ${line}`),
    '',
  ].join('\n');
}

function leftOutLines(slip: Slip): string[] {
  if (slip.removed.length === 0 && slip.notes.length === 0) return ['  nothing'];
  return [
    ...slip.removed.map((t) => `  ${t.name}, ${t.events} events, removed`),
    ...slip.notes.map((note) => `  ${note}`),
  ];
}

/** What the proof covers, and what it does not: see the gates of `proof/prove-file.ts`. */
export const proofCover = [
  'Checked against the song: every note, and the sound, controllers and bends it plays with.',
  'Checked too: all other messages, names, texts, markers, tempos, meters, keys, timecode, lengths and channels.',
  'Checked against the settings: which files there are, their names, what each holds, and its format.',
  'Not checked: what a recipe changed on the copy, and how the receiver plays the file.',
] as const;

/** What came of reading a file back and holding it against the song. */
export function proofText({ proof, sameAsOriginal }: Slip): string {
  if (!proof.holds) return `THE FILE DOES NOT READ BACK AS MEANT: ${proof.differences.join('; ')}`;
  const read = `${count(proof.tracks, 'track')}, ${count(proof.events, 'event')}`;
  return sameAsOriginal
    ? `The file was read back: ${read}, byte for byte as received.`
    : `The file was read back: ${read}, each the one meant, at its tick and in its order.`;
}
