import { lineEnd } from '../harmony/read-chord.ts';
import { chordIn } from '../timing/chord-texts.ts';
import { boundText } from '../units/bounds.ts';
import { laneWords } from '../edit/lane-settings.ts';
import { parseLaneKey } from '../song/lanes.ts';
import { trackLabel, type Song } from '../song/song.ts';
import { gradualRuns } from '../timing/gradual-runs.ts';
import { effective } from '../timing/tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';

/** What is parked stays here: said track by track. */
export const parkedNotes = (song: Song): string[] =>
  song.tracks.flatMap((t) =>
    t.parked?.length
      ? [
          `Parked in ${trackLabel(song, t)} and not sent: ${[...new Set(t.parked.map((key) => laneWords(parseLaneKey(key).what)))].join(', ')}.`,
        ]
      : [],
  );

/** More tempos than this are not looked through for gradual changes. */
const mostLooked = 50_000;

/** Gradual tempo changes are steps in every file: how many, and how near. */
export function gradualNotes(song: Song): string[] {
  const { division } = song;
  if (division.kind === 'smpte') return [];
  const tempos = effective(timingOf(song).tempos);
  const runs = tempos.length > mostLooked ? [] : gradualRuns(tempos, division.ticksPerQuarter);
  if (runs.length === 0) return [];
  const steps = runs.reduce((n, r) => n + r.last - r.first, 0);
  const worst = runs.reduce((most, r) => Math.max(most, r.deviation), 0);
  return [
    `${runs.length === 1 ? 'A gradual tempo change is' : `${runs.length} gradual tempo changes are`} written as ${steps.toLocaleString('en')} steps, at most ${boundText(worst * 1000)} ms off: the format knows no other.`,
  ];
}

/** Marks that do not travel, by name. */
export function keptMarks(song: Song): string[] {
  const { markers, cuePoints, texts, chords, sections } = timingOf(song);
  const kept = [...markers, ...cuePoints, ...texts].filter((m) => !m.travels).map((m) => m.text);
  const spans = sections.filter((s) => !s.travels).map((s) => s.name);
  const named = [...kept, ...spans];
  const isChord = ({ text }: { readonly text: string }): boolean => chordIn(text) !== lineEnd;
  const chordsKept = chords.filter((c) => !c.travels && isChord(c)).length;
  const line =
    chordsKept === 0
      ? []
      : [
          `The chord line (${chordsKept.toLocaleString('en')} chord${chordsKept === 1 ? '' : 's'}) is kept here and not sent.`,
        ];
  return named.length === 0
    ? line
    : [
        ...line,
        `Kept here and not sent: ${named
          .slice(0, 20)
          .map((n) => `“${n}”`)
          .join(', ')}${named.length > 20 ? ` and ${named.length - 20} more` : ''}.`,
      ];
}
